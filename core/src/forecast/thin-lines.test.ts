// A hairline is seen from any distance; lines that lie close keep their tone.
import { describe, expect, it } from 'vitest'
import { BESIDE_PX, isThin, seenLines } from './thin-lines.ts'

const WIDE = 60
/** Upright lines of a width, px, at places across. */
const drawn = (linePx: number, places: readonly number[]): Float32Array => {
  const w = WIDE + 2 * BESIDE_PX
  const out = new Float32Array(w * w)
  for (let y = 0; y < w; y++)
    for (const at of places)
      for (let x = Math.floor(at); x <= Math.floor(at + linePx); x++)
        out[y * w + x] += Math.max(0, Math.min(x + 1, at + linePx) - Math.max(x, at))
  return out
}
const darkest = (seen: Float32Array): number => seen.reduce((most, v) => Math.max(most, v), 0)
const mean = (seen: Float32Array): number => seen.reduce((sum, v) => sum + v, 0) / seen.length

describe('lines thinner than a pixel', () => {
  it.each([0.05, 0.1, 0.2, 0.5, 1])('of %f px are seen where they are alone, as wide as 1.2 px', (linePx) => {
    expect(isThin(linePx)).toBe(true)
    for (const at of [20.1, 20.4, 20.9]) {
      const seen = seenLines(drawn(linePx, [at]), WIDE, WIDE, linePx)
      expect(darkest(seen)).toBeGreaterThan(0.3)
      // As much as a line of 1.2 px at most: it does not become a bar.
      expect(mean(seen) * WIDE).toBeLessThanOrEqual(1.2 + 1e-6)
      // Nothing is dark where no line is.
      for (let x = 0; x < WIDE; x++) if (x < 17 || x > 20) expect(seen[5 * WIDE + x]).toBe(0)
    }
  })

  it.each([
    [0.2, 1],
    [0.3, 0.75],
    [0.1, 0.25],
  ])('of %f px every %f px keep the tone that they have together', (linePx, apart) => {
    const places = Array.from({ length: Math.floor((WIDE + 2 * BESIDE_PX - 2) / apart) }, (_, i) => i * apart)
    const seen = seenLines(drawn(linePx, places), WIDE, WIDE, linePx)
    const middle = Array.from({ length: 40 }, (_, i) => seen[30 * WIDE + 10 + i])
    const tone = middle.reduce((sum, v) => sum + v, 0) / middle.length
    expect(tone).toBeLessThan(Math.max(0.36, linePx / apart + 0.02))
    expect(tone).toBeGreaterThanOrEqual(linePx / apart - 0.02)
  })

  it('look the same whether a view is painted whole or in parts', () => {
    const whole = seenLines(drawn(0.2, [13.3, 29.8, 30.6]), WIDE, WIDE, 0.2)
    // The right half of it, with what lies beside: as a tile is painted.
    const all = drawn(0.2, [13.3, 29.8, 30.6])
    const w = WIDE + 2 * BESIDE_PX
    const half = WIDE / 2
    const part = new Float32Array((half + 2 * BESIDE_PX) * w)
    for (let y = 0; y < w; y++)
      for (let x = 0; x < half + 2 * BESIDE_PX; x++) part[y * (half + 2 * BESIDE_PX) + x] = all[y * w + x + half]
    const tile = seenLines(part, half, WIDE, 0.2)
    for (let y = 0; y < WIDE; y++)
      for (let x = 0; x < half; x++) expect(tile[y * half + x]).toBeCloseTo(whole[y * WIDE + x + half], 6)
  })
})
