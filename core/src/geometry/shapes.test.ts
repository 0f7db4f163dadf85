import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isEmptyBounds } from './bounds.ts'
import { combine, filledBy, offset, shapeArea } from './clip.ts'
import { coverage } from './coverage.ts'
import { measureOutlines } from './measure.ts'
import { nest } from './nesting.ts'
import { CUBIC, flattenPath, LINE, mapPath, type Path, pathFromRing } from './path.ts'
import { mapRing, type Ring, ringArea, ringBounds, ringContains, ringLength, ringsBounds } from './ring.ts'

const ring = (...xy: number[]): Ring => Float64Array.from(xy)
const box = (x: number, y: number, w: number, h: number): Ring => ring(x, y, x + w, y, x + w, y + h, x, y + h)
const circle = (cx: number, cy: number, r: number, n = 256): Ring =>
  Float64Array.from({ length: 2 * n }, (_, i) =>
    i % 2 ? cy + r * Math.sin((Math.PI * (i - 1)) / n) : cx + r * Math.cos((Math.PI * i) / n),
  )

describe('rings', () => {
  it('have signed area, length and bounds', () => {
    expect(ringArea(box(1, 2, 3, 4))).toBe(12)
    expect(ringArea(ring(0, 0, 0, 4, 3, 4, 3, 0))).toBe(-12)
    expect(ringLength(box(0, 0, 3, 4))).toBe(14)
    expect(ringBounds(box(1, 2, 3, 4))).toEqual({ x0: 1, y0: 2, x1: 4, y1: 6 })
    expect(isEmptyBounds(ringsBounds([]))).toBe(true)
    expect([...mapRing(box(0, 0, 1, 1), 2, 3, 10, 20)]).toEqual([10, 20, 12, 20, 12, 23, 10, 23])
  })

  it('contain what lies inside', () => {
    const star = ring(0, -10, 2, -2, 10, 0, 2, 2, 0, 10, -2, 2, -10, 0, -2, -2)
    expect(ringContains(star, 0, 0)).toBe(true)
    expect(ringContains(star, 6, 6)).toBe(false)
    expect(ringContains(star, 0.5, -7)).toBe(true)
  })
})

describe('flattenPath', () => {
  const quarter = 0.5522847498
  const arc: Path = {
    closed: false,
    kinds: Uint8Array.of(CUBIC),
    points: Float64Array.of(10, 0, 10, 10 * quarter, 10 * quarter, 10, 0, 10),
  }

  it('stays within the tolerance of a curve, whatever it is', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.001, max: 1, noNaN: true }), (tolerance) => {
        const flat = flattenPath(arc, tolerance)
        for (let i = 0; i + 3 < flat.length; i += 2) {
          const r = Math.hypot((flat[i] + flat[i + 2]) / 2, (flat[i + 1] + flat[i + 3]) / 2)
          // The cubic itself lies up to 0.0027 beside the circle.
          expect(Math.abs(r - 10)).toBeLessThanOrEqual(tolerance + 0.003)
        }
      }),
    )
  })

  it('does not repeat the closing point, and keeps lines as they are', () => {
    const square = pathFromRing(box(0, 0, 2, 2))
    expect(square.kinds.every((k) => k === LINE)).toBe(true)
    expect([...flattenPath(square, 0.01)]).toEqual([...box(0, 0, 2, 2)])
    expect(measureOutlines([square], 0.01)).toEqual({ paths: 1, nodes: 4, length: 8 })
    expect([...flattenPath(mapPath(square, 2, 1, 1, 0), 0.01)]).toEqual([1, 0, 5, 0, 5, 2, 1, 2])
  })
})

describe('offset', () => {
  it('moves every edge by the distance, round at corners', () => {
    const out = offset([box(0, 0, 20, 10)], 2)
    expect(out).toHaveLength(1)
    expect(shapeArea(out)).toBeCloseTo(20 * 10 + 2 * 2 * 30 + Math.PI * 4, 0)
    expect(ringBounds(out[0])).toEqual({ x0: -2, y0: -2, x1: 22, y1: 12 })
    expect(shapeArea(offset([box(0, 0, 20, 10)], -2))).toBeCloseTo(16 * 6, 3)
    expect(shapeArea(offset([box(0, 0, 20, 10)], 2, { join: 'mitre' }))).toBeCloseTo(24 * 14, 3)
    expect(shapeArea(offset([box(0, 0, 20, 10)], 2, { join: 'bevel' }))).toBeLessThan(24 * 14 - 7.9)
  })

  it('shrinks holes when it grows the shape, and drops them where only the outermost edge is wanted', () => {
    const frame = [box(0, 0, 20, 20), box(5, 5, 10, 10)]
    expect(shapeArea(offset(frame, 1, { join: 'mitre' }))).toBeCloseTo(22 * 22 - 8 * 8, 2)
    const outer = offset(frame, 1, { join: 'mitre', outermost: true })
    expect(outer).toHaveLength(1)
    expect(shapeArea(outer)).toBeCloseTo(22 * 22, 2)
  })

  it('vanishes when shrunk away, and refuses what is no number', () => {
    expect(offset([box(0, 0, 4, 4)], -3)).toEqual([])
    expect(() => offset([box(0, 0, 4, 4)], Number.NaN)).toThrow(RangeError)
  })

  it('puts every vertex of the result at the distance from the shape', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 8, noNaN: true }), fc.double({ min: 2, max: 40, noNaN: true }), (d, r) => {
        for (const out of offset([circle(0, 0, r)], d))
          for (let i = 0; i < out.length; i += 2) expect(Math.abs(Math.hypot(out[i], out[i + 1]) - r - d)).toBeLessThan(0.02)
      }),
      { numRuns: 40 },
    )
  })
})

describe('shapes apart', () => {
  it('are offset and combined alone as they would be all together', () => {
    const place = fc.double({ min: 0, max: 60, noNaN: true })
    fc.assert(
      fc.property(
        fc.array(fc.tuple(place, place, fc.double({ min: 1, max: 9, noNaN: true })), { minLength: 2, maxLength: 14 }),
        fc.double({ min: -1, max: 4, noNaN: true }),
        (list, d) => {
          const rings = list.map(([x, y, w]) => box(x, y, w, w))
          // A frame around all of them makes one group of it.
          const frame = box(-500, -500, 1100, 1100)
          const made = offset(rings, d)
          const alone = shapeArea(made)
          // Holes narrower than joins are true are none, shapes are.
          const edge = made.reduce((sum, each) => sum + ringLength(each), 0)
          const together = shapeArea(offset([frame], -d)) - shapeArea(offset([frame, ...rings], -d))
          expect(Math.abs(alone - together)).toBeLessThan(0.02 * (1 + alone) + 0.01 * edge)
          const union = shapeArea(combine('union', rings, [box(10, 10, 20, 20)]))
          const framed = shapeArea(combine('exclude', [frame], combine('union', rings, [box(10, 10, 20, 20)])))
          expect(union).toBeCloseTo(1100 * 1100 - framed, 3)
        },
      ),
      { numRuns: 120 },
    )
  })

  it('may be as wide as a building; a place that is no number is refused', () => {
    const hall = [box(0, 0, 60_000, 25_000), box(1000, 1000, 10, 10)]
    expect(shapeArea(combine('subtract', [hall[0]], [hall[1]])) / (60_000 * 25_000 - 100)).toBeCloseTo(1, 6)
    expect(shapeArea(offset(hall, -10)) / (59_980 * 24_980 - 9 * 100)).toBeCloseTo(1, 6)
    expect(ringsBounds(offset([box(0, 0, 1, 1)], 9000)).x1).toBeCloseTo(9001, 1)
    expect(() => combine('union', [box(0, 0, 1, Number.NaN)])).toThrow('no number')
    expect(() => offset([box(0, 0, 1, Number.POSITIVE_INFINITY)], 1)).toThrow('no number')
  })

  it('tell how far they are, and can be stopped at any step', () => {
    const rings = [0, 1, 2, 3].map((i) => box(20 * i, 0, 5, 5))
    const seen: number[] = []
    offset(rings, 1, { progress: (done) => seen.push(done) })
    expect(seen.length).toBeGreaterThan(8)
    expect(seen).toEqual([...seen].sort((a, b) => a - b))
    expect(seen[0]).toBe(0)
    expect(seen.at(-1)).toBeLessThanOrEqual(1)
    seen.forEach((_, most) => {
      let asked = 0
      const stop = (): void => {
        if (asked++ === most) throw new Error('stopped')
      }
      expect(() => offset(rings, 1, { progress: stop })).toThrow('stopped')
      expect(asked).toBe(most + 1)
    })
  })

  it('are one where they grow together, as the union of each of them grown', () => {
    const at = fc.tuple(fc.integer({ min: 0, max: 14 }), fc.integer({ min: 0, max: 14 }))
    const places = fc.uniqueArray(at, { minLength: 1, maxLength: 90, selector: String })
    fc.assert(
      fc.property(places, fc.double({ min: 0.3, max: 5, noNaN: true }), (list, d) => {
        const rings = list.map(([x, y]) => box(4 * x, 4 * y, 3, 3))
        const union = filledBy(
          'nonzero',
          rings.flatMap((each) => offset([each], d)),
        )
        // Joins of neighbours are rounded apart from each other: 0.01 mm along the edge.
        const edge = union.reduce((sum, each) => sum + ringLength(each), 0)
        expect(Math.abs(shapeArea(offset(rings, d)) - shapeArea(union))).toBeLessThan(0.01 * edge)
        const outer = union.filter((each) => ringArea(each) > 0)
        const first = outer.filter((each) => !outer.some((other) => other !== each && ringContains(other, each[0], each[1])))
        const filled = offset(rings, d, { outermost: true })
        expect(filled).toHaveLength(first.length)
        expect(Math.abs(shapeArea(filled) - shapeArea(first))).toBeLessThan(0.01 * edge)
      }),
      { numRuns: 60 },
    )
  })
})

describe('combine', () => {
  it('has areas that add up', () => {
    fc.assert(
      fc.property(fc.double({ min: -15, max: 15, noNaN: true }), fc.double({ min: -15, max: 15, noNaN: true }), (x, y) => {
        const a = [circle(0, 0, 10)]
        const b = [box(x - 6, y - 6, 12, 12)]
        const area = (operation: Parameters<typeof combine>[0]): number => shapeArea(combine(operation, a, b))
        const whole = shapeArea(a) + shapeArea(b)
        expect(area('union') + area('intersect')).toBeCloseTo(whole, 2)
        expect(area('subtract')).toBeCloseTo(shapeArea(a) - area('intersect'), 2)
        expect(area('exclude')).toBeCloseTo(area('union') - area('intersect'), 2)
      }),
      { numRuns: 40 },
    )
  })
})

describe('coverage', () => {
  it('is exact for boxes that cut pixels, and sums to the area inside the view', () => {
    const covered = coverage([box(0.25, 0.5, 2, 1)], 4, 2)
    expect([...covered]).toEqual([0.375, 0.5, 0.125, 0, 0.375, 0.5, 0.125, 0])
    fc.assert(
      fc.property(
        fc.double({ min: 3, max: 17, noNaN: true }),
        fc.double({ min: 3, max: 17, noNaN: true }),
        fc.double({ min: 0.5, max: 3, noNaN: true }),
        (x, y, r) => {
          const sum = coverage([circle(x, y, r, 64)], 20, 20).reduce((total, c) => total + c, 0)
          expect(sum).toBeCloseTo(Math.abs(ringArea(circle(x, y, r, 64))), 3)
        },
      ),
      { numRuns: 60 },
    )
  })

  it('counts what sticks out on the left, and takes holes off', () => {
    expect([...coverage([box(-5, 0, 6, 1)], 2, 1)]).toEqual([1, 0])
    const hole = Float64Array.from([1, 1, 1, 3, 3, 3, 3, 1])
    expect(coverage([box(0, 0, 4, 4), hole], 4, 4).reduce((sum, c) => sum + c, 0)).toBeCloseTo(12, 5)
  })
})

describe('nest', () => {
  it('finds the ring directly around each, through many levels', () => {
    const rings = [box(2, 2, 2, 2), box(0, 0, 10, 10), box(1, 1, 4, 4), box(20, 0, 5, 5), box(6, 6, 2, 2)]
    const { parent, depth } = nest(rings)
    expect([...parent]).toEqual([2, -1, 1, -1, 1])
    expect([...depth]).toEqual([2, 0, 1, 0, 1])
  })
})
