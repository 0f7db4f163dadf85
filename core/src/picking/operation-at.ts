import { type Bounds, boundsHold } from '../geometry/bounds.ts'
import { type Ring, ringContains } from '../geometry/ring.ts'
import { burnOrder, type JobDocument, placeIdOf, placesOf, sourceOf } from '../job/document/document.ts'
import { isOutline } from '../job/document/nodes.ts'
import { composed, inverseOf, mapped } from '../space/affine.ts'
import { poseMap } from '../space/pose.ts'

/** What is drawn of a job, by node, mm. */
export interface DrawnShapes {
  readonly outlines: Readonly<Record<string, readonly Ring[]>>
  readonly bounds: Readonly<Record<string, Bounds>>
}

/** Whether a place is within reach of a closed ring's line, mm. */
export function besideRing(ring: Ring, x: number, y: number, reach: number): boolean {
  const n = ring.length
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const dx = ring[i] - ring[j]
    const dy = ring[i + 1] - ring[j + 1]
    const l2 = dx * dx + dy * dy
    const t = l2 > 0 ? Math.min(1, Math.max(0, ((x - ring[j]) * dx + (y - ring[j + 1]) * dy) / l2)) : 0
    if (Math.hypot(x - ring[j] - t * dx, y - ring[j + 1] - t * dy) <= reach) return true
  }
  return false
}

/** Whether a place lies within a filled shape, by even-odd. */
const isWithin = (rings: readonly Ring[], x: number, y: number): boolean =>
  rings.reduce((inside, ring) => inside !== ringContains(ring, x, y), false)

/** What is burned at a place: the operation, and which of its pieces. */
export interface BurnedThere {
  readonly id: string
  readonly node: string
}

/** The operation under a place of the face. @see burnedAt */
export const operationAt = (job: JobDocument, drawn: DrawnShapes, x: number, y: number, reach: number): string | undefined =>
  burnedAt(job, drawn, x, y, reach)?.id

type Spot = readonly [number, number]

/**
 * A place of the face as each of a family's copies has it, told by where the first one lies: artwork that lies somewhere several times
 * is found at each of its places.
 */
function spotsOf(job: JobDocument, root: string, x: number, y: number): Spot[] {
  const first = placeIdOf(job, root)
  const like = job.placements[first]
  return placesOf(job, root).flatMap((id): Spot[] => {
    if (id === first) return [[x, y]]
    const copy = job.placements[id]
    if (copy.on !== like.on) return []
    return [mapped(composed(inverseOf(poseMap(copy, copy)), poseMap(like, like)), x, y)]
  })
}

/**
 * The operation under a place of the face, and the piece: one whose line is close, else the last picture whose box holds the place or area that
 * fills it, else one whose inside does. Of an operation with several pieces each counts, and each of its copies. @param x,y,reach mm
 */
export function burnedAt(job: JobDocument, drawn: DrawnShapes, x: number, y: number, reach: number): BurnedThere | undefined {
  const pieces = [...burnOrder(job)].reverse().flatMap((id) => job.operations[id].of.map((node) => ({ id, node })))
  const known = new Map<string, Spot[]>()
  const spots = (node: string): Spot[] => {
    const root = sourceOf(job, node)
    const found = known.get(root) ?? spotsOf(job, root, x, y)
    known.set(root, found)
    return found
  }
  const holding = (node: string, more: number): Spot[] => {
    const box = drawn.bounds[node]
    return box === undefined ? [] : spots(node).filter(([sx, sy]) => boundsHold(box, sx, sy, more))
  }
  const rings = (node: string): readonly Ring[] => drawn.outlines[node] ?? []
  const lines = pieces.flatMap((piece) => {
    const near = isOutline(job.nodes[piece.node]) ? holding(piece.node, reach) : []
    return near.length > 0 ? [{ piece, near }] : []
  })
  const close = lines.find(({ piece, near }) =>
    rings(piece.node).some((ring) => near.some(([sx, sy]) => besideRing(ring, sx, sy, reach))),
  )
  if (close) return close.piece
  for (const piece of pieces) {
    const { id, node } = piece
    const inside = holding(node, 0)
    if (inside.length === 0) continue
    if (!isOutline(job.nodes[node])) return piece
    if ('intervalMm' in job.operations[id] && inside.some(([sx, sy]) => isWithin(rings(node), sx, sy))) return piece
  }
  return lines.find(({ piece, near }) => rings(piece.node).some((ring) => near.some(([sx, sy]) => ringContains(ring, sx, sy))))
    ?.piece
}
