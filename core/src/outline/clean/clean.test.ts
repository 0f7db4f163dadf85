import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { flattenPath, type Path, pathFromRing } from '../../geometry/path.ts'
import { isCubic, nearestOn, parted, pathOf, pathTurned, piecesOf, placeOn } from '../../geometry/pieces.ts'
import { type Ring, ringArea } from '../../geometry/ring.ts'
import { cleaned } from './clean.ts'
import { farthestOff } from './simplify.ts'
import type { OutlineStep } from './steps.ts'

const SIZE = { widthMm: 100, heightMm: 50 }
const ring = (...points: number[]): Ring => Float64Array.from(points)
const box = (x: number, y: number, w: number, h = w): Path => pathFromRing(ring(x, y, x + w, y, x + w, y + h, x, y + h))
const line = (...points: number[]): Path =>
  pathOf(
    Array.from({ length: points.length / 2 - 1 }, (_, i) => points.slice(2 * i, 2 * i + 4)),
    false,
  )
/** A circle of four cubics (deviation 2.7·10⁻⁴ r). */
const circle = (cx: number, cy: number, r: number): Path => {
  const k = 0.5522847498 * r
  return pathOf(
    [
      [cx + r, cy, cx + r, cy + k, cx + k, cy + r, cx, cy + r],
      [cx, cy + r, cx - k, cy + r, cx - r, cy + k, cx - r, cy],
      [cx - r, cy, cx - r, cy - k, cx - k, cy - r, cx, cy - r],
      [cx, cy - r, cx + k, cy - r, cx + r, cy - k, cx + r, cy],
    ],
    true,
  )
}
const area = (path: Path): number => Math.abs(ringArea(flattenPath(path, 0.001)))
const run = (paths: readonly Path[], ...steps: readonly OutlineStep[]) => cleaned(paths, steps, SIZE)
const on = true as const

describe('specks and boxes', () => {
  it('go by area, lines by length; what is off does nothing', () => {
    const paths = [box(0, 0, 10), box(20, 0, 1), line(0, 30, 5, 30), line(0, 40, 0.5, 40)]
    expect(run(paths, { kind: 'specks', on, areaMm2: 2 }).paths).toEqual([paths[0], paths[2]])
    expect(run(paths, { kind: 'specks', on, areaMm2: 2 }).reports[0]).toMatchObject({ removed: 2, fewerNodes: 6 })
    expect(run(paths, { kind: 'specks', on: false, areaMm2: 2 })).toEqual({ paths, reports: [undefined] })
  })

  it('a box takes what is inside, or what it touches, and is a share of the artwork', () => {
    const paths = [box(10, 10, 10), box(25, 10, 10), box(60, 10, 10)]
    // 5 to 30 mm of 100, 5 to 25 of 50.
    const erase = { kind: 'erase', on, x: 0.05, y: 0.1, width: 0.25, height: 0.4 } as const
    expect(run(paths, { ...erase, touched: false }).paths).toEqual([paths[1], paths[2]])
    expect(run(paths, { ...erase, touched: true }).paths).toEqual([paths[2]])
    // A box in the middle of a large outline touches nothing of its line.
    expect(run([box(0, 0, 40)], { ...erase, x: 0.15, width: 0.1, touched: true }).paths).toHaveLength(1)
  })

  it('holes are filled up to a size, with what stands in them', () => {
    const paths = [box(0, 0, 40), box(5, 5, 10), box(7, 7, 2), box(20, 20, 15)]
    expect(run(paths, { kind: 'fill', on, areaMm2: 120 }).paths).toEqual([paths[0], paths[3]])
  })
})

describe('joining', () => {
  it('closes what all but closes, and chains lines whichever way they run', () => {
    const [made] = run([line(0, 0, 10, 0), line(10.2, 10, 10.2, 0.1), line(0, 0.3, 0, 10, 10, 10.1)], {
      kind: 'join',
      on,
      gapMm: 0.5,
    }).paths
    expect(made.closed).toBe(true)
    expect(area(made)).toBeGreaterThan(99)
  })

  it('never bridges more than the gap, joins each end once, and loses no length', () => {
    const point = fc.record({ x: fc.double({ min: 0, max: 30, noNaN: true }), y: fc.double({ min: 0, max: 30, noNaN: true }) })
    fc.assert(
      fc.property(
        fc.array(fc.tuple(point, point), { maxLength: 14 }),
        fc.double({ min: 0.1, max: 8, noNaN: true }),
        (list, gap) => {
          const before = list
            .filter(([a, b]) => Math.hypot(a.x - b.x, a.y - b.y) > 0.01)
            .map(([a, b]) => line(a.x, a.y, b.x, b.y))
          const { paths } = run(before, { kind: 'join', on, gapMm: gap })
          const lengths = (of: readonly Path[]): number[] =>
            of.flatMap((path) => piecesOf(path).map((p) => Math.hypot(p[2] - p[0], p[3] - p[1])))
          const sum = (of: readonly Path[]): number => lengths(of).reduce((a, b) => a + b, 0)
          expect(sum(paths)).toBeGreaterThanOrEqual(sum(before) - 1e-2 * before.length)
          expect(sum(paths)).toBeLessThanOrEqual(sum(before) + gap * before.length + 1e-9)
          expect(paths.length).toBeLessThanOrEqual(before.length)
        },
      ),
    )
  })
})

describe('double lines', () => {
  const doubles = { kind: 'doubles', on, withinMm: 0.05 } as const

  it('go where they lie on others, whole or in part', () => {
    const twice = run([box(0, 0, 20), box(0.02, 0, 20)], doubles).paths
    expect(twice).toEqual([box(0, 0, 20)])
    // Two squares side by side share an edge: the second one keeps its other three.
    const [first, rest, ...more] = run([box(0, 0, 20), box(20, 0, 20)], doubles).paths
    expect(more).toEqual([])
    expect(first.closed).toBe(true)
    expect(rest.closed).toBe(false)
    const flat = flattenPath(rest, 0.01)
    let length = 0
    for (let i = 2; i < flat.length; i += 2) length += Math.hypot(flat[i] - flat[i - 2], flat[i + 1] - flat[i - 1])
    expect(length).toBeGreaterThan(59.6)
    expect(length).toBeLessThan(60.4)
  })

  it('stay where lines only cross', () => {
    const paths = [line(0, 0, 20, 20), line(0, 20, 20, 0)]
    expect(run(paths, doubles).paths).toEqual(paths)
  })
})

describe('simplifying', () => {
  it('takes nodes away within the tolerance, and keeps corners', () => {
    const many: number[] = []
    for (let i = 0; i < 40; i++) many.push(i, 0)
    for (let i = 0; i < 20; i++) many.push(40, i)
    for (let i = 40; i > 0; i--) many.push(i, 20)
    for (let i = 20; i > 0; i--) many.push(0, i)
    const { paths, reports } = run([pathFromRing(Float64Array.from(many))], { kind: 'simplify', on, toleranceMm: 0.05 })
    expect(paths[0].kinds.length).toBe(4)
    expect(area(paths[0])).toBeCloseTo(800, 6)
    expect(reports[0]).toMatchObject({ fewerNodes: 116 })
    expect(reports[0]!.offMm).toBeLessThan(1e-9)
  })

  it('stays within the tolerance on curves, and says how far it is off', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 3, max: 20, noNaN: true }),
        fc.double({ min: 0.02, max: 0.2, noNaN: true }),
        (r, toleranceMm) => {
          const polygon = Float64Array.from({ length: 400 }, (_, i) => {
            const a = ((i >> 1) * 2 * Math.PI) / 200
            return i % 2 ? 25 + (r + Math.sin(5 * a)) * Math.sin(a) : 50 + (r + Math.sin(5 * a)) * Math.cos(a)
          })
          const { paths, reports } = run([pathFromRing(polygon)], { kind: 'simplify', on, toleranceMm })
          const made = flattenPath(paths[0], 0.001)
          expect(paths[0].kinds.length).toBeLessThan(100)
          expect(reports[0]!.offMm).toBeLessThanOrEqual(toleranceMm)
          // Measured here on its own, every point against the whole of the new line.
          for (let i = 0; i < polygon.length; i += 2) {
            const off = nearestOn([pathFromRing(made)], polygon[i], polygon[i + 1])!.distance
            expect(off).toBeLessThanOrEqual(toleranceMm + 0.002)
          }
        },
      ),
      { numRuns: 25 },
    )
  })
})

it('simplifying noisy outlines leaves no loops between their points', () => {
  const noise = (i: number): number => ((Math.imul(i, 2654435761) >>> 8) % 1000) / 1000 - 0.5
  const polygon = Float64Array.from({ length: 3000 }, (_, i) => {
    const k = i >> 1
    const r = 40 + 0.12 * noise(k)
    const a = (2 * Math.PI * (k + 0.6 * noise(k + 7))) / 1500
    return i % 2 ? 25 + r * Math.sin(a) : 50 + r * Math.cos(a)
  })
  const { paths } = run([pathFromRing(polygon)], { kind: 'simplify', on, toleranceMm: 0.05 })
  const made = flattenPath(paths[0], 0.01)
  const old = [pathFromRing(polygon)]
  for (let i = 0; i < made.length; i += 8) expect(nearestOn(old, made[i], made[i + 1])!.distance).toBeLessThan(0.2)
})

describe('stretches', () => {
  const bumpy = line(0, 0, 20, 0, 25, 3, 30, 0, 50, 0)
  const step = (as: 'straight' | 'smooth' | 'refitted' | 'gone') =>
    ({ kind: 'stretch', on, from: { x: 0.2, y: 0 }, to: { x: 0.3, y: 0 }, as }) as const

  it('become straight, smooth, or go', () => {
    expect(run([bumpy], step('straight')).paths).toEqual([line(0, 0, 20, 0, 30, 0, 50, 0)])
    const [smooth] = run([bumpy], step('smooth')).paths
    for (const piece of piecesOf(smooth)) expect(placeOn(piece, 0.5)[1]).toBeCloseTo(0, 9)
    expect(run([bumpy], step('gone')).paths).toEqual([line(0, 0, 20, 0), line(30, 0, 50, 0)])
    expect(run([bumpy], step('refitted')).paths[0].closed).toBe(false)
  })

  it('of a closed outline are the shorter way round, whichever end is named first', () => {
    const cut = (a: number, b: number) =>
      run([box(0, 0, 40, 40)], { kind: 'stretch', on, from: { x: a, y: 0 }, to: { x: b, y: 0 }, as: 'gone' }).paths
    for (const [a, b] of [
      [0.1, 0.3],
      [0.3, 0.1],
    ]) {
      const [rest, ...more] = cut(a, b)
      expect(more).toEqual([])
      expect(rest.closed).toBe(false)
      expect(piecesOf(rest).reduce((sum, p) => sum + Math.hypot(p[2] - p[0], p[3] - p[1]), 0)).toBeCloseTo(140, 6)
    }
  })

  it('say so where both places are one', () => {
    const same = { kind: 'stretch', on, from: { x: 0, y: 0 }, to: { x: 0, y: 0 }, as: 'gone' } as const
    expect(run([bumpy], same).reports[0]!.trouble).toMatch(/one outline/)
  })
})

describe('nodes', () => {
  const node = (change: 'move' | 'add' | 'remove' | 'corner' | 'smooth', x: number, y: number, to?: [number, number]) =>
    ({
      kind: 'node',
      on,
      change,
      at: { x: x / 100, y: y / 50 },
      ...(to ? { to: { x: to[0] / 100, y: to[1] / 50 } } : {}),
    }) as const

  it('are moved with their handles, added without changing the shape, and removed', () => {
    const moved = (...args: Parameters<typeof node>) =>
      Array.from(run([box(0, 0, 10)], node(...args)).paths[0].points, (v) => Math.round(v * 1e6) / 1e6)
    expect(moved('move', 10, 10, [14, 12])).toEqual([0, 0, 10, 0, 14, 12, 0, 10, 0, 0])
    // The first node of a closed outline is its last one too.
    expect(moved('move', 0, 0, [-2, -1])).toEqual([-2, -1, 10, 0, 10, 10, 0, 10, -2, -1])
    const round = circle(30, 20, 10)
    const added = run([round], node('add', 37, 27)).paths[0]
    expect(added.kinds.length).toBe(5)
    expect(area(added)).toBeCloseTo(area(round), 3)
    expect(run([box(0, 0, 10)], node('remove', 10, 10)).paths[0].kinds.length).toBe(3)
    expect(run([line(0, 0, 5, 0)], node('remove', 5, 0)).paths).toEqual([])
  })

  it('become smooth, and corners again', () => {
    const smooth = run([box(0, 0, 10)], node('smooth', 10, 0)).paths[0]
    const [first, second] = piecesOf(smooth)
    expect(isCubic(first) && isCubic(second)).toBe(true)
    const cross = (first[6] - first[4]) * (second[3] - second[1]) - (first[7] - first[5]) * (second[2] - second[0])
    expect(cross).toBeCloseTo(0, 9)
    const corner = run([box(0, 0, 10)], node('smooth', 10, 0), node('corner', 10, 0)).paths[0]
    expect(Math.abs(area(corner) - 100)).toBeLessThan(Math.abs(area(smooth) - 100))
  })

  it('a closed outline begins where it is told to, and is the same shape', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }), (a) => {
        const round = circle(50, 25, 12)
        const at = { x: (50 + 12 * Math.cos(a)) / 100, y: (25 + 12 * Math.sin(a)) / 50 }
        const [made] = run([round], { kind: 'start', on, at }).paths
        expect(Math.hypot(made.points[0] - at.x * 100, made.points[1] - at.y * 50)).toBeLessThan(0.05)
        expect(area(made)).toBeCloseTo(area(round), 2)
      }),
    )
    expect(run([line(0, 0, 5, 0)], { kind: 'start', on, at: { x: 0, y: 0 } }).reports[0]!.trouble).toBeTruthy()
  })
})

describe('segments', () => {
  it('are the same curve when parted, and when turned', () => {
    const number = fc.double({ min: -50, max: 50, noNaN: true })
    fc.assert(
      fc.property(
        fc.array(number, { minLength: 8, maxLength: 8 }),
        fc.double({ min: 0.05, max: 0.95, noNaN: true }),
        (piece, t) => {
          const [a, b] = parted(piece, t)
          for (const s of [0.2, 0.7]) {
            const [x, y] = placeOn(piece, t * s)
            expect(Math.hypot(placeOn(a, s)[0] - x, placeOn(a, s)[1] - y)).toBeLessThan(1e-9)
            const [u, v] = placeOn(piece, t + (1 - t) * s)
            expect(Math.hypot(placeOn(b, s)[0] - u, placeOn(b, s)[1] - v)).toBeLessThan(1e-9)
          }
          const path = pathOf([piece], false)
          expect(pathTurned(pathTurned(path))).toEqual(path)
        },
      ),
    )
  })

  it('know how far points lie off them', () => {
    expect(farthestOff(Float64Array.of(0, 0, 5, 2, 10, 0), Float64Array.of(0, 0, 10, 0))).toBe(2)
  })
})
