import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { filledBy, offset, shapeArea } from '../../geometry/clip.ts'
import type { Ring } from '../../geometry/ring.ts'
import { mapped, SAME } from '../../space/affine.ts'
import { eachStretch, type Fill, fillBounds, filled } from './fill.ts'
import { linesOf } from './lines.ts'
import { cellsOf } from './patches.ts'
import type { AreaOperation } from './settings.ts'
import { groupsWithin } from './shared.ts'

const PITCH = 0.4
const settings = (change: Partial<AreaOperation> = {}) => ({
  strategy: 'sweep' as const,
  intervalMm: PITCH,
  deg: 0,
  begins: 'far' as const,
  insetMm: 0,
  ...change,
})

/** Stars that cross themselves, in places of their own or over each other, by even-odd. */
const shapes = fc
  .array(
    fc.record({
      x: fc.double({ min: 0, max: 30, noNaN: true }),
      y: fc.double({ min: 0, max: 30, noNaN: true }),
      r: fc.double({ min: 0.3, max: 8, noNaN: true }),
      points: fc.integer({ min: 3, max: 9 }),
      step: fc.integer({ min: 1, max: 4 }),
    }),
    { minLength: 1, maxLength: 5 },
  )
  .map((stars) =>
    stars.map(({ x, y, r, points, step }) =>
      Float64Array.from({ length: 2 * points }, (_, i) => {
        const turn = (2 * Math.PI * step * (i >> 1)) / points + 0.3
        return i % 2 === 0 ? x + r * Math.cos(turn) : y + r * Math.sin(turn)
      }),
    ),
  )
  .map((rings) => filledBy('evenodd', rings))

/** All stretches that a fill burns, on the face. */
function stretchesOf(fill: Fill): (readonly [number, number, number, number])[] {
  const found: (readonly [number, number, number, number])[] = []
  if (fill.form === 'threads')
    for (const line of fill.threads)
      for (let i = 2; i < line.length; i += 2) found.push([line[i - 2], line[i - 1], line[i], line[i + 1]])
  else
    for (const { lines, toFace } of fill.sets)
      eachStretch(lines, (u0, u1, v) => {
        found.push([...mapped(toFace, u0, v), ...mapped(toFace, u1, v)] as const as [number, number, number, number])
      })
  return found
}

const distanceTo = ([ax, ay, bx, by]: readonly [number, number, number, number], x: number, y: number): number => {
  const long = (bx - ax) ** 2 + (by - ay) ** 2
  const t = long === 0 ? 0 : Math.min(1, Math.max(0, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / long))
  return Math.hypot(ax + t * (bx - ax) - x, ay + t * (by - ay) - y)
}

const isWithin = (rings: readonly Ring[], x: number, y: number): boolean => {
  let inside = false
  for (const ring of rings)
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
      if (
        ring[i + 1] > y !== ring[j + 1] > y &&
        x < ((ring[j] - ring[i]) * (y - ring[i + 1])) / (ring[j + 1] - ring[i + 1]) + ring[i]
      )
        inside = !inside
  return inside
}

/** Places of a grid that lie within rings. */
function spotsOf(rings: readonly Ring[], step: number): [number, number][] {
  const spots: [number, number][] = []
  for (let x = -8; x < 40; x += step) for (let y = -8; y < 40; y += step) if (isWithin(rings, x, y)) spots.push([x, y])
  return spots
}

const nearest = (stretches: ReturnType<typeof stretchesOf>, x: number, y: number): number =>
  stretches.reduce((least, stretch) => Math.min(least, distanceTo(stretch, x, y)), Infinity)

const kinds = fc.oneof(
  fc.record({
    strategy: fc.constant('sweep' as const),
    deg: fc.integer({ min: -180, max: 180 }),
    shareMm: fc.option(fc.double({ min: 0, max: 10, noNaN: true }), { nil: undefined }),
  }),
  fc.record({ strategy: fc.constant('patches' as const), deg: fc.integer({ min: -180, max: 180 }) }),
)

describe('a fill by straight lines', () => {
  it('comes within half a pitch of every spot that lies as deep inside, and burns nothing outside', () => {
    fc.assert(
      fc.property(shapes, kinds, (area, kind) => {
        const stretches = stretchesOf(filled(area, settings(kind), SAME))
        for (const [x, y] of spotsOf(offset(area, -PITCH / 2 - 0.01), 0.61))
          expect(nearest(stretches, x, y)).toBeLessThanOrEqual(PITCH / 2 + 1e-6)
        const around = offset(area, 0.002)
        for (const [ax, ay, bx, by] of stretches)
          for (const t of [0, 0.23, 0.5, 0.81, 1]) expect(isWithin(around, ax + t * (bx - ax), ay + t * (by - ay))).toBe(true)
      }),
      { numRuns: 60 },
    )
  })

  it('burns no spot twice: as much line as there is area, whatever shares a sweep', () => {
    fc.assert(
      fc.property(shapes, kinds, (area, kind) => {
        const fine = { ...settings(kind), intervalMm: 0.02 }
        const long = stretchesOf(filled(area, fine, SAME)).reduce(
          (sum, [ax, ay, bx, by]) => sum + Math.hypot(bx - ax, by - ay),
          0,
        )
        const size = shapeArea(area)
        expect(Math.abs(long * 0.02 - size)).toBeLessThan(0.01 * size + 0.05)
      }),
      { numRuns: 30 },
    )
  })

  it('leaves no piece out, however thin: one that lies between two lines gets one of its own', () => {
    const bars = [0, 1, 2, 3].map((i) => Float64Array.of(0, i * 3.3, 9, i * 3.3, 9, i * 3.3 + 0.05, 0, i * 3.3 + 0.05))
    const lines = stretchesOf(filled(bars, settings({ shareMm: 0 }), SAME))
    expect(lines).toHaveLength(4)
    for (const [ax, ay, bx] of lines) expect([ax, bx, ay % 3.3]).toEqual([0, 9, expect.closeTo(0.025, 6)])
  })

  it('has a second set across the first, begins where it is told, and keeps inside its edge', () => {
    const square = [Float64Array.of(0, 0, 10, 0, 10, 10, 0, 10)]
    const far = stretchesOf(filled(square, settings(), SAME))
    const near = stretchesOf(filled(square, settings({ begins: 'near' }), SAME))
    expect(far[0][1]).toBeCloseTo(0.2)
    expect(near[0][1]).toBeCloseTo(9.8)
    expect(near).toHaveLength(far.length)
    const both = stretchesOf(filled(square, settings({ crossDeg: 90 }), SAME))
    expect(both).toHaveLength(2 * far.length)
    expect(both.filter(([ax, , bx]) => Math.abs(ax - bx) < 1e-9)).toHaveLength(far.length)
    const box = fillBounds(filled(square, settings({ insetMm: 0.5 }), SAME))
    expect([box.x0, box.x1]).toEqual([0.5, 9.5])
  })
})

describe('cells', () => {
  it('are as many as an area has where it parts and comes together', () => {
    // A frame: one cell above its hole, one at either side, one below.
    const frame = [Float64Array.of(0, 0, 10, 0, 10, 10, 0, 10), Float64Array.of(3, 3, 3, 7, 7, 7, 7, 3)]
    const cells = cellsOf(linesOf(frame, 0.5, 0))
    expect(cells).toHaveLength(4)
    for (const { v, first } of cells) for (let k = 0; k < v.length; k++) expect(first[k + 1] - first[k]).toBe(2)
  })
})

describe('pieces that share', () => {
  it('are those with no more than the distance between them, over any number of others', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            x: fc.double({ min: 0, max: 90, noNaN: true }),
            y: fc.double({ min: 0, max: 90, noNaN: true }),
            w: fc.double({ min: 0.1, max: 20, noNaN: true }),
          }),
          { maxLength: 40 },
        ),
        fc.double({ min: 0, max: 15, noNaN: true }),
        (squares, distance) => {
          const boxes = squares.map(({ x, y, w }) => ({ x0: x, y0: y, x1: x + w, y1: y + w }))
          const groups = groupsWithin(boxes, distance)
          // The plain way: whoever is near takes over the smaller number until nothing changes.
          const plain = boxes.map((_, i) => i)
          for (let changed = true; changed; ) {
            changed = false
            boxes.forEach((a, i) => {
              boxes.forEach((b, j) => {
                const [dx, dy] = [Math.max(0, a.x0 - b.x1, b.x0 - a.x1), Math.max(0, a.y0 - b.y1, b.y0 - a.y1)]
                if (Math.hypot(dx, dy) > distance || plain[i] === plain[j]) return
                plain[i] = plain[j] = Math.min(plain[i], plain[j])
                changed = true
              })
            })
          }
          for (let i = 0; i < boxes.length; i++)
            for (let j = 0; j < boxes.length; j++) expect(groups[i] === groups[j]).toBe(plain[i] === plain[j])
        },
      ),
    )
    expect([
      ...groupsWithin(
        [
          { x0: 0, y0: 0, x1: 1, y1: 1 },
          { x0: 900, y0: 0, x1: 901, y1: 1 },
        ],
        Infinity,
      ),
    ]).toEqual([0, 0])
  })
})

describe('a fill by rings', () => {
  it('comes near every spot, within half a pitch but in corners, and burns nothing outside', () => {
    fc.assert(
      fc.property(shapes, fc.constantFrom('far' as const, 'near' as const), (area, begins) => {
        const stretches = stretchesOf(filled(area, settings({ strategy: 'rings', begins }), SAME))
        const spots = spotsOf(offset(area, -PITCH / 2 - 0.02), 0.37)
        const far = spots.filter(([x, y]) => nearest(stretches, x, y) > 0.75 * PITCH)
        expect(far.length).toBeLessThanOrEqual(0.02 * spots.length + 2)
        const around = offset(area, 0.01)
        for (const [ax, ay, bx, by] of stretches)
          for (const t of [0, 0.5, 1]) expect(isWithin(around, ax + t * (bx - ax), ay + t * (by - ay))).toBe(true)
      }),
      { numRuns: 60 },
    )
  })

  it('burns the middle of a small sharp piece where its next ring closes', () => {
    // Inside its first ring there is a circle of 0.352 mm: less than a pitch, more than half of one.
    const arm = [Float64Array.of(-0.7447, 1.0562, 0.7743, 1.0347, 0.0479, 3.383)]
    for (const begins of ['far', 'near'] as const) {
      const stretches = stretchesOf(filled(arm, settings({ strategy: 'rings', begins }), SAME))
      for (const [x, y] of spotsOf(offset(arm, -PITCH / 2), 0.05)) expect(nearest(stretches, x, y)).toBeLessThan(0.75 * PITCH)
    }
  })

  it('joins the rings of a round piece to one spiral, from either end', () => {
    const disc = [Float64Array.from({ length: 240 }, (_, i) => 20 + 9 * (i % 2 ? Math.sin : Math.cos)((Math.PI * (i >> 1)) / 60))]
    for (const begins of ['far', 'near'] as const) {
      const fill = filled(disc, settings({ strategy: 'rings', begins }), SAME)
      if (fill.form !== 'threads') throw new Error('No threads.')
      expect(fill.threads.length).toBeLessThanOrEqual(2)
      const [first] = fill.threads
      const [x, y] = begins === 'far' ? first : fill.threads.at(-1)!.slice(-2)
      expect(Math.hypot(x - 20, y - 20)).toBeGreaterThan(8)
    }
  })

  it('follows a narrow ring along its middle, in few threads, where a line more would not fit beside the others', () => {
    const circle = (r: number, way: 1 | -1): Ring =>
      Float64Array.from(
        { length: 400 },
        (_, i) => 20 + r * (i % 2 ? way * Math.sin((Math.PI * (i >> 1)) / 100) : Math.cos((Math.PI * (i >> 1)) / 100)),
      )
    for (const wide of [0.25, 0.5, 0.7, 1, 1.15, 1.9]) {
      const area = filledBy('evenodd', [circle(15, 1), circle(15 - wide, -1)])
      const fill = filled(area, settings({ strategy: 'rings' }), SAME)
      if (fill.form !== 'threads') throw new Error('No threads.')
      const stretches = stretchesOf(fill)
      const long = stretches.reduce((sum, [ax, ay, bx, by]) => sum + Math.hypot(bx - ax, by - ay), 0)
      expect(fill.threads.length).toBeLessThanOrEqual(8)
      // As many lines beside each other as have room, about.
      expect(long / (2 * Math.PI * (15 - wide / 2))).toBeLessThan(wide / PITCH + 1.4)
      for (let turn = 0; turn < 6; turn += 0.37) {
        const r = 15 - wide / 2
        expect(nearest(stretches, 20 + r * Math.cos(turn), 20 + r * Math.sin(turn))).toBeLessThan(0.55 * PITCH)
      }
    }
  })
})
