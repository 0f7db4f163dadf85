import { type Bounds, boundsHold } from '../geometry/bounds.ts'
import { type Ring, ringContains } from '../geometry/ring.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { isOutline } from '../job/document/nodes.ts'

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

/**
 * The operation under a place of the face, and the piece: one whose line is close, else the last picture whose box holds the place or area that
 * fills it, else one whose inside does. Of an operation with several pieces each counts. @param x,y,reach mm
 */
export function burnedAt(job: JobDocument, drawn: DrawnShapes, x: number, y: number, reach: number): BurnedThere | undefined {
  const pieces = [...burnOrder(job)].reverse().flatMap((id) => job.operations[id].of.map((node) => ({ id, node })))
  const holds = (node: string, more: number): boolean => {
    const box = drawn.bounds[node]
    return box !== undefined && boundsHold(box, x, y, more)
  }
  const rings = (node: string): readonly Ring[] => drawn.outlines[node] ?? []
  const lines = pieces.filter(({ node }) => isOutline(job.nodes[node]) && holds(node, reach))
  const close = lines.find(({ node }) => rings(node).some((ring) => besideRing(ring, x, y, reach)))
  if (close) return close
  for (const piece of pieces) {
    const { id, node } = piece
    if (!holds(node, 0)) continue
    if (!isOutline(job.nodes[node])) return piece
    if ('intervalMm' in job.operations[id] && isWithin(rings(node), x, y)) return piece
  }
  return lines.find(({ node }) => rings(node).some((ring) => ringContains(ring, x, y)))
}
