import { type JobDocument, placeOf, sourceOf } from '../job/document/document.ts'
import { RANGES } from '../job/document/ranges.ts'
import {
  type AroundCircle,
  entriesOf,
  firstOfRepeat,
  type InRows,
  isAround,
  type Repetition,
  relaid,
  repeatedAround,
  repeatedRoots,
} from '../job/document/repeats.ts'
import { micro } from '../numeric/micro.ts'
import { cosSin } from '../space/affine.ts'
import { poseBounds, readDeg } from '../space/pose.ts'

/** Between things that are repeated, mm. */
const GAP_MM = 4

/** The repetition that some artwork belongs to, and the root that it is kept under; undefined where there is none. */
export function repetitionOf(
  job: JobDocument,
  node: string,
): { readonly root: string; readonly repetition: Repetition } | undefined {
  const own = sourceOf(job, node)
  const root = Object.keys(job.repeats ?? {}).find((each) => job.nodes[each] && repeatedRoots(job, each).includes(own))
  return root === undefined ? undefined : { root, repetition: job.repeats![root] }
}

/** How often, and how large one is with all that is grouped with it. */
function oneOf(job: JobDocument, node: string): { readonly count: number; readonly wide: number; readonly high: number } {
  const roots = repeatedRoots(job, sourceOf(job, node))
  const entries = roots.flatMap((root) => entriesOf(job, root) ?? [])
  // A list lies in rows itself until each of its entries has a place: what is grouped with it says how large one is.
  const solid = roots.filter((root) => entriesOf(job, root) === undefined)
  const boxes = (solid.length > 0 ? solid : roots).map((root) => {
    const place = placeOf(job, root)
    return poseBounds(place, place)
  })
  return {
    count: entries.length > 0 ? Math.max(...entries) : 6,
    wide: Math.max(...boxes.map(({ x1 }) => x1)) - Math.min(...boxes.map(({ x0 }) => x0)),
    high: Math.max(...boxes.map(({ y1 }) => y1)) - Math.min(...boxes.map(({ y0 }) => y0)),
  }
}

/** How some artwork would be repeated to begin with: once for each entry of the list in it, or in two rows of three, close together. */
export function firstRepetition(job: JobDocument, node: string): InRows {
  const { count, wide, high } = oneOf(job, node)
  const roots = repeatedRoots(job, sourceOf(job, node))
  const listed = roots.map((root) => job.nodes[root]).find((each) => each.kind === 'drawing' && each.drawn?.kind === 'text')
  const series = listed?.kind === 'drawing' && listed.drawn?.kind === 'text' ? listed.drawn.series : undefined
  if (roots.every((root) => entriesOf(job, root) !== undefined) && series)
    return { count, columns: series.columns, pitchXMm: series.pitchXMm, pitchYMm: series.pitchYMm }
  return { count, columns: Math.min(3, count), pitchXMm: micro(wide + GAP_MM), pitchYMm: micro(high + GAP_MM) }
}

/**
 * How some artwork would be repeated around a circle to begin with: as often as now, each turned as it goes around, the first one at the
 * top where it lies, on the smallest circle where none touches its neighbour.
 */
export function firstAround(job: JobDocument, node: string): AroundCircle {
  const { count, wide, high } = oneOf(job, node)
  const often = repetitionOf(job, node)?.repetition.count ?? count
  // Boxes that stand radially are nearest at their inner corners: those must be a gap apart.
  const half = often > 2 ? (wide + GAP_MM) / 2 / Math.tan(Math.PI / often) : GAP_MM / 2
  const diameterMm = Math.ceil(2 * (half + high / 2))
  return { count: often, diameterMm, atDeg: -90, overDeg: 360, turned: true }
}

/** Some artwork repeated with all that is grouped with it, or repeated otherwise. */
export function repeated(job: JobDocument, node: string, repetition: Repetition): JobDocument {
  const known = repetitionOf(job, node)
  const root = known?.root ?? sourceOf(job, node)
  const roomy = known ? job : withRooms(job, root)
  return relaid({ ...roomy, repeats: { ...roomy.repeats, [root]: repetition } })
}

/** What goes around a circle goes around another one: its middle is put somewhere, mm; the first one stays where it lies. */
export function circledAbout(job: JobDocument, node: string, x: number, y: number): JobDocument {
  const known = repetitionOf(job, node)
  const from = known && repeatedAround(job, known.root)
  if (!known || !from || !isAround(known.repetition)) return job
  const { diameterMm, atDeg } = known.repetition
  const [cos, sin] = cosSin(atDeg)
  // From the new middle to where the first one lies.
  const [dx, dy] = [from[0] + (diameterMm / 2) * cos - x, from[1] + (diameterMm / 2) * sin - y]
  const radius = Math.min(RANGES.circleMm.max / 2, Math.max(RANGES.circleMm.min / 2, Math.hypot(dx, dy)))
  const circle = { diameterMm: micro(2 * radius), atDeg: readDeg((Math.atan2(dy, dx) * 180) / Math.PI) }
  return repeated(job, node, { ...known.repetition, ...circle })
}

/** Each entry of a list has the room that lies in the middle of what is grouped with it. */
function withRooms(job: JobDocument, root: string): JobDocument {
  const roots = repeatedRoots(job, root)
  const solid = roots.filter((each) => entriesOf(job, each) === undefined).map((each) => placeOf(job, each))
  const placements = { ...job.placements }
  for (const each of roots) {
    const node = job.nodes[each]
    const first = firstOfRepeat(job, each)
    if (entriesOf(job, each) === undefined || first === undefined || node.kind !== 'drawing') continue
    const { drawn } = node
    if (drawn?.kind !== 'text' || !drawn.series || placements[first].entry !== undefined) continue
    const like = placements[first]
    const share = like.widthMm / node.widthMm
    const around = solid[0]
    const lines = drawn.text.split('\n').length
    const widthMm = micro(around ? around.widthMm * 0.9 : drawn.series.pitchXMm * share * 0.95)
    const heightMm = micro(Math.min(around?.heightMm ?? Infinity, drawn.capMm * (1.4 + (lines - 1) * drawn.lineShare) * share))
    placements[first] = {
      ...like,
      widthMm,
      heightMm,
      xMm: micro(around ? around.xMm + (around.widthMm - widthMm) / 2 : like.xMm),
      yMm: micro(around ? around.yMm + (around.heightMm - heightMm) / 2 : like.yMm),
    }
  }
  return { ...job, placements }
}

/** The artwork once again, where its first one lies. */
export function notRepeated(job: JobDocument, node: string): JobDocument {
  const known = repetitionOf(job, node)
  if (!known) return job
  const once = relaid({ ...job, repeats: { ...job.repeats, [known.root]: { ...known.repetition, count: 1 } } })
  const { [known.root]: _, ...others } = once.repeats ?? {}
  const { repeats: __, ...bare } = once
  return Object.keys(others).length > 0 ? { ...bare, repeats: others } : bare
}
