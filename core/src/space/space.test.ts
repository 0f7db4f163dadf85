import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  type Affine,
  composed,
  exchangesAxes,
  inverseOf,
  mapInPlace,
  mapped,
  mappedPoints,
  moving,
  onlyMoves,
  scaling,
  turning,
  turnOf,
} from './affine.ts'
import { axesToPoint, bedToAxes, flatChart, pointsToAxes } from './chart.ts'
import { poseBounds, poseCorners, poseMap, readDeg, turnedSize } from './pose.ts'

const mm = fc.double({ min: -500, max: 500, noNaN: true })
const deg = fc.oneof(fc.double({ min: -360, max: 360, noNaN: true }), fc.constantFrom(0, 90, -90, 180, 270, 450))
const side = fc.double({ min: 0.5, max: 600, noNaN: true })
const affine = fc
  .tuple(
    deg,
    fc.double({ min: 0.05, max: 20, noNaN: true }),
    fc.double({ min: 0.05, max: 20, noNaN: true }),
    mm,
    mm,
    fc.boolean(),
  )
  .map(([a, sx, sy, x, y, over]): Affine => [turning(a), scaling(over ? -sx : sx, sy), moving(x, y)].reduce(composed))
const machine = fc.record({
  axes: fc.record({ y: fc.record({ travelMm: fc.constantFrom(400, 180, 110) }) }),
  zero: fc.constantFrom('front-left', 'rear-left') as fc.Arbitrary<'front-left' | 'rear-left'>,
})
const near = (a: readonly [number, number], b: readonly [number, number], by: number): void => {
  expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(by)
}

describe('affine maps', () => {
  it('lead back, and one after the other is one', () => {
    fc.assert(
      fc.property(affine, affine, mm, mm, (a, b, x, y) => {
        near(mapped(inverseOf(a), ...mapped(a, x, y)), [x, y], 1e-6)
        near(mapped(composed(a, b), x, y), mapped(b, ...mapped(a, x, y)), 1e-6)
        const points = Float64Array.of(x, y, y, x)
        const out = mappedPoints(a, points)
        mapInPlace(a, points)
        expect([...out]).toEqual([...points])
        near([out[2], out[3]], mapped(a, y, x), 1e-9)
      }),
    )
    expect(() => inverseOf(scaling(0, 1))).toThrow(RangeError)
  })

  it('that only move give the very same number as adding, and those that turn an axis over as subtracting', () => {
    fc.assert(
      fc.property(mm, mm, mm, mm, (x, y, dx, dy) => {
        expect(mapped(moving(dx, dy), x, y)).toEqual([dx + x, dy + y])
        expect(mapped([1, 0, 0, -1, 0, dy], x, y)[1]).toBe(dy - y)
      }),
    )
  })

  it('know quarter turns exactly, and how they turn', () => {
    expect([0, 90, 180, 270, -90, 720].map((a) => turning(a).slice(0, 4))).toEqual([
      [1, 0, -0, 1],
      [0, 1, -1, 0],
      [-1, 0, -0, -1],
      [0, -1, 1, 0],
      [0, -1, 1, 0],
      [1, 0, -0, 1],
    ])
    expect(turnOf(turning(17))).toBeCloseTo(17, 9)
    expect(onlyMoves(moving(3, 4))).toBe(true)
    expect(onlyMoves(turning(1))).toBe(false)
    expect([0, 90, 180, 270].map((a) => exchangesAxes(composed(turning(a), scaling(0.2, 0.2))))).toEqual([true, true, true, true])
    expect(exchangesAxes(turning(12))).toBe(false)
    expect(exchangesAxes(scaling(1, 2))).toBe(false)
  })
})

describe('poses', () => {
  it('turn a box about its middle, which never moves', () => {
    fc.assert(
      fc.property(mm, mm, side, side, deg, (xMm, yMm, widthMm, heightMm, angle) => {
        const pose = { xMm, yMm, deg: angle }
        const size = { widthMm, heightMm }
        near(mapped(poseMap(pose, size), widthMm / 2, heightMm / 2), [xMm + widthMm / 2, yMm + heightMm / 2], 1e-6)
        const corners = poseCorners(pose, size)
        near(corners[0], mapped(poseMap(pose, size), 0, 0), 1e-9)
        const { x0, y0, x1, y1 } = poseBounds(pose, size)
        expect(Math.min(...corners.map(([x]) => x))).toBeCloseTo(x0, 6)
        expect(Math.max(...corners.map(([, y]) => y))).toBeCloseTo(y1, 6)
        expect(x1 - x0).toBeCloseTo(turnedSize(size, angle).widthMm, 6)
        expect(y1 - y0).toBeCloseTo(turnedSize(size, angle).heightMm, 6)
      }),
    )
  })

  it('read angles as people do', () => {
    expect([0, 360, -360, 190, -190, 180, -180, 17.00049, 359.9999].map(readDeg)).toEqual([0, 0, 0, -170, 170, 180, 180, 17, 0])
  })
})

describe('a chart', () => {
  it('leads there and back within a micrometre, wherever and however the workpiece lies', () => {
    fc.assert(
      fc.property(machine, mm, mm, deg, side, side, mm, mm, (at, xMm, yMm, angle, widthMm, heightMm, x, y) => {
        const chart = flatChart(at, { xMm, yMm, deg: angle }, { widthMm, heightMm })
        near(mapped(chart.fromAxes, ...mapped(chart.toAxes, x, y)), [x, y], 1e-6)
        const [ax, ay] = pointsToAxes(chart, Float64Array.of(x, y))
        expect(Number.isInteger(ax) && Number.isInteger(ay)).toBe(true)
        near(axesToPoint(chart, ax, ay), [x, y], 0.001)
        // The same by way of the sweep, whose rows are the machine's own.
        const [sx, sy] = mapped(chart.toSweep, x, y)
        near([chart.sweepX(sx), chart.sweepY(sy)], [ax, ay], 1.5)
        near([chart.fromX(ax), chart.fromY(ay)], [sx, sy], 0.002)
        near(mapped(chart.fromSweep, sx, sy), [x, y], 1e-6)
      }),
    )
  })

  it('of what is not turned has the sums that programs were always made with, to the last bit', () => {
    fc.assert(
      fc.property(machine, mm, mm, mm, mm, (at, xMm, yMm, x, y) => {
        const chart = flatChart(at, { xMm, yMm }, { widthMm: 50, heightMm: 40 })
        const down = at.zero === 'front-left' ? at.axes.y.travelMm - yMm - y : yMm + y
        expect(chart.sweepX(x)).toBe(Math.round((xMm + x) * 1000))
        expect(chart.sweepY(y)).toBe(Math.round(down * 1000))
        expect([...pointsToAxes(chart, Float64Array.of(x, y))]).toEqual([chart.sweepX(x), chart.sweepY(y)])
      }),
    )
  })

  it('turns a y over in one place: where the zero lies at the front', () => {
    expect(mapped(bedToAxes({ axes: { y: { travelMm: 400 } }, zero: 'front-left' }), 10, 30)).toEqual([10, 370])
    expect(mapped(bedToAxes({ axes: { y: { travelMm: 400 } }, zero: 'rear-left' }), 10, 30)).toEqual([10, 30])
  })
})
