import { type Bounds, burnOrder, isOutline, type JobDocument, type Ring, ringContains } from '@neotaxis/core'
import type { Drawing } from '../../workers/shared.ts'

const near = (ring: Ring, x: number, y: number, reach: number): boolean => {
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

const inBox = (b: Bounds, x: number, y: number, by = 0): boolean =>
  x >= b.x0 - by && x <= b.x1 + by && y >= b.y0 - by && y <= b.y1 + by

/**
 * The operation under a point: a cut when its line is close, else the last picture whose box holds the point, else a
 * cut whose inside does. @param reach mm
 */
export function operationAt(job: JobDocument, drawing: Drawing, x: number, y: number, reach: number): string | undefined {
  const order = [...burnOrder(job)].reverse()
  const rings = (id: string): readonly Ring[] => drawing.outlines[job.operations[id].of[0]] ?? []
  const box = (id: string): Bounds | undefined => drawing.bounds[job.operations[id].of[0]]
  const cuts = order.filter((id) => isOutline(job.nodes[job.operations[id].of[0]]) && box(id) && inBox(box(id)!, x, y, reach))
  for (const id of cuts) if (rings(id).some((ring) => near(ring, x, y, reach))) return id
  for (const id of order) if (!isOutline(job.nodes[job.operations[id].of[0]]) && box(id) && inBox(box(id)!, x, y)) return id
  return cuts.find((id) => rings(id).some((ring) => ringContains(ring, x, y)))
}
