import { nest } from '../geometry/nesting.ts'
import type { Ring } from '../geometry/ring.ts'
import { shortTour } from '../geometry/tour.ts'

/** One ring in cutting order, and the vertex at which its cut starts and ends. */
export interface CutStep {
  readonly ring: number
  readonly start: number
}

interface OrderOptions {
  readonly progress?: ((done: number) => void) | undefined
  /** The corner at which each ring begins, where that is not free. */
  readonly starts?: readonly (number | undefined)[]
}

/**
 * The order in which closed cuts run: what lies inside a part before the part's own edge, and within that the
 * shortest travel found, with the starting vertex of each ring free.
 * @param rings mm @param from where the head is, mm
 */
export function orderCuts(
  rings: readonly Ring[],
  from: readonly [number, number],
  { progress, starts = [] }: OrderOptions = {},
): CutStep[] {
  // What begins at a corner that is given can be come to there alone.
  const open = rings.map((ring, i) => {
    const start = starts[i]
    return start === undefined ? ring : ring.subarray(2 * start, 2 * start + 2)
  })
  const { parent } = nest(rings)
  const children: number[][] = rings.map(() => [])
  const roots: number[] = []
  parent.forEach((p, i) => {
    ;(p < 0 ? roots : children[p]).push(i)
  })
  const steps: CutStep[] = []
  let at = from
  const visit = (siblings: readonly number[], report?: (done: number) => void): void => {
    const tour = orderSiblings(open, siblings, at, report)
    for (const { ring, start } of tour) {
      let begin = start
      if (children[ring].length > 0) {
        visit(children[ring])
        begin = nearestVertex(open[ring], at[0], at[1])
      }
      begin = starts[ring] ?? begin
      steps.push({ ring, start: begin })
      at = [rings[ring][2 * begin], rings[ring][2 * begin + 1]]
    }
  }
  visit(roots, progress)
  return steps
}

function nearestVertex(ring: Ring, x: number, y: number): number {
  let best = 0
  let least = Infinity
  for (let i = 0; i < ring.length; i += 2) {
    const d = (ring[i] - x) ** 2 + (ring[i + 1] - y) ** 2
    if (d < least) {
      least = d
      best = i / 2
    }
  }
  return best
}

/** Rounds of choosing an order for the starting points, then starting points for the order. */
const ROUNDS = 3

function orderSiblings(
  rings: readonly Ring[],
  siblings: readonly number[],
  from: readonly [number, number],
  progress?: (done: number) => void,
): CutStep[] {
  const n = siblings.length
  if (n === 1) return [{ ring: siblings[0], start: nearestVertex(rings[siblings[0]], from[0], from[1]) }]
  const xs = new Float64Array(n + 1)
  const ys = new Float64Array(n + 1)
  xs[0] = from[0]
  ys[0] = from[1]
  const starts = new Int32Array(n)
  for (let i = 0; i < n; i++) {
    const ring = rings[siblings[i]]
    let sx = 0
    let sy = 0
    for (let k = 0; k < ring.length; k += 2) {
      sx += ring[k]
      sy += ring[k + 1]
    }
    xs[i + 1] = (2 * sx) / ring.length
    ys[i + 1] = (2 * sy) / ring.length
  }
  let order: Int32Array = new Int32Array(0)
  let bestLength = Infinity
  let best: CutStep[] = []
  for (let round = 0; round < ROUNDS; round++) {
    order = shortTour(xs, ys, progress && ((done) => progress((round + done) / ROUNDS)))
    const length = chooseStarts(rings, siblings, order, starts, xs, ys, round === 0)
    if (length >= bestLength - 1e-6) break
    bestLength = length
    best = Array.from(order.subarray(1), (i) => ({ ring: siblings[i - 1], start: starts[i - 1] }))
  }
  return best
}

/** For a fixed order, moves each start to the vertex with the least way from the one before and to the one after, until nothing changes. */
function chooseStarts(
  rings: readonly Ring[],
  siblings: readonly number[],
  order: Int32Array,
  starts: Int32Array,
  xs: Float64Array,
  ys: Float64Array,
  fresh: boolean,
): number {
  const n = siblings.length
  for (let sweep = 0; sweep < 12; sweep++) {
    let changed = false
    for (let k = 1; k <= n; k++) {
      const i = order[k]
      const before = order[k - 1]
      const after = k < n ? order[k + 1] : -1
      const ring = rings[siblings[i - 1]]
      let least = Infinity
      let at = 0
      for (let v = 0; v < ring.length; v += 2) {
        let d = Math.hypot(ring[v] - xs[before], ring[v + 1] - ys[before])
        if (d >= least) continue
        if (after >= 0) d += Math.hypot(ring[v] - xs[after], ring[v + 1] - ys[after])
        if (d < least) {
          least = d
          at = v / 2
        }
      }
      if (at !== starts[i - 1] || (fresh && sweep === 0)) {
        starts[i - 1] = at
        xs[i] = ring[2 * at]
        ys[i] = ring[2 * at + 1]
        changed = true
      }
    }
    if (!changed) break
  }
  let length = 0
  for (let k = 1; k <= n; k++) length += Math.hypot(xs[order[k]] - xs[order[k - 1]], ys[order[k]] - ys[order[k - 1]])
  return length
}
