import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nearestNeighbours } from './neighbours.ts'
import { shortTour } from './tour.ts'

const lengthOf = (xs: Float64Array, ys: Float64Array, order: ArrayLike<number>): number => {
  let sum = 0
  for (let i = 1; i < order.length; i++) sum += Math.hypot(xs[order[i]] - xs[order[i - 1]], ys[order[i]] - ys[order[i - 1]])
  return sum
}

/** The shortest open tour from point 0, by trying all. */
function shortest(xs: Float64Array, ys: Float64Array): number {
  let best = Infinity
  const visit = (order: number[], left: number[]): void => {
    if (left.length === 0) best = Math.min(best, lengthOf(xs, ys, order))
    for (const i of left)
      visit(
        [...order, i],
        left.filter((j) => j !== i),
      )
  }
  visit(
    [0],
    Array.from({ length: xs.length - 1 }, (_, i) => i + 1),
  )
  return best
}

const points = (min: number, max: number, scale: number) =>
  fc
    .array(fc.tuple(fc.integer({ min: 0, max: 1000 }), fc.integer({ min: 0, max: 1000 })), { minLength: min, maxLength: max })
    .map((list) => ({
      xs: Float64Array.from(list, ([x]) => x * scale),
      ys: Float64Array.from(list, ([, y]) => y * scale),
    }))

describe('shortTour', () => {
  it('visits every point once and starts at the first, also where points coincide', () => {
    fc.assert(
      fc.property(points(1, 60, 317), ({ xs, ys }) => {
        const order = shortTour(xs, ys)
        expect(order[0]).toBe(0)
        expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: xs.length }, (_, i) => i))
      }),
      { numRuns: 150 },
    )
  })

  it('finds the shortest tour of few points', () => {
    fc.assert(
      fc.property(points(1, 7, 1), ({ xs, ys }) => {
        expect(lengthOf(xs, ys, shortTour(xs, ys))).toBeLessThanOrEqual(shortest(xs, ys) + 1e-9)
      }),
      { numRuns: 60 },
    )
  })

  it('comes within 3 % of the best way over a grid', () => {
    const side = 20
    const xs = Float64Array.from({ length: side * side }, (_, i) => (i % side) * 10)
    const ys = Float64Array.from({ length: side * side }, (_, i) => Math.floor(i / side) * 10)
    expect(lengthOf(xs, ys, shortTour(xs, ys))).toBeLessThanOrEqual((side * side - 1) * 10 * 1.03)
  })

  it('gives the same tour for the same points', () => {
    const xs = Float64Array.from({ length: 200 }, (_, i) => (i * 7919) % 1000)
    const ys = Float64Array.from({ length: 200 }, (_, i) => (i * 104729) % 997)
    expect([...shortTour(xs, ys)]).toEqual([...shortTour(xs, ys)])
  })
})

describe('nearestNeighbours', () => {
  it('agrees with looking at all points', () => {
    fc.assert(
      fc.property(points(6, 80, 1), ({ xs, ys }) => {
        const found = nearestNeighbours(xs, ys, 4)
        for (let i = 0; i < xs.length; i++) {
          const all = Array.from({ length: xs.length }, (_, j) => j)
            .filter((j) => j !== i)
            .map((j) => Math.hypot(xs[i] - xs[j], ys[i] - ys[j]))
            .sort((a, b) => a - b)
          for (let k = 0; k < 4; k++)
            expect(Math.hypot(xs[i] - xs[found[i * 4 + k]], ys[i] - ys[found[i * 4 + k]])).toBeCloseTo(all[k], 9)
        }
      }),
      { numRuns: 60 },
    )
  })
})
