import { Clipper, ClipType, FillRule, type Paths64 } from 'clipper2-ts'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { distanceTo } from '../edge-distance.test-help.ts'
import { type Ring, ringArea } from '../ring.ts'
import { arrange, edgesOf } from './arrangement.ts'
import { cellsOf } from './edge-cells.ts'
import { halfEdges, targetOf } from './half-edges.ts'
import { NumberTable } from './number-table.ts'
import { type Filled, overlay } from './overlay.ts'

const ring = (...xy: number[]): Ring => Float64Array.from(xy)
const box = (x: number, y: number, w: number, h: number): Ring => ring(x, y, x + w, y, x + w, y + h, x, y + h)
const area = (rings: readonly Ring[]): number => rings.reduce((sum, each) => sum + ringArea(each), 0)

const odd = (n: number): boolean => (n & 1) !== 0
const combinations: readonly [string, ClipType, (a: boolean, b: boolean) => boolean][] = [
  ['union', ClipType.Union, (a, b) => a || b],
  ['intersection', ClipType.Intersection, (a, b) => a && b],
  ['difference', ClipType.Difference, (a, b) => a && !b],
  ['either', ClipType.Xor, (a, b) => a !== b],
]
const rules: readonly [string, FillRule, (n: number) => boolean][] = [
  ['even-odd', FillRule.EvenOdd, odd],
  ['nonzero', FillRule.NonZero, (n) => n !== 0],
  ['positive', FillRule.Positive, (n) => n > 0],
]

/** Any rings, simple or not, and upright boxes, whose edges often lie on each other. */
const shapes = (range: number): fc.Arbitrary<Ring[]> => {
  const at = fc.integer({ min: 0, max: range })
  const any = fc.array(at, { minLength: 6, maxLength: 30 }).map((list) => Float64Array.from(list.slice(0, list.length & ~1)))
  const upright = fc.tuple(at, at, fc.integer({ min: 1, max: range }), fc.integer({ min: 1, max: range }))
  return fc.array(
    fc.oneof(
      any,
      upright.map(([x, y, w, h]) => box(x, y, w, h)),
    ),
    { minLength: 0, maxLength: 4 },
  )
}

const paths = (rings: readonly Ring[]): Paths64 =>
  rings.map((each) => Array.from({ length: each.length / 2 }, (_, i) => ({ x: each[2 * i], y: each[2 * i + 1] })))

const around = (rings: readonly Ring[]): number =>
  rings.reduce((sum, each) => {
    let length = sum
    for (let i = 0, j = each.length - 2; i < each.length; j = i, i += 2)
      length += Math.hypot(each[i] - each[j], each[i + 1] - each[j + 1])
    return length
  }, 0)

/** How often rings wind around a place that no edge runs through. */
function windingAt(rings: readonly Ring[], x: number, y: number): number {
  let winding = 0
  for (const each of rings)
    for (let i = 0, j = each.length - 2; i < each.length; j = i, i += 2) {
      const [x0, y0, x1, y1] = [each[j], each[j + 1], each[i], each[i + 1]]
      if (y0 > y === y1 > y) continue
      const side = (x1 - x0) * (y - y0) - (y1 - y0) * (x - x0)
      if (y1 > y0 ? side > 0 : side < 0) winding += y1 > y0 ? 1 : -1
    }
  return winding
}

describe('two shapes laid over each other', () => {
  it('make squares of squares', () => {
    const [a, b] = [[box(0, 0, 10, 10)], [box(5, 5, 10, 10)]]
    const union = overlay(a, b, (i, k) => odd(i) || odd(k))
    expect(union).toHaveLength(1)
    expect(area(union)).toBe(175)
    expect(union[0]).toHaveLength(16)
    expect(area(overlay(a, b, (i, k) => odd(i) && odd(k)))).toBe(25)
    expect(area(overlay(a, b, (i, k) => odd(i) && !odd(k)))).toBe(75)
    expect(area(overlay(a, b, (i, k) => odd(i) !== odd(k)))).toBe(150)
    expect(overlay([], [], odd)).toEqual([])
    expect(overlay([ring(3, 3, 3, 3, 3, 3)], [], odd)).toEqual([])
  })

  it('give holes that turn against what is around them', () => {
    const made = overlay([box(0, 0, 30, 30), box(10, 10, 10, 10)], [], odd)
    expect(made.map(ringArea).sort((a, b) => a - b)).toEqual([-100, 900])
  })

  it('have nothing left of edges that lie on each other', () => {
    const both = overlay([box(0, 0, 10, 10)], [box(10, 0, 10, 10)], (a, b) => odd(a) || odd(b))
    expect(both.map((each) => [...each].length)).toEqual([8])
    expect(area(both)).toBe(200)
    expect(overlay([box(0, 0, 10, 10)], [box(0, 0, 10, 10)], (a, b) => odd(a) !== odd(b))).toEqual([])
  })

  it('give simple rings where corners touch', () => {
    const corners = overlay([box(0, 0, 10, 10), box(10, 10, 10, 10)], [], odd)
    expect(corners.map(ringArea)).toEqual([100, 100])
    const pinched = overlay([box(0, 0, 20, 20), ring(0, 0, 10, 5, 5, 10)], [], odd)
    expect(area(pinched)).toBe(400 - 37.5)
    for (const each of pinched) {
      const seen = new Set(Array.from({ length: each.length / 2 }, (_, i) => `${each[2 * i]} ${each[2 * i + 1]}`))
      expect(seen.size).toBe(each.length / 2)
    }
  })

  for (const range of [50, 4000, 10_000_000])
    it(`are what the library makes of them, up to rounding, on a grid of ${range}`, () => {
      fc.assert(
        fc.property(
          shapes(range),
          shapes(range),
          fc.constantFrom(...combinations),
          fc.constantFrom(...rules),
          (a, b, op, rule) => {
            const made = overlay(a, b, (i, k) => op[2](rule[2](i), rule[2](k)))
            const other = Clipper.booleanOp(op[1], paths(a), paths(b), rule[1])
            const apart = Clipper.booleanOp(ClipType.Xor, paths(made), other, FillRule.EvenOdd)
            const off = apart.reduce((sum, path) => sum + Clipper.area(path), 0)
            // Both move edges by about half a unit.
            expect(Math.abs(off)).toBeLessThanOrEqual(1 + around([...a, ...b]))
          },
        ),
        { numRuns: 300 },
      )
    })

  it('are filled where winding numbers say so, on a grid so small that all edges meet', () => {
    fc.assert(
      fc.property(shapes(9), shapes(9), fc.constantFrom(...combinations), fc.constantFrom(...rules), (a, b, op, rule) => {
        const larger = (rings: readonly Ring[]): Ring[] => rings.map((each) => each.map((v) => 12 * v))
        const [first, second] = [larger(a), larger(b)]
        const filled: Filled = (i, k) => op[2](rule[2](i), rule[2](k))
        const made = overlay(first, second, filled)
        for (let y = 6.5; y < 110; y += 12)
          for (let x = 5.5; x < 110; x += 12) {
            if (distanceTo([...first, ...second], x, y) < 1.5) continue
            expect(windingAt(made, x, y) === 1).toBe(filled(windingAt(first, x, y), windingAt(second, x, y)))
          }
      }),
      { numRuns: 200 },
    )
  })

  it('never wind around anything but once, and fill the same when laid over again', () => {
    fc.assert(
      fc.property(shapes(8), (a) => {
        const made = overlay(
          a.map((each) => each.map((v) => 1000 * v)),
          [],
          odd,
        )
        const again = overlay(made, [], (n) => n > 0)
        // Corners that lie as close as whole numbers may be rounded once more.
        expect(Math.abs(area(again) - area(made))).toBeLessThanOrEqual(around(made))
        expect(area(overlay(made, [], (n) => n > 1 || n < 0))).toBeLessThanOrEqual(around(made))
      }),
      { numRuns: 300 },
    )
  })

  it('take time as their edges are many, however they lie', () => {
    // 20 000 edges in a corner of a frame, and a hundred lines across it all.
    const dense = Array.from({ length: 5000 }, (_, i) => box(4000 * (i % 70), 4000 * Math.floor(i / 70), 1800, 1800))
    const across = Array.from({ length: 100 }, (_, i) => ring(0, 3000 * i, 6_000_000, 3000 * i, 6_000_000, 3000 * i + 20))
    const frame = box(-10_000, -10_000, 6_020_000, 6_020_000)
    const made = overlay([frame, ...dense], across, (a, b) => odd(a) && !odd(b))
    const other = Clipper.booleanOp(ClipType.Difference, paths([frame, ...dense]), paths(across), FillRule.EvenOdd)
    expect(area(made) / other.reduce((sum, path) => sum + Clipper.area(path), 0)).toBeCloseTo(1, 4)
    const cells = cellsOf(edgesOf([[frame, ...dense], across]))
    let pairs = 0
    for (let c = 0; c < cells.count; c++) pairs += (cells.starts[c + 1] - cells.starts[c]) ** 2
    expect(pairs).toBeLessThan(100 * 20_304)
  })
})

describe('an arrangement', () => {
  it('has edges that meet at vertices only, as many coming as going', () => {
    fc.assert(
      fc.property(shapes(12), shapes(12), (a, b) => {
        const made = arrange(edgesOf([a, b]))
        const { x, y, from, to, first, second } = made
        const balance = Array.from(x, () => [0, 0])
        for (let e = 0; e < from.length; e++) {
          balance[from[e]][0] += first[e]
          balance[to[e]][0] -= first[e]
          balance[from[e]][1] += second[e]
          balance[to[e]][1] -= second[e]
        }
        expect(balance.flat().every((n) => n === 0)).toBe(true)
        const turn = (i: number, k: number, v: number): number =>
          Math.sign((x[k] - x[i]) * (y[v] - y[i]) - (y[k] - y[i]) * (x[v] - x[i]))
        for (let e = 0; e < from.length; e++)
          for (let f = 0; f < e; f++) {
            const [p, q, r, s] = [from[e], to[e], from[f], to[f]]
            if (p === r || p === s || q === r || q === s) continue
            expect(turn(p, q, r) * turn(p, q, s) < 0 && turn(r, s, p) * turn(r, s, q) < 0).toBe(false)
          }
      }),
      { numRuns: 200 },
    )
  })

  it('has its half edges turning left around every vertex', () => {
    const cross = [box(0, 0, 10, 10), box(10, 10, 10, 10), box(0, 10, 10, 10), ring(10, 10, 20, 0, 20, 5)]
    const made = arrange(edgesOf([cross, []]))
    const { starts, around: turned, place } = halfEdges(made)
    for (let v = 0; v < made.x.length; v++) {
      const angles = [...turned.subarray(starts[v], starts[v + 1])].map((h) => {
        expect(turned[place[h]]).toBe(h)
        const t = targetOf(made, h)
        const angle = Math.atan2(made.y[t] - made.y[v], made.x[t] - made.x[v])
        return angle === -Math.PI ? Math.PI : angle
      })
      expect(angles).toEqual([...angles].sort((a, b) => a - b))
    }
  })
})

describe('a number table', () => {
  it('numbers keys as a map does', () => {
    fc.assert(
      fc.property(
        fc.array(fc.maxSafeInteger().map((n) => Math.abs(n) % 2 ** 52)),
        fc.integer({ min: 0, max: 40 }),
        (keys, expected) => {
          const table = new NumberTable(expected)
          const map = new Map<number, number>()
          for (const key of [...keys, ...keys]) {
            if (!map.has(key)) map.set(key, map.size)
            expect(table.numberOf(key)).toBe(map.get(key))
          }
          expect(table.size).toBe(map.size)
        },
      ),
    )
  })
})
