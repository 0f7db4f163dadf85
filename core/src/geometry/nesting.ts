import type { Bounds } from './bounds.ts'
import { type Ring, ringArea, ringBounds, ringContains } from './ring.ts'

/** Where a ring stands among others: the smallest ring around it, and how many are around it. */
export interface Nesting {
  /** Index of the ring directly around, or −1. */
  readonly parent: Int32Array
  /** 0 for outermost rings. */
  readonly depth: Int32Array
}

/**
 * Which ring lies inside which. Rings may touch but are expected not to cross.
 * Swept over x, larger rings first, so that only boxes which overlap are compared.
 */
export function nest(rings: readonly Ring[]): Nesting {
  const n = rings.length
  const parent = new Int32Array(n).fill(-1)
  const depth = new Int32Array(n)
  const areas = rings.map((ring) => Math.abs(ringArea(ring)))
  const boxes: Bounds[] = rings.map(ringBounds)
  const byX = Array.from({ length: n }, (_, i) => i).sort((a, b) => boxes[a].x0 - boxes[b].x0 || areas[b] - areas[a] || a - b)
  let open: number[] = []
  for (const i of byX) {
    const b = boxes[i]
    open = open.filter((j) => boxes[j].x1 >= b.x0)
    let best = -1
    for (const j of open) {
      if (!encloses(boxes[j], b) || areas[j] <= areas[i] || (best >= 0 && areas[best] <= areas[j])) continue
      if (inside(rings[i], rings[j])) best = j
    }
    parent[i] = best
    open.push(i)
  }
  for (let i = 0; i < n; i++) for (let p = parent[i]; p >= 0; p = parent[p]) depth[i]++
  return { parent, depth }
}

const encloses = (outer: Bounds, inner: Bounds): boolean =>
  outer.x0 <= inner.x0 && outer.y0 <= inner.y0 && outer.x1 >= inner.x1 && outer.y1 >= inner.y1

/** Most of three points of `inner` decide, so that one touching point does not. */
function inside(inner: Ring, outer: Ring): boolean {
  const n = inner.length / 2
  let yes = 0
  for (let k = 0; k < 3; k++) {
    const i = 2 * Math.floor((k * n) / 3)
    const j = (i + 2) % inner.length
    if (ringContains(outer, (inner[i] + inner[j]) / 2, (inner[i + 1] + inner[j + 1]) / 2)) yes++
  }
  return yes >= 2
}
