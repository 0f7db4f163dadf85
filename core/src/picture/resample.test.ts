import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Arena } from '../kernels/kernel.ts'
import type { GreyPicture } from './picture.ts'
import { pictureKernel } from './picture-kernel.ts'
import { type ResampleOptions, resampleMarks } from './resample.ts'

const grey = (widthPx: number, heightPx: number, tone: (x: number, y: number) => number): GreyPicture => ({
  widthPx,
  heightPx,
  full: 255,
  samples: Uint8Array.from({ length: widthPx * heightPx }, (_, i) => tone(i % widthPx, Math.floor(i / widthPx))),
})

/** Lightness of every dot, as the marks say. */
function resampled(source: GreyPicture, columns: number, rows: number, options: ResampleOptions = {}): number[][] {
  const out: number[][] = []
  const kernel = pictureKernel()
  const table = Float32Array.from({ length: source.full + 1 }, (_, i) => 1 - i / source.full)
  const arena = new Arena(kernel.run.freeFrom())
  const keep = (y: number, at: number): void => {
    out[y] = Array.from(new Float32Array(kernel.room(0).buffer, at, columns), (mark) => 1 - mark)
  }
  resampleMarks(kernel, arena, source, table, columns, rows, keep, options)
  return out
}

/** Area average the slow and plain way. */
function plain(source: GreyPicture, columns: number, rows: number): number[][] {
  const sx = source.widthPx / columns
  const sy = source.heightPx / rows
  const overlap = (a: number, b: number, c: number): number => Math.max(0, Math.min(b, c + 1) - Math.max(a, c))
  return Array.from({ length: rows }, (_, y) =>
    Array.from({ length: columns }, (_, x) => {
      let sum = 0
      for (let v = 0; v < source.heightPx; v++) {
        for (let u = 0; u < source.widthPx; u++) {
          sum +=
            (source.samples[v * source.widthPx + u] / 255) * overlap(x * sx, (x + 1) * sx, u) * overlap(y * sy, (y + 1) * sy, v)
        }
      }
      return sum / (sx * sy)
    }),
  )
}

describe('resampleMarks', () => {
  it('averages areas when it shrinks, at any ratio', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 17 }),
        fc.integer({ min: 1, max: 17 }),
        fc.integer({ min: 0, max: 20 }),
        fc.integer({ min: 0, max: 20 }),
        fc.nat(),
        (columns, rows, moreX, moreY, seed) => {
          const source = grey(
            columns + moreX,
            rows + moreY,
            (x, y) => (Math.imul(x * 31 + y * 17 + seed, 2654435761) >>> 11) & 255,
          )
          const ours = resampled(source, columns, rows)
          const truth = plain(source, columns, rows)
          for (let y = 0; y < rows; y++) for (let x = 0; x < columns; x++) expect(ours[y][x]).toBeCloseTo(truth[y][x], 5)
        },
      ),
      { numRuns: 150 },
    )
  })

  it('keeps a flat tone flat, larger or smaller', () => {
    for (const [columns, rows] of [
      [3, 5],
      [40, 9],
      [64, 64],
    ]) {
      const flat = grey(20, 20, () => 100)
      for (const row of resampled(flat, columns, rows)) for (const v of row) expect(v).toBeCloseTo(100 / 255, 5)
    }
  })

  it('keeps the ink of fine lines: a quarter of black stays a quarter', () => {
    const lines = grey(64, 64, (x) => (x % 4 === 0 ? 0 : 255))
    for (const row of resampled(lines, 16, 16)) for (const v of row) expect(v).toBeCloseTo(0.75, 5)
    // Enlarged, too, where no overshoot is cut off.
    const soft = grey(64, 64, (x) => (x % 4 === 0 ? 102 : 153))
    const all = resampled(soft, 150, 150).flat()
    expect(all.reduce((sum, v) => sum + v, 0) / all.length).toBeCloseTo(0.55, 3)
  })

  it('reproduces a slow ramp when it enlarges', () => {
    const out = resampled(
      grey(64, 8, (x) => x * 4),
      256,
      32,
    )[16]
    for (let x = 40; x < 216; x++) expect(out[x] * 255).toBeCloseTo(((x + 0.5) / 4 - 0.5) * 4, 0)
  })

  it('takes transparent pixels as white paper, and a crop as if it were all', () => {
    const source = { ...grey(4, 1, () => 0), alpha: Uint8Array.of(255, 255, 0, 0) }
    expect(resampled(source, 4, 1)[0]).toEqual([0, 0, 1, 1])
    const part = resampled(
      grey(8, 8, (x, y) => (x >= 4 && y >= 4 ? 0 : 255)),
      2,
      2,
      { crop: { x: 4, y: 4, width: 4, height: 4 } },
    )
    expect(part.flat()).toEqual([0, 0, 0, 0])
  })

  it('reads 16 bit', () => {
    const samples = Uint16Array.of(0, 65_535, 65_535, 0)
    expect(resampled({ widthPx: 2, heightPx: 2, full: 65_535, samples }, 1, 1)[0][0]).toBeCloseTo(0.5, 5)
  })
})
