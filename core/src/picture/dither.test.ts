import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Arena } from '../kernels/kernel.ts'
import { type Kernel, rowDither } from './dither.ts'
import { pictureKernel } from './picture-kernel.ts'

function dots(
  columns: number,
  rows: number,
  wanted: (x: number, y: number) => number,
  kind: Kernel = 'floyd-steinberg',
): Uint8Array {
  const kernel = pictureKernel()
  const arena = new Arena(kernel.run.freeFrom())
  const dither = rowDither(kernel, arena, kind, columns)
  const at = arena.take(4 * columns)
  const memory = kernel.room(arena.bytes)
  memory.fill(0, kernel.run.freeFrom())
  const row = new Float32Array(memory.buffer, at, columns)
  const out = new Uint8Array(columns * rows)
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < columns; x++) row[x] = wanted(x, y)
    const made = dither(y, at)
    out.set(memory.subarray(made, made + columns), y * columns)
  }
  return out
}

/** Floyd and Steinberg's weights the plain way, in numbers with fractions. */
function plain(columns: number, rows: number, wanted: (x: number, y: number) => number): number[] {
  const field = Array.from({ length: rows }, (_, y) => Array.from({ length: columns }, (_, x) => wanted(x, y)))
  const out: number[] = []
  const add = (x: number, y: number, e: number): void => {
    if (y < rows && x >= 0 && x < columns) field[y][x] += e
  }
  for (let y = 0; y < rows; y++) {
    const way = y % 2 === 0 ? 1 : -1
    for (let i = 0; i < columns; i++) {
      const x = way === 1 ? i : columns - 1 - i
      const mark = field[y][x] >= 0.5 ? 1 : 0
      out[y * columns + x] = mark * 255
      const e = field[y][x] - mark
      add(x + way, y, (e * 7) / 16)
      add(x - way, y + 1, (e * 3) / 16)
      add(x, y + 1, (e * 5) / 16)
      add(x + way, y + 1, e / 16)
    }
  }
  return out
}

describe('Floyd–Steinberg', () => {
  it('gives the dots of the published weights', () => {
    const tone = (x: number, y: number): number => (((x * 37 + y * 91) % 64) + 0.5) / 64
    const ours = dots(23, 19, tone)
    const truth = plain(23, 19, tone)
    const differing = ours.reduce((sum, v, i) => sum + (v === truth[i] ? 0 : 1), 0)
    // Tones that stand exactly on the edge may fall either way by rounding.
    expect(differing).toBeLessThanOrEqual(0.02 * truth.length)
  })

  it('keeps the mean tone within 0.5 %', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: -0.4, max: 0.4, noNaN: true }), (level, slope) => {
        const tone = (x: number): number => Math.min(1, Math.max(0, level + (slope * (x - 100)) / 200))
        const out = dots(200, 150, tone)
        let wanted = 0
        for (let x = 0; x < 200; x++) wanted += tone(x) / 200
        expect(Math.abs(out.reduce((sum, v) => sum + v / 255, 0) / out.length - wanted)).toBeLessThan(0.005)
      }),
      { numRuns: 40 },
    )
  })

  it('leaves white white and black black', () => {
    expect(dots(31, 9, () => 0).every((v) => v === 0)).toBe(true)
    expect(dots(31, 9, () => 1).every((v) => v === 255)).toBe(true)
  })

  it('works for pictures of one column', () => {
    expect(dots(1, 100, () => 0.5).filter((v) => v === 255).length).toBeGreaterThan(40)
  })
})

describe('the other kernels', () => {
  it('threshold parts at the middle, none keeps grey', () => {
    const tones = [0.2, 0.5, 0.9]
    expect([...dots(3, 1, (x) => tones[x], 'threshold')]).toEqual([0, 255, 255])
    expect([...dots(3, 1, (x) => x / 2, 'none')]).toEqual([0, 128, 255])
  })
})
