import type { Ring } from '@neotaxis/core'

/** Rings in one piece of memory, so that thousands of them go from worker to page at once. */
export interface PackedRings {
  /** x, y of every corner, ring after ring. */
  readonly points: Float64Array<ArrayBuffer>
  /** Where each ring ends in `points`. */
  readonly ends: Uint32Array<ArrayBuffer>
}

/** Copies rings into one piece of memory. */
export function packRings(rings: readonly Ring[]): PackedRings {
  const points = new Float64Array(rings.reduce((sum, { length }) => sum + length, 0))
  const ends = new Uint32Array(rings.length)
  let at = 0
  rings.forEach((ring, i) => {
    points.set(ring, at)
    at += ring.length
    ends[i] = at
  })
  return { points, ends }
}

/** The rings of a pack; they share its memory. */
export const ringsOf = ({ points, ends }: PackedRings): readonly Ring[] =>
  Array.from(ends, (end, i) => points.subarray(i === 0 ? 0 : ends[i - 1], end))
