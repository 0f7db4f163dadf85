import fc from 'fast-check'
import { expect, it } from 'vitest'
import { linearProgram } from './linear-program.ts'

const number = fc.integer({ min: -50, max: 50 }).map((v) => v / 10)

it('finds what no corner of the constraints beats, and says where nothing meets them', () => {
  fc.assert(
    fc.property(fc.tuple(number, number), fc.array(fc.tuple(number, number, number), { maxLength: 12 }), (c, constraints) => {
      const all = constraints.map((each) => Float64Array.from(each))
      const found = linearProgram(c, [-3, -3], [3, 3], all)
      // Every corner in which two constraints meet, the box among them.
      const sides = [...constraints, [1, 0, 3], [-1, 0, 3], [0, 1, 3], [0, -1, 3]]
      const meets = (x: number, y: number): boolean => sides.every(([a, b, most]) => a * x + b * y <= most + 1e-7)
      let best = -Infinity
      for (const [a, b, p] of sides)
        for (const [d, e, q] of sides) {
          const det = a * e - b * d
          if (Math.abs(det) < 1e-9) continue
          const [x, y] = [(p * e - b * q) / det, (a * q - p * d) / det]
          if (meets(x, y)) best = Math.max(best, c[0] * x + c[1] * y)
        }
      if (!found) expect(best).toBe(-Infinity)
      else {
        expect(meets(found[0], found[1])).toBe(true)
        expect(c[0] * found[0] + c[1] * found[1]).toBeCloseTo(best, 5)
      }
    }),
    { numRuns: 400 },
  )
})

it('works in four dimensions: the box’s corner, cut off', () => {
  const cut = Float64Array.of(1, 1, 1, 1, 2)
  const found = linearProgram([1, 2, 3, 4], [0, 0, 0, 0], [1, 1, 1, 1], [cut])!
  expect(found.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([0, 0, 1, 1])
})
