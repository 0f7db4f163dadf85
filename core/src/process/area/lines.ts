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
  let least = Infinity
  let most = -Infinity
  for (const ring of rings)
    for (let i = 1; i < ring.length; i += 2) {
      if (ring[i] < least) least = ring[i]
      if (ring[i] > most) most = ring[i]
    }
  const perPitch = 1 / pitch
  const from = Math.ceil((least - v0) * perPitch - 0.5)
  const count = Math.max(0, Math.ceil((most - v0) * perPitch - 0.5) - from) || 0
  /** Heights are counted from the first that is met. */
  const start = v0 + (from + 0.5) * pitch
  const first = new Int32Array(count + 1)
  for (const ring of rings) {
    const n = ring.length
    let before = Math.ceil((ring[n - 1] - start) * perPitch)
    for (let i = 1; i < n; i += 2) {
      const at = Math.ceil((ring[i] - start) * perPitch)
      // It meets every height from the lower end up to the higher one.
      for (let k = at < before ? at : before, end = at < before ? before : at; k < end; k++) first[k + 1]++
      before = at
    }
  }
  for (let k = 0; k < count; k++) first[k + 1] += first[k]
  const u = new Float64Array(first[count])
  const next = first.slice()
  for (const ring of rings) {
    const n = ring.length
    let px = ring[n - 2]
    let py = ring[n - 1]
    let before = Math.ceil((py - start) * perPitch)
    for (let i = 0; i < n; i += 2) {
      const x = ring[i]
      const y = ring[i + 1]
      const at = Math.ceil((y - start) * perPitch)
      if (at !== before) {
        const slope = (x - px) / (y - py)
        for (let k = at < before ? at : before, end = at < before ? before : at; k < end; k++)
          u[next[k]++] = px + (start + k * pitch - py) * slope
      }
      px = x
      py = y
      before = at
    }
  }
  const v = new Float64Array(count)
  for (let k = 0; k < count; k++) {
    v[k] = start + k * pitch
    sortFew(u, first[k], first[k + 1])
  }
  return { v, first, u }
}

/** More than so many are sorted by the engine's own way. */
const FEW = 40

/** Sorts a stretch of numbers: few of them, as a line has most often. */
function sortFew(values: Float64Array, from: number, to: number): void {
  if (to - from > FEW) {
    values.subarray(from, to).sort()
    return
  }
  for (let i = from + 1; i < to; i++) {
    const value = values[i]
    let k = i
    while (k > from && values[k - 1] > value) {
      values[k] = values[k - 1]
      k--
    }
    values[k] = value
  }
}

/**
 * The lines of one piece, as many as have room in the middle of its height, one at least: nothing thin lies between two of them
 * unseen. @param box around the piece
 */
export function linesOfPiece(rings: readonly Ring[], pitch: number, box: { readonly y0: number; readonly y1: number }): Lines {
  const count = Math.max(1, Math.round((box.y1 - box.y0) / pitch))
  return linesOf(rings, pitch, (box.y0 + box.y1 - count * pitch) / 2)
}
