import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { growLines, offset, shapeArea } from './clip.ts'
import { distanceTo } from './edge-distance.test-help.ts'
import { rawOffset } from './raw-offset.ts'
import { type Ring, ringArea, ringContains } from './ring.ts'

const ring = (...xy: number[]): Ring => Float64Array.from(xy)
const box = (x: number, y: number, w: number, h: number): Ring => ring(x, y, x + w, y, x + w, y + h, x, y + h)

const inside = (rings: readonly Ring[], x: number, y: number): boolean =>
  rings.reduce((odd, each) => odd !== ringContains(each, x, y), false)

/** A wavy closed line, sometimes with a hole, sometimes with points close together. */
const blob = fc
  .record({
    n: fc.integer({ min: 3, max: 120 }),
    waves: fc.integer({ min: 0, max: 9 }),
    deep: fc.double({ min: 0, max: 0.7, noNaN: true }),
    hole: fc.boolean(),
  })
  .map(({ n, waves, deep, hole }) => {
    const made = (r: number): Ring =>
      Float64Array.from({ length: 2 * n }, (_, i) => {
        const a = (2 * Math.PI * (i >> 1)) / n
        const far = r * (1 + deep * Math.sin(waves * a))
        return i % 2 ? 20 + far * Math.sin(a) : 20 + far * Math.cos(a)
      })
    return hole ? [made(10), made(4)] : [made(10)]
  })

describe('a moved edge', () => {
  it('meets where it turns away, and makes no loops on a smooth shape', () => {
    const circle = Float64Array.from({ length: 400 }, (_, i) => {
      const a = (Math.PI * (i >> 1)) / 100
      return Math.round(1e5 * (i % 2 ? Math.sin(a) : Math.cos(a)))
    })
    const smaller = rawOffset(circle, -3e4, 'round', 100)
    expect(smaller).toHaveLength(400)
    expect(ringArea(smaller)).toBeGreaterThan(0)
    // Growing adds no corners either where the turn is slight.
    expect(rawOffset(circle, 3e4, 'round', 100)).toHaveLength(400)
    // Shrunk by more than there is, it must not come out on the other side.
    expect(offset([circle.map((v) => v / 1e4)], -10.5)).toEqual([])
  })

  it('is rounded, cut off or pointed at corners', () => {
    const square = box(0, 0, 1000, 1000)
    expect([...rawOffset(square, 100, 'mitre', 1)]).toEqual([-100, -100, 1100, -100, 1100, 1100, -100, 1100])
    expect(rawOffset(square, 100, 'bevel', 1)).toHaveLength(16)
    expect(rawOffset(square, 100, 'round', 1).length).toBeGreaterThan(40)
    const needle = ring(0, 0, 1000, -10, 1000, 10)
    const far = (join: 'mitre' | 'round'): number => Math.min(...rawOffset(needle, 100, join, 1).filter((_, i) => i % 2 === 0))
    // A mitre beyond its limit ends flat, as far away as a round join.
    expect(far('mitre')).toBeCloseTo(-100, -1)
    expect(far('round')).toBeCloseTo(-100, -1)
  })

  it('lies at its distance from the shape, on its side, everywhere', () => {
    fc.assert(
      fc.property(blob, fc.double({ min: -4, max: 4, noNaN: true }), (rings, d) => {
        fc.pre(Math.abs(d) > 0.05)
        for (const each of offset(rings, d)) {
          const step = Math.max(2, 2 * Math.floor(each.length / 40))
          for (let i = 0; i + 1 < each.length; i += step) {
            expect(Math.abs(distanceTo(rings, each[i], each[i + 1]) - Math.abs(d))).toBeLessThan(0.011)
            if (Math.abs(d) > 0.1) expect(inside(rings, each[i], each[i + 1])).toBe(d < 0)
          }
        }
      }),
      { numRuns: 300 },
    )
  })

  it('fills all that is near enough, and nothing else', () => {
    const at = fc.double({ min: 0, max: 40, noNaN: true })
    fc.assert(
      fc.property(
        blob,
        fc.double({ min: -4, max: 4, noNaN: true }),
        fc.array(fc.tuple(at, at), { minLength: 40, maxLength: 40 }),
        (rings, d, places) => {
          fc.pre(Math.abs(d) > 0.05)
          const made = offset(rings, d)
          for (const [x, y] of places) {
            const signed = inside(rings, x, y) ? -distanceTo(rings, x, y) : distanceTo(rings, x, y)
            if (Math.abs(signed - d) > 0.02) expect(inside(made, x, y)).toBe(signed < d)
          }
        },
      ),
      { numRuns: 200 },
    )
  })

  it('grows lines to bands with round ends', () => {
    expect(shapeArea(growLines([ring(0, 0, 10, 0)], 2))).toBeCloseTo(40 + 4 * Math.PI, 0)
    const at = fc.double({ min: 0, max: 30, noNaN: true })
    fc.assert(
      fc.property(fc.array(at, { minLength: 4, maxLength: 16 }), fc.double({ min: 0.1, max: 3, noNaN: true }), (list, half) => {
        const line = Float64Array.from(list.slice(0, list.length & ~1))
        const made = growLines([line], half)
        for (const each of made) {
          for (let i = 0; i < each.length; i += 2) {
            const own = Float64Array.of(
              ...line,
              ...Array.from(line)
                .reverse()
                .flatMap((_, k, all) => (k % 2 ? [all[k], all[k - 1]] : [])),
            )
            expect(Math.abs(distanceTo([own], each[i], each[i + 1]) - half)).toBeLessThan(0.011)
          }
        }
      }),
      { numRuns: 150 },
    )
    expect(growLines([], 2)).toEqual([])
    expect(growLines([ring(0, 0, 1, 1)], 0)).toEqual([])
  })
})
