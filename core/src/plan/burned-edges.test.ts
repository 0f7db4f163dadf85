import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Ring, ringLength } from '../geometry/ring.ts'
import { MACHINES } from '../material/catalogue.ts'
import { MoveWriter } from '../toolpath/moves.ts'
import { BurnedEdges } from './burned-edges.ts'
import { keptPower } from './corner-power.ts'
import { writeRings } from './paths.ts'

const box = (x: number, y: number, w: number, h = w): Ring => Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h)
const turned = (ring: Ring, deg: number): Ring => {
  const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
  return ring.map((_, i) => {
    const [x, y] = [ring[i & ~1], ring[i | 1]]
    return Math.round(i % 2 === 0 ? c * x - s * y + 200_000 : s * x + c * y + 200_000)
  })
}
const long = (line: Ring): number => {
  let sum = 0
  for (let i = 2; i < line.length; i += 2) sum += Math.hypot(line[i] - line[i - 2], line[i + 1] - line[i - 1])
  return sum
}
/** What is burned of rings, µm. */
function burnedOf(rings: readonly Ring[]): number {
  const edges = new BurnedEdges(rings)
  return rings.reduce((sum, ring, i) => {
    const runs = edges.left(i, ring, true)
    return sum + (runs ? runs.reduce((all, run) => all + long(run), 0) : ringLength(ring))
  }, 0)
}

describe('edges that parts share', () => {
  it('are burned once: a grid of plates, however it lies, costs its lines', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 0, max: 90 }),
        (columns, rows, deg) => {
          const [w, h] = [30_000, 20_000]
          const plates = Array.from({ length: columns * rows }, (_, i) =>
            turned(box((i % columns) * w, Math.floor(i / columns) * h, w, h), deg),
          )
          const lines = (rows + 1) * columns * w + (columns + 1) * rows * h
          expect(Math.abs(burnedOf(plates) - lines)).toBeLessThan(60 * columns * rows)
        },
      ),
    )
  })

  it('are told from edges that only cross, lie beside each other or meet in a corner', () => {
    const apart = [box(0, 0, 20_000), box(20_100, 0, 20_000), box(10_000, 30_000, 20_000), box(50_000, 50_000, 9000)]
    const crossing = [box(0, 0, 20_000), box(10_000, 10_000, 20_000)]
    const corner = [box(0, 0, 20_000), box(20_000, 20_000, 20_000)]
    const nested = [box(0, 0, 60_000), box(10_000, 10_000, 20_000)]
    for (const rings of [apart, crossing, corner, nested])
      expect(burnedOf(rings)).toBe(rings.reduce((sum, ring) => sum + ringLength(ring), 0))
  })

  it('count where they overlap in part, in either direction, and a ring that lies on another is not burned at all', () => {
    const shifted = [box(0, 0, 30_000), box(30_000, 10_000, 30_000)]
    expect(burnedOf(shifted)).toBeCloseTo(8 * 30_000 - 20_000, -2)
    const backwards = Float64Array.of(30_000, 0, 30_000, 30_000, 60_000, 30_000, 60_000, 0)
    expect(burnedOf([box(0, 0, 30_000), backwards])).toBeCloseTo(7 * 30_000, -2)
    expect(burnedOf([box(0, 0, 30_000), box(0, 0, 30_000)])).toBe(4 * 30_000)
  })

  it('are crossed dark, and every edge is burned as often as there are passes', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 4 }), fc.boolean(), (passes, together) => {
        const moves: { x0: number; y0: number; x1: number; y1: number; s: number }[] = []
        let at = { x: 0, y: 0 }
        const writer = new MoveWriter({
          operation: () => {},
          event: () => {},
          moves: ({ count, x, y, s }) => {
            for (let i = 0; i < count; i++) {
              moves.push({ x0: at.x, y0: at.y, x1: x[i], y1: y[i], s: s[i] })
              at = { x: x[i], y: y[i] }
            }
          },
        })
        const rings = [box(0, 0, 30_000), box(30_000, 0, 30_000), box(0, 30_000, 60_000, 30_000)].map((points) => ({ points }))
        const between = together ? () => {} : undefined
        writeRings(writer, rings, { speedMmS: 20, passes: Array(passes).fill(500), between }, MACHINES[0])
        writer.flush()
        const burned = moves.filter(({ s }) => s > 0)
        const total = burned.reduce((sum, { x0, y0, x1, y1 }) => sum + Math.hypot(x1 - x0, y1 - y0), 0)
        expect(total / passes).toBeCloseTo(4 * 30_000 + 3 * 30_000 + 60_000 + 2 * 30_000, -2)
        // A place on the edge between the first two.
        const there = burned.filter(
          ({ x0, x1, y0, y1 }) => x0 === 30_000 && x1 === 30_000 && Math.min(y0, y1) < 15_000 && Math.max(y0, y1) > 15_000,
        )
        expect(there).toHaveLength(passes)
      }),
    )
  })
})

describe('power that is kept at corners', () => {
  const machine = MACHINES[0]
  it('is the same line, never under what is kept by the speed there, and plain where it runs at full speed', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 90_000 }), fc.integer({ min: 0, max: 90_000 })), {
          minLength: 2,
          maxLength: 12,
        }),
        fc.integer({ min: 5, max: 300 }),
        fc.integer({ min: 1, max: 1000 }),
        (points, speed, least) => {
          const line = Float64Array.from(points.flat())
          const made = keptPower(line, speed, 600, least, machine)
          const all = [line[0], line[1], ...made.flatMap(({ x, y }) => [x, y])]
          expect(Math.abs(long(Float64Array.from(all)) - long(line))).toBeLessThan(3 * made.length)
          for (const [x, y] of points.slice(1)) expect(made.some((to) => to.x === x && to.y === y)).toBe(true)
          for (const { s } of made) {
            expect(s).toBeGreaterThanOrEqual(600)
            expect(s).toBeLessThanOrEqual(machine.fullPowerS)
          }
        },
      ),
    )
    const square = Float64Array.of(0, 0, 100_000, 0, 100_000, 100_000)
    const made = keptPower(square, 300, 600, 480, machine)
    expect(made.length).toBeGreaterThan(8)
    expect(Math.max(...made.map(({ s }) => s))).toBeGreaterThan(900)
    expect(keptPower(square, 300, 600, 0, machine)).toHaveLength(2)
    expect(keptPower(square, 300, 0, 480, machine).every(({ s }) => s === 0)).toBe(true)
  })
})
