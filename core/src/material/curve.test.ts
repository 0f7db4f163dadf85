import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inverse, monotoneCubic, neverFalling } from '../numeric/monotone.ts'
import { fitCurve } from './curve.ts'

describe('monotone cubic', () => {
  it('goes through its points and never turns back between rising ones', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: 0.01, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true })), {
          minLength: 2,
          maxLength: 9,
        }),
        (steps) => {
          let x = 0
          let y = 0
          const xs: number[] = []
          const ys: number[] = []
          for (const [dx, dy] of steps) {
            x += dx
            y += dy
            xs.push(x)
            ys.push(y)
          }
          const curve = monotoneCubic(xs, ys)
          xs.forEach((at, i) => void expect(curve(at)).toBeCloseTo(ys[i], 9))
          let before = -Infinity
          for (let i = 0; i <= 200; i++) {
            const v = curve(xs[0] + ((x - xs[0]) * i) / 200)
            expect(v).toBeGreaterThanOrEqual(before - 1e-9)
            before = v
          }
        },
      ),
    )
  })

  it('refuses places that do not rise', () => {
    expect(() => monotoneCubic([0, 0], [1, 2])).toThrow('must rise')
    expect(() => monotoneCubic([0, 1], [1])).toThrow('as many values')
  })
})

describe('never falling', () => {
  it('pools neighbours that fall, by their weights', () => {
    expect(neverFalling([1, 3, 2, 4])).toEqual([1, 2.5, 2.5, 4])
    expect(neverFalling([3, 1], [1, 3])).toEqual([1.5, 1.5])
    expect(neverFalling([1, 2, 3])).toEqual([1, 2, 3])
  })
})

describe('a fitted curve', () => {
  /** Depth of a material: nothing up to 0.2, then straight, then it flattens. */
  const truth = (dose: number): number => (dose < 0.2 ? 0 : dose < 1 ? dose - 0.2 : 0.8 + 0.3 * (dose - 1))
  const measured = (noise: number) => ({
    points: Array.from({ length: 15 }, (_, i) => {
      const input = i / 10
      return { input, readings: [-1, 0, 1].map((k) => Math.max(0, truth(input) + k * noise)) }
    }),
  })

  it('finds the truth through noise, its onset, its straight part, and how far readings lie off', () => {
    const curve = fitCurve(measured(0.02))
    for (const dose of [0.35, 0.55, 0.85, 1.25]) expect(Math.abs(curve.at(dose) - truth(dose))).toBeLessThan(0.02)
    expect(curve.onset).toBeGreaterThan(0.15)
    expect(curve.onset).toBeLessThan(0.25)
    expect(curve.residual).toBeGreaterThan(0.01)
    expect(curve.residual).toBeLessThan(0.02)
    expect(curve.straight[0]).toBeLessThanOrEqual(0.3)
    expect(curve.straight[1]).toBeGreaterThanOrEqual(1)
  })

  it('is solved for an input, and stays at its ends beyond them', () => {
    const curve = fitCurve(measured(0))
    for (const dose of [0.4, 0.7, 1.3]) expect(curve.inputFor(truth(dose))).toBeCloseTo(dose, 6)
    expect([curve.inputFor(9), curve.at(9)]).toEqual([1.4, truth(1.4)])
    expect(inverse((x) => x, -1, 0, 1)).toBe(0)
  })

  it('takes readings of one input together, and refuses a single point', () => {
    const curve = fitCurve({
      points: [
        { input: 1, readings: [4] },
        { input: 0, readings: [0] },
        { input: 1, readings: [6, 8] },
      ],
    })
    expect(curve.at(1)).toBe(6)
    expect(() => fitCurve({ points: [{ input: 1, readings: [2] }] })).toThrow('at least two')
  })
})
