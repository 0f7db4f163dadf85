import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { offset, offsets, shapeArea, splitBy } from './clip.ts'
import { type Ring, ringArea } from './ring.ts'

const box = (x: number, y: number, w: number, h: number): Ring => Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h)
const size = fc.integer({ min: 5, max: 80 })

describe('a shape parted by lines', () => {
  it('keeps its area but for a hair, and has one piece more for each line that crosses it', () => {
    fc.assert(
      fc.property(size, size, fc.uniqueArray(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 5 }), (w, h, cuts) => {
        const inside = cuts.filter((x) => x < w)
        const pieces = splitBy(
          [box(0, 0, w, h)],
          cuts.map((x) => Float64Array.of(x, -5, x, h + 5)),
        )
        expect(pieces).toHaveLength(inside.length + 1)
        expect(Math.abs(shapeArea(pieces) - w * h)).toBeLessThan(0.02 * h * cuts.length + 1e-6)
      }),
      { numRuns: 60 },
    )
  })

  it('is not parted by a line that ends within it, or passes by', () => {
    expect(splitBy([box(0, 0, 40, 20)], [Float64Array.of(20, -5, 20, 10)])).toHaveLength(1)
    expect(splitBy([box(0, 0, 40, 20)], [Float64Array.of(50, -5, 50, 50)])).toHaveLength(1)
  })

  it('is parted by a ring into what lies within and around it', () => {
    const ring = Float64Array.of(10, 5, 30, 5, 30, 15, 10, 15, 10, 5)
    const pieces = splitBy([box(0, 0, 40, 20)], [ring])
    expect(pieces.filter((piece) => ringArea(piece) > 0)).toHaveLength(2)
  })
})

describe('several offsets of a convex shape', () => {
  it('enclose what Steiner’s formula says, step by step', () => {
    fc.assert(
      fc.property(size, size, fc.integer({ min: 1, max: 6 }), fc.integer({ min: 1, max: 4 }), (w, h, d, steps) => {
        const rings = offsets([box(0, 0, w, h)], d, { steps })
        expect(rings).toHaveLength(steps)
        rings.forEach((ring, i) => {
          const at = d * (i + 1)
          const area = w * h + 2 * (w + h) * at + Math.PI * at * at
          expect(Math.abs(Math.abs(ringArea(ring)) / area - 1)).toBeLessThan(2e-3)
        })
      }),
      { numRuns: 40 },
    )
  })

  it('on both sides are those of each side', () => {
    const shape = [box(0, 0, 40, 30)]
    expect(offsets(shape, 3, { both: true })).toEqual([...offset(shape, 3), ...offset(shape, -3)])
  })
})
