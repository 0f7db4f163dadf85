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

/**
 * The operation under a place of the face: one whose line is close, else the last picture whose box holds the place, else one
 * whose inside does. @param x,y,reach mm
 */
export function operationAt(job: JobDocument, drawn: DrawnShapes, x: number, y: number, reach: number): string | undefined {
  const order = [...burnOrder(job)].reverse()
  const of = (id: string): string => job.operations[id].of[0]
  const holds = (id: string, more: number): boolean => {
    const box = drawn.bounds[of(id)]
    return box !== undefined && boundsHold(box, x, y, more)
  }
  const rings = (id: string): readonly Ring[] => drawn.outlines[of(id)] ?? []
  const lines = order.filter((id) => isOutline(job.nodes[of(id)]) && holds(id, reach))
  for (const id of lines) if (rings(id).some((ring) => besideRing(ring, x, y, reach))) return id
  for (const id of order) if (!isOutline(job.nodes[of(id)]) && holds(id, 0)) return id
  return lines.find((id) => rings(id).some((ring) => ringContains(ring, x, y)))
}
