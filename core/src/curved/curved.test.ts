import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arcAt, focusStrips, headOver, radiusByChord, radiusByThree, sagittaMm, sharpHalfWidth } from './curved.ts'

const length = (min: number, max: number) => fc.double({ min, max, noNaN: true })

describe('a curved face', () => {
  it('has the radius that three places or a chord tell', () => {
    fc.assert(
      fc.property(length(5, 500), length(0.05, 0.9), (radius, share) => {
        const half = share * radius
        expect(radiusByChord(2 * half, sagittaMm(radius, half))).toBeCloseTo(radius, 4)
        const on = (a: number) => [12 + radius * Math.cos(a), -7 + radius * Math.sin(a)] as const
        expect(radiusByThree(on(0.1), on(0.1 + share), on(0.1 + 2 * share))).toBeCloseTo(radius, 4)
      }),
    )
    expect(() => radiusByThree([0, 0], [1, 1], [2, 2])).toThrow('flat')
    expect(() => radiusByChord(0, 1)).toThrow('more than 0')
  })
  it('is as long along itself as it is, where the head stands beside its crown', () => {
    fc.assert(
      fc.property(length(5, 300), length(-0.95, 0.95), (radius, share) => {
        const arc = arcAt(radius, share * radius)
        expect(headOver(radius, arc)).toBeCloseTo(share * radius, 6)
        expect(Math.abs(arc)).toBeGreaterThanOrEqual(Math.abs(share * radius) - 1e-9)
      }),
    )
    expect(sagittaMm(40, 10)).toBeCloseTo(1.2702, 4)
    expect(sagittaMm(40, 90)).toBe(40)
  })
  it('is burned in strips that are sharp all over, side by side, none too many', () => {
    fc.assert(
      fc.property(length(15, 300), length(0.05, 0.85), length(0.2, 3), (radius, share, depth) => {
        const half = share * radius
        const strips = focusStrips(radius, half, depth)
        expect(strips[0].fromMm).toBeCloseTo(-half, 9)
        expect(strips.at(-1)!.toMm).toBeCloseTo(half, 9)
        strips.forEach(({ fromMm, toMm, focusMm }, i) => {
          expect(toMm).toBeGreaterThan(fromMm)
          if (i > 0) expect(fromMm).toBeCloseTo(strips[i - 1].toMm, 9)
          for (let k = 0; k <= 10; k++)
            expect(Math.abs(sagittaMm(radius, fromMm + ((toMm - fromMm) * k) / 10) - focusMm)).toBeLessThanOrEqual(depth + 1e-9)
        })
        // Each focus takes in twice the depth; the middle one lies across the crown, the others on both sides.
        const foci = Math.ceil(sagittaMm(radius, half) / (2 * depth) - 1e-9)
        expect(strips).toHaveLength(2 * Math.max(1, foci) - 1)
      }),
    )
    const [only] = focusStrips(40, sharpHalfWidth(40, 1), 1)
    expect(only.toMm).toBeCloseTo(12.49, 2)
    expect(() => focusStrips(40, 39, 1)).toThrow('too steeply')
    expect(() => focusStrips(40, 10, 0)).toThrow('depth of focus')
  })
})
