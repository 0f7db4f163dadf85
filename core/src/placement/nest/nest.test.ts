import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { combine, offset, shapeArea } from '../../geometry/clip.ts'
import { type Ring, ringsBounds } from '../../geometry/ring.ts'
import { boxesUsed } from '../../testing/placing-references.ts'
import { ANY_ANGLE, nestedRings, nestPieces, QUARTER_TURNS, type Wanted } from './nest.ts'

const rect = (w: number, h: number, x = 0, y = 0): Ring => Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h)
const round = (r: number, x: number, y: number): Ring =>
  Float64Array.from({ length: 80 }, (_, i) =>
    i % 2 ? y + r * Math.sin((Math.PI * (i >> 1)) / 20) : x + r * Math.cos((Math.PI * (i >> 1)) / 20),
  )
const triangle = Float64Array.of(0, 0, 60, 0, 0, 40)

/** Nothing nearer to anything than it may be. */
function holds(
  wanted: readonly Wanted[],
  sheet: readonly Ring[],
  spacingMm: number,
  marginMm: number,
  angles: readonly number[],
) {
  const found = nestPieces(wanted, sheet, { spacingMm, marginMm, angles })
  const room = marginMm > 0 ? offset(sheet, -marginMm + 1e-3) : sheet
  const pieces = found.placed.map((each) => nestedRings(wanted[each.piece].rings, each))
  const grown = pieces.map((rings) => (spacingMm > 0 ? offset(rings, spacingMm / 2 - 1e-3) : rings))
  grown.forEach((a, i) => {
    expect(shapeArea(combine('subtract', pieces[i], room))).toBeLessThan(1e-2)
    const box = ringsBounds(a)
    for (const b of grown.slice(0, i)) {
      const other = ringsBounds(b)
      if (other.x0 > box.x1 || box.x0 > other.x1 || other.y0 > box.y1 || box.y0 > other.y1) continue
      expect(shapeArea(combine('intersect', a, b))).toBeLessThan(1e-2)
    }
  })
  expect(found.placed.length + found.left.reduce((sum, v) => sum + v, 0)).toBe(wanted.reduce((sum, { count }) => sum + count, 0))
  const area = pieces.reduce((sum, rings) => sum + shapeArea(combine('union', rings)), 0)
  expect(found.used).toBeCloseTo(area / shapeArea(combine('union', sheet)), 3)
  return found
}

describe('a nest', () => {
  it('keeps distance and margin, piece by piece, on sheets and offcuts of any shape', () => {
    const corners = fc.array(fc.integer({ min: 10, max: 40 }), { minLength: 3, maxLength: 9 })
    const shape = corners.map((radii) =>
      Float64Array.from({ length: 2 * radii.length }, (_, k) => {
        const a = (Math.PI * 2 * (k >> 1)) / radii.length
        return radii[k >> 1] * (k % 2 ? Math.sin(a) : Math.cos(a))
      }),
    )
    fc.assert(
      fc.property(
        fc.array(fc.record({ shape, count: fc.integer({ min: 1, max: 8 }) }), { minLength: 1, maxLength: 4 }),
        fc.constantFrom(
          [rect(240, 160)],
          [rect(240, 160), rect(80, 40, 60, 70)],
          [Float64Array.of(0, 0, 260, 30, 200, 190, 90, 120, 20, 180)],
        ),
        fc.constantFrom(0, 1.5, 25),
        fc.constantFrom(0, 4),
        fc.constantFrom(QUARTER_TURNS, [0], [0, 180], [30, 75]),
        (wanted, sheet, spacing, margin, angles) => {
          holds(
            wanted.map(({ shape: ring, count }) => ({ rings: [ring], count })),
            sheet,
            spacing,
            margin,
            angles,
          )
        },
      ),
      { numRuns: 12 },
    )
  }, 120_000)

  it('uses more of a sheet than boxes side by side: triangles lie in each other', () => {
    const wanted = [{ rings: [triangle], count: 200 }]
    const sheet = [rect(400, 300)]
    const { used } = holds(wanted, sheet, 1, 2, QUARTER_TURNS)
    expect(used).toBeGreaterThan(1.7 * boxesUsed(wanted, 396, 296, 1))
  }, 60_000)

  it('lays small pieces into the holes of large ones', () => {
    const wanted = [
      { rings: [round(40, 40, 40), round(30, 40, 40)], count: 1 },
      { rings: [round(20, 20, 20)], count: 1 },
    ]
    const found = holds(wanted, [rect(82, 82)], 1, 0.5, [0])
    expect(found.left).toEqual([0, 0])
  })

  it('keeps the grain where only half turns are allowed, and leaves what has no place', () => {
    const found = holds([{ rings: [rect(90, 10)], count: 3 }], [rect(50, 100)], 0, 0, [0, 180])
    expect(found).toMatchObject({ placed: [], left: [3], used: 0 })
    expect(holds([{ rings: [rect(90, 10)], count: 3 }], [rect(50, 100)], 0, 0, ANY_ANGLE).left).toEqual([0])
  })

  it('keeps a distance that is wider than the pieces themselves', () => {
    const wanted = [{ rings: [rect(12, 9)], count: 40 }]
    const found = holds(wanted, [rect(200, 150)], 30, 0, [0])
    expect(found.placed.length).toBe(20)
  })

  it('tells how far it is, and can be given up', () => {
    const told: number[] = []
    nestPieces([{ rings: [triangle], count: 20 }], [rect(200, 200)], { progress: (done) => told.push(done) })
    expect(told.every((v, i) => i === 0 || v >= told[i - 1])).toBe(true)
    const stop = (): never => {
      throw new Error('given up')
    }
    expect(() => nestPieces([{ rings: [triangle], count: 20 }], [rect(200, 200)], { progress: stop })).toThrow('given up')
  })
})
