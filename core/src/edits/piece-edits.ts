import { type JobDocument, mainPieceId, type Placement, placesOf, sourceOf, withPiece } from '../job/document/document.ts'
import { faceSize, type Workpiece } from '../job/document/workpiece.ts'
import { micro } from '../numeric/micro.ts'
import { poseBounds } from '../space/pose.ts'
import { groupedWith } from './change.ts'
import { freeName } from './free-name.ts'
import { withoutArtwork } from './take-away.ts'

/** Between workpieces that are laid beside each other, mm. */
const BESIDE_MM = 10

/** Where a workpiece has room on the bed: right of all others, else before them. */
function besideAll(job: JobDocument, piece: Pick<Workpiece, 'outline' | 'pose'>): Workpiece['pose'] {
  const boxes = Object.values(job.workpieces).map((each) => poseBounds(each.pose, faceSize(each)))
  const own = poseBounds({ ...piece.pose, xMm: 0, yMm: 0 }, faceSize(piece))
  const travel = job.machine.axes.x.travelMm
  // Row by row, as one reads: the first place that none of the others takes.
  const ys = [...new Set([Math.min(...boxes.map(({ y0 }) => y0)), ...boxes.map(({ y1 }) => y1 + BESIDE_MM)])].sort(
    (a, b) => a - b,
  )
  for (const y of ys)
    for (const x of [...new Set([Math.min(...boxes.map(({ x0 }) => x0)), ...boxes.map(({ x1 }) => x1 + BESIDE_MM)])].sort(
      (a, b) => a - b,
    )) {
      const [x1, y1] = [x + own.x1 - own.x0, y + own.y1 - own.y0]
      if (x1 > travel || y1 > job.machine.axes.y.travelMm) continue
      const near = boxes.some(
        (box) =>
          x < box.x1 + BESIDE_MM / 2 && x1 > box.x0 - BESIDE_MM / 2 && y < box.y1 + BESIDE_MM / 2 && y1 > box.y0 - BESIDE_MM / 2,
      )
      if (!near) return { ...piece.pose, xMm: micro(x - own.x0), yMm: micro(y - own.y0) }
    }
  const right = Math.max(...boxes.map(({ x1 }) => x1)) + BESIDE_MM
  return { ...piece.pose, xMm: micro(right - own.x0), yMm: micro(Math.min(...boxes.map(({ y0 }) => y0)) - own.y0) }
}

/** The job with a workpiece more, where there is room on the bed. @param id new @returns the job, looked at as before */
export function withPieceMore(job: JobDocument, id: string, piece: Workpiece): JobDocument {
  const name = nextName(piece.name, new Set(Object.values(job.workpieces).map((each) => each.name)))
  return { ...job, workpieces: { ...job.workpieces, [id]: { ...piece, name, pose: besideAll(job, piece) } } }
}

/** “pebble 2” after “pebble” and “pebble 1”. */
function nextName(like: string, taken: ReadonlySet<string>): string {
  if (!taken.has(like)) return like
  const base = like.replace(/\s*\d+$/, '')
  let number = 2
  while (taken.has(`${base} ${number}`)) number++
  return `${base} ${number}`
}

/** The job without a workpiece and what lies only there; the last one stays. */
export function withoutPiece(job: JobDocument, id: string): JobDocument {
  if (!job.workpieces[id] || Object.keys(job.workpieces).length < 2) return job
  // Without its front there is no second side.
  const side = Object.keys(job.workpieces).find((each) => job.workpieces[each].back?.of === id)
  if (side !== undefined) return withoutPiece(withoutPiece(job, side), id)
  const places = new Set(Object.keys(job.placements).filter((place) => job.placements[place].on === id))
  const alone = [...new Set([...places].map((place) => job.placements[place].of))].filter((root) =>
    placesOf(job, root).every((place) => places.has(place)),
  )
  const bare = withoutArtwork(job, alone)
  const placements = Object.fromEntries(Object.entries(bare.placements).filter(([place]) => !places.has(place)))
  const operations = Object.fromEntries(
    Object.entries(bare.operations).map(([key, operation]) => {
      const at = operation.at?.filter((place) => !places.has(place))
      if (at === undefined || at.length === operation.at?.length) return [key, operation]
      const { at: _, ...everywhere } = operation
      return [key, at.length > 0 ? { ...operation, at } : everywhere]
    }),
  ) as JobDocument['operations']
  const { [id]: __, ...workpieces } = bare.workpieces
  const used = new Set(Object.values(workpieces).map(({ material }) => material))
  const materials = Object.fromEntries(Object.entries(bare.materials).filter(([key]) => used.has(key)))
  const { lookedAt, ...rest } = bare
  return {
    ...rest,
    ...(lookedAt !== undefined && lookedAt !== id && { lookedAt }),
    workpieces,
    placements,
    operations,
    materials,
  }
}

/**
 * Some artwork, with what is grouped with it, once on each of several workpieces: in the middle of each as it lies in the middle of its
 * own; a text with a list shows its next entry on each. Where it lies already it stays.
 * @param pieces in the order in which entries are given out, default all by their names
 */
export function onEach(job: JobDocument, node: string, pieces: readonly string[] = inOrder(job)): JobDocument {
  const roots = [sourceOf(job, node), ...groupedWith(job, sourceOf(job, node))]
  const from = mainPieceId(job)
  const own = faceSize(job.workpieces[from])
  let placements: Record<string, Placement> = { ...job.placements }
  for (const root of roots) {
    const [first] = placesOf(job, root).sort(
      (a, b) => Number(job.placements[b].on === from) - Number(job.placements[a].on === from),
    )
    const like = job.placements[first]
    const drawn = job.nodes[root].kind === 'drawing' ? job.nodes[root].drawn : undefined
    const entries = drawn?.kind === 'text' ? drawn.series?.entries.length : undefined
    const there = new Map(placesOf(job, root).map((place) => [job.placements[place].on, place]))
    pieces.forEach((id, i) => {
      const place = there.get(id)
      const entry = entries === undefined ? {} : { entry: i % entries }
      if (place !== undefined) {
        placements = { ...placements, [place]: { ...placements[place], ...entry, ...roomOf(like, entries !== undefined, own) } }
        return
      }
      const size = faceSize(job.workpieces[id])
      const [dx, dy] = [(size.widthMm - own.widthMm) / 2, (size.heightMm - own.heightMm) / 2]
      const room = roomOf(like, entries !== undefined, own)
      const moved = { ...like, ...room }
      placements[freeName(placements, `${root.slice(0, 18)}-on-${id.slice(0, 12)}`)] = {
        ...moved,
        on: id,
        xMm: micro(moved.xMm + dx),
        yMm: micro(moved.yMm + dy),
        ...entry,
      }
    })
  }
  return { ...job, placements }
}

/** Of a list that lay in rows and columns, one entry has the room that the middle of its workpiece has. */
function roomOf(
  like: Placement,
  isList: boolean,
  own: { readonly widthMm: number; readonly heightMm: number },
): Partial<Placement> {
  if (!isList || like.entry !== undefined) return {}
  const widthMm = micro(Math.min(like.widthMm, own.widthMm * 0.7))
  const heightMm = micro(Math.min(like.heightMm, own.heightMm * 0.5))
  return { widthMm, heightMm, xMm: micro((own.widthMm - widthMm) / 2), yMm: micro((own.heightMm - heightMm) / 2) }
}

/** Workpieces by their names, as people count: 2 before 10. */
export const inOrder = ({ workpieces }: Pick<JobDocument, 'workpieces'>): string[] =>
  Object.keys(workpieces).sort(
    (a, b) =>
      numberIn(workpieces[a].name) - numberIn(workpieces[b].name) ||
      (workpieces[a].name < workpieces[b].name ? -1 : workpieces[a].name > workpieces[b].name ? 1 : a < b ? -1 : 1),
  )

const numberIn = (name: string): number => Number(/(\d+)\D*$/.exec(name)?.[1] ?? 1)

/** A workpiece called otherwise. */
export const namedPiece = (job: JobDocument, name: string, id = mainPieceId(job)): JobDocument => withPiece(job, { name }, id)
