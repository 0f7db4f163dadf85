import { type JobDocument, placeOf, sourceOf } from '../job/document/document.ts'
import { entriesOf, firstOfRepeat, type Repetition, relaid, repeatedRoots } from '../job/document/repeats.ts'
import { micro } from '../numeric/micro.ts'
import { poseBounds } from '../space/pose.ts'

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

/** How some artwork would be repeated to begin with: once for each entry of the list in it, or in two rows of three, close together. */
export function firstRepetition(job: JobDocument, node: string): Repetition {
  const roots = repeatedRoots(job, sourceOf(job, node))
  const entries = roots.flatMap((root) => entriesOf(job, root) ?? [])
  // A list lies in rows itself until each of its entries has a place: what is grouped with it says how large one is.
  const solid = roots.filter((root) => entriesOf(job, root) === undefined)
  const boxes = (solid.length > 0 ? solid : roots).map((root) => {
    const place = placeOf(job, root)
    return poseBounds(place, place)
  })
  const wide = Math.max(...boxes.map(({ x1 }) => x1)) - Math.min(...boxes.map(({ x0 }) => x0))
  const high = Math.max(...boxes.map(({ y1 }) => y1)) - Math.min(...boxes.map(({ y0 }) => y0))
  const count = entries.length > 0 ? Math.max(...entries) : 6
  const listed = roots.map((root) => job.nodes[root]).find((each) => each.kind === 'drawing' && each.drawn?.kind === 'text')
  const series = listed?.kind === 'drawing' && listed.drawn?.kind === 'text' ? listed.drawn.series : undefined
  if (solid.length === 0 && series)
    return { count, columns: series.columns, pitchXMm: series.pitchXMm, pitchYMm: series.pitchYMm }
  return { count, columns: Math.min(3, count), pitchXMm: micro(wide + GAP_MM), pitchYMm: micro(high + GAP_MM) }
}

/** Some artwork repeated with all that is grouped with it, or repeated otherwise. */
export function repeated(job: JobDocument, node: string, repetition: Repetition): JobDocument {
  const known = repetitionOf(job, node)
  const root = known?.root ?? sourceOf(job, node)
  const roomy = known ? job : withRooms(job, root)
  return relaid({ ...roomy, repeats: { ...roomy.repeats, [root]: repetition } })
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
