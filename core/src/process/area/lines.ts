import type { Ring } from '../../geometry/ring.ts'

/**
 * Straight lines that fill an area, one for each height: on line `k` at `v[k]` what lies between `u[i]` and `u[i + 1]` is burned,
 * for even `i` from `first[k]` to `first[k + 1]`, ascending.
 */
export interface Lines {
  readonly v: Float64Array
  readonly first: Int32Array
  readonly u: Float64Array
}

/**
 * The lines of an area at a pitch: whatever lies deeper inside it than half a pitch is within half a pitch of a line. Each edge
 * is met once on every height that it spans, so work grows with edges, lines and crossings.
 * @param rings by even-odd @param v0 heights are `v0 + (k + ½)·pitch`
 */
export function linesOf(rings: readonly Ring[], pitch: number, v0: number): Lines {
  const rowOf = (v: number): number => Math.ceil((v - v0) / pitch - 0.5)
  let least = Infinity
  let most = -Infinity
  for (const ring of rings)
    for (let i = 1; i < ring.length; i += 2) {
      if (ring[i] < least) least = ring[i]
      if (ring[i] > most) most = ring[i]
    }
  const from = rowOf(least)
  const count = Math.max(0, rowOf(most) - from) || 0
  const crossings = new Int32Array(count + 1)
  eachEdge(rings, (_ax, ay, _bx, by) => {
    const low = Math.min(ay, by)
    const high = Math.max(ay, by)
    for (let k = rowOf(low) - from, end = rowOf(high) - from; k < end; k++) crossings[k]++
  })
  const first = new Int32Array(count + 1)
  for (let k = 0; k < count; k++) first[k + 1] = first[k] + crossings[k]
  const u = new Float64Array(first[count])
  const next = first.slice()
  eachEdge(rings, (ax, ay, bx, by) => {
    const [lx, ly, hx, hy] = ay < by ? [ax, ay, bx, by] : [bx, by, ax, ay]
    const slope = (hx - lx) / (hy - ly)
    for (let k = rowOf(ly) - from, end = rowOf(hy) - from; k < end; k++)
      u[next[k]++] = lx + (v0 + (from + k + 0.5) * pitch - ly) * slope
  })
  const v = new Float64Array(count)
  for (let k = 0; k < count; k++) {
    v[k] = v0 + (from + k + 0.5) * pitch
    u.subarray(first[k], first[k + 1]).sort()
  }
  return { v, first, u }
}

function eachEdge(rings: readonly Ring[], visit: (ax: number, ay: number, bx: number, by: number) => void): void {
  for (const ring of rings)
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
      if (ring[j + 1] !== ring[i + 1]) visit(ring[j], ring[j + 1], ring[i], ring[i + 1])
}

/**
 * The same with one more line in the middle of an area that lies between two heights, so that nothing thin is left out, and without
 * those that burn nothing. @param box around the area
 */
export function linesOfPiece(rings: readonly Ring[], pitch: number, box: { readonly y0: number; readonly y1: number }): Lines {
  const count = Math.max(1, Math.round((box.y1 - box.y0) / pitch))
  return linesOf(rings, pitch, (box.y0 + box.y1 - count * pitch) / 2)
}
