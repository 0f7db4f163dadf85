import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Gantry, Machine } from '../machine/machine.ts'
import { MACHINES } from '../material/catalogue.ts'
import type { MoveBlock } from '../toolpath/moves.ts'
import { MotionClock } from './time.ts'

type Move = readonly [x: number, y: number, s: number, speed: number]

const block = (moves: readonly Move[]): MoveBlock => ({
  count: moves.length,
  x: Int32Array.from(moves, (m) => m[0] * 1000),
  y: Int32Array.from(moves, (m) => m[1] * 1000),
  s: Uint16Array.from(moves, (m) => m[2]),
  speed: Float32Array.from(moves, (m) => m[3]),
})

const axes = (speedY = 500, accelerationY = 1000): Machine['axes'] => ({
  x: { travelMm: 600, speedMmS: 500, accelerationMmS2: 1000 },
  y: { travelMm: 400, speedMmS: speedY, accelerationMmS2: accelerationY },
})

const machine = (more: Partial<Machine> = {}): Machine => ({
  ...MACHINES[0],
  axes: axes(),
  ...more,
})

function secondsOf(moves: readonly Move[], on: Machine): number {
  const clock = new MotionClock(on)
  clock.section()
  clock.add(block(moves))
  return clock.finish()[0].seconds
}

/** The same by the book: forward and backward pass over all moves at once, no window. */
function plainSeconds(moves: readonly Move[], on: Machine): number {
  let x = 0
  let y = 0
  const parts = moves.flatMap(([mx, my, , speed]) => {
    const length = Math.hypot(mx - x, my - y)
    const ux = (mx - x) / length
    const uy = (my - y) / length
    x = mx
    y = my
    if (length === 0) return []
    const cap = (axis: { x: number; y: number }): number =>
      Math.min(ux ? axis.x / Math.abs(ux) : Infinity, uy ? axis.y / Math.abs(uy) : Infinity)
    const top = cap({ x: on.axes.x.speedMmS, y: on.axes.y.speedMmS })
    return [
      {
        length,
        ux,
        uy,
        top: speed > 0 ? Math.min(speed, top) : top,
        a: cap({ x: on.axes.x.accelerationMmS2, y: on.axes.y.accelerationMmS2 }),
      },
    ]
  })
  const v2 = new Float64Array(parts.length + 1)
  for (let i = 1; i < parts.length; i++) {
    const p = parts[i - 1]
    const q = parts[i]
    const cos = -(p.ux * q.ux + p.uy * q.uy)
    const slower = Math.min(p.top, q.top) ** 2
    const half = Math.sqrt((1 - cos) / 2)
    const corner = (Math.min(p.a, q.a) * (on.head as Gantry).junctionDeviationMm * half) / (1 - half)
    v2[i] = cos < -0.999999 ? slower : cos > 0.999999 ? 0 : Math.min(corner, slower)
  }
  for (let i = parts.length - 1; i >= 0; i--) v2[i] = Math.min(v2[i], v2[i + 1] + 2 * parts[i].a * parts[i].length)
  for (let i = 0; i < parts.length; i++) v2[i + 1] = Math.min(v2[i + 1], v2[i] + 2 * parts[i].a * parts[i].length)
  return parts.reduce((sum, { length, top, a }, i) => {
    const v0 = Math.sqrt(v2[i])
    const v1 = Math.sqrt(v2[i + 1])
    const peak = Math.sqrt(a * length + (v2[i] + v2[i + 1]) / 2)
    if (peak <= top) return sum + (2 * peak - v0 - v1) / a
    const ramps = (2 * top * top - v2[i] - v2[i + 1]) / (2 * a)
    return sum + (2 * top - v0 - v1) / a + (length - ramps) / top
  }, 0)
}

describe('MotionClock', () => {
  it('knows a single move by hand: ramps up, runs, ramps down', () => {
    // 100 mm at 100 mm/s with 1000 mm/s²: 0.1 s up over 5 mm, 0.9 s flat, 0.1 s down.
    expect(secondsOf([[100, 0, 0, 100]], machine())).toBeCloseTo(1.1, 9)
    // 10 mm never reach 500 mm/s: 2·√(10/1000).
    expect(secondsOf([[10, 0, 0, 0]], machine())).toBeCloseTo(0.2, 9)
  })

  it('stops at a turn around, runs through a straight joint', () => {
    const there = secondsOf([[100, 0, 0, 100]], machine())
    expect(
      secondsOf(
        [
          [100, 0, 0, 100],
          [0, 0, 0, 100],
        ],
        machine(),
      ),
    ).toBeCloseTo(2 * there, 9)
    expect(
      secondsOf(
        [
          [40, 0, 0, 100],
          [100, 0, 900, 100],
        ],
        machine(),
      ),
    ).toBeCloseTo(there, 9)
  })

  it('takes L/v + 2·v/a for a row with its run-ups', () => {
    const v = 200
    const lead = (v * v) / 2000
    expect(secondsOf([[lead + 300 + lead, 0, 0, v]], machine())).toBeCloseTo(300 / v + (2 * v) / 1000, 9)
  })

  it('limits each axis on its own, and parts sections and burning from travel', () => {
    const slow = machine({ axes: axes(50) })
    expect(secondsOf([[100, 100, 0, 0]], slow)).toBeGreaterThan(2)
    const clock = new MotionClock(machine())
    clock.section()
    clock.add(block([[30, 0, 0, 0]]))
    clock.section()
    clock.add(block([[30, 40, 500, 20]]))
    const [travel, burn] = clock.finish()
    expect(travel).toMatchObject({ travelMm: 30, burnMm: 0 })
    expect(burn.burnMm).toBeCloseTo(40, 9)
    expect(burn.seconds).toBeGreaterThan(2)
  })

  const path = fc.array(
    fc.tuple(
      fc.integer({ min: 0, max: 200 }),
      fc.integer({ min: 0, max: 200 }),
      fc.constantFrom(0, 500),
      fc.constantFrom(0, 5, 40, 300),
    ),
    { minLength: 1, maxLength: 120 },
  )

  it('agrees with both passes over the whole way when the machine sees all of it', () => {
    fc.assert(
      fc.property(path, (moves) => {
        const on = machine({ plannerDepth: 4096, axes: axes(500, 400) })
        expect(secondsOf(moves, on)).toBeCloseTo(plainSeconds(moves, on), 6)
      }),
      { numRuns: 200 },
    )
  })

  it('never gets slower by looking further ahead', () => {
    fc.assert(
      fc.property(path, (moves) => {
        let before = Infinity
        for (const plannerDepth of [2, 4, 8, 32, 200]) {
          const seconds = secondsOf(moves, machine({ plannerDepth }))
          expect(seconds).toBeLessThanOrEqual(before + 1e-9)
          before = seconds
        }
      }),
      { numRuns: 100 },
    )
  })

  it('counts the same in blocks of any size', () => {
    fc.assert(
      fc.property(path, fc.integer({ min: 1, max: 7 }), (moves, size) => {
        const clock = new MotionClock(machine())
        clock.section()
        for (let i = 0; i < moves.length; i += size) clock.add(block(moves.slice(i, i + size)))
        expect(clock.finish()[0].seconds).toBeCloseTo(secondsOf(moves, machine()), 9)
      }),
      { numRuns: 60 },
    )
  })
})
