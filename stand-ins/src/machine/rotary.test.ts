import { describe, expect, it } from 'vitest'
import { riseAt } from './arched.ts'
import { Bed } from './bed.ts'
import { Machine } from './machine.ts'
import { Rotary, type Turned } from './rotary.ts'
import { TRUTHS, turning } from './truth.ts'

/** What a machine burns that turns something, and at which height of its face it is dark. */
function burned(
  turned: Turned,
  lines: readonly string[],
  x = 30,
): { readonly rows: number[]; readonly cell: number; readonly bed: Bed } {
  const truth = turning(TRUTHS['bench-60'], turned)
  const cell = 0.05
  const bed = new Bed(60, truth.bed.y, cell, truth.spot)
  const machine = new Machine(truth, bed)
  for (const line of ['G21', 'G90', ...lines, 'M5']) {
    while (!machine.hasRoom) machine.finishMove()
    machine.take(line)
  }
  while (machine.finishMove());
  expect(machine.counts.alarms).toBe(0)
  const column = Math.round(x / cell)
  const rows = Array.from({ length: bed.rows }, (_, r) => r).filter((r) => bed.energy(column, r) > 0)
  return { rows, cell, bed }
}
/** A dash along x at a height, and how far around it lies. */
const dash = (y: number): string[] => [`G0 X25 Y${y}`, 'M3 S300', `G1 X35 F6000`, 'M5']
const middle = (rows: readonly number[], cell: number): number => ((rows[0] + rows[rows.length - 1] + 1) / 2) * cell

describe('a simulated rotary', () => {
  it('goes as far around as its drive really does: a test turn that is 2 % off is seen', () => {
    const around = 40 * Math.PI
    const true_ = burned({ diameter: 40 }, [...dash(10), ...dash(10 + around)])
    expect(middle(true_.rows, true_.cell)).toBeCloseTo(10, 1)
    expect(true_.rows.length * true_.cell).toBeLessThan(0.4)
    // Its rollers are worn: once around falls 2 % short.
    const { rows, cell } = burned({ diameter: 40, share: 0.98 }, [...dash(0.5), ...dash(0.5 + around)])
    const far = rows.filter((r) => r * cell > around / 2)
    expect(0.98 * 0.5 + around - middle(far, cell)).toBeCloseTo(0.02 * around, 1)
  })

  it('slips on rollers when it is started too quickly, and not when it is started gently', () => {
    // 20 mm there in one go, at 100 mm/s: with 800 mm/s² asked and 400 held, it lags by v²/2 · (1/400 − 1/800).
    const quick = burned({ diameter: 40, acceleration: 800, slipsAt: 400 }, ['G0 X25 Y5', 'G1 Y65 F6000', ...dash(65)])
    const gentle = burned({ diameter: 40, acceleration: 300, slipsAt: 400 }, ['G0 X25 Y5', 'G1 Y65 F6000', ...dash(65)])
    expect(middle(gentle.rows, gentle.cell)).toBeCloseTo(65, 1)
    const rotary = new Rotary({ diameter: 40, slipsAt: 400 })
    rotary.drive(0, 100, 100 / 800)
    rotary.drive(100, 100, 1)
    expect(rotary.lagMm).toBeCloseTo((100 ** 2 / 2) * (1 / 400 - 1 / 800), 1)
    // And slides on as far when it is stopped as quickly.
    rotary.drive(100, 0, 100 / 800)
    rotary.drive(0, 0, 1)
    expect(Math.abs(rotary.lagMm)).toBeLessThan(0.3)
    expect(Math.abs(middle(quick.rows, quick.cell) - 65)).toBeGreaterThan(0.5)
  })

  it('wanders where it turns about a line beside its middle: places to and fro, and out of focus', () => {
    const turned: Turned = { diameter: 40, eccentric: 1 }
    const quarter = 10 * Math.PI
    const { rows, cell } = burned(turned, dash(quarter))
    expect(middle(rows, cell)).toBeCloseTo(quarter + 1, 1)
    const front = burned(turned, dash(1))
    const back = burned(turned, dash(2 * quarter))
    // Half a turn on it lies 2 mm lower: the line is wider.
    expect(back.rows.length).toBeGreaterThan(front.rows.length)
  })

  it('burns denser where it is thinner: the same turn is less of its surface there', () => {
    const cup: Turned = {
      diameter: 80,
      levelled: true,
      profile: [
        [0, 40],
        [60, 80],
      ],
    }
    const energy = (x: number): number => {
      const { bed, cell } = burned(cup, ['G0 X0 Y20', 'M3 S100', 'G1 X60 F3000'], x)
      let sum = 0
      for (let r = 0; r < bed.rows; r++) for (let c = Math.round((x - 2) / cell); c < (x + 2) / cell; c++) sum += bed.energy(c, r)
      return sum
    }
    // Ø 50 mm at 15, Ø 70 mm at 45.
    expect(energy(15) / energy(45)).toBeCloseTo(70 / 50, 1)
  })
})

describe('a curved face', () => {
  it('is out of focus away from its crown: its line is as deep there as in the middle, and wider', () => {
    const truth = TRUTHS['bench-60']
    const bed = new Bed(200, 60, 0.05, truth.spot)
    const machine = new Machine(truth, bed)
    machine.arch = { radius: 100, across: 'x', crown: 100 }
    for (const line of ['G21', 'G90', 'G0 X20 Y30', 'M3 S300', 'G1 X180 F6000', 'M5']) machine.take(line)
    while (machine.finishMove());
    const wide = (x: number): number => {
      const column = Math.round(x / bed.cell)
      return Array.from({ length: bed.rows }, (_, r) => r).filter((r) => bed.energy(column, r) > 0).length
    }
    expect(wide(100)).toBeLessThan(wide(60))
    expect(wide(60)).toBeLessThan(wide(30))
    expect(wide(140)).toBe(wide(60))
    // 100 − √(100² − 60²).
    expect(riseAt(machine.arch, 160, 0)).toBeCloseTo(-20, 9)
    expect(riseAt(machine.arch, 500, 0)).toBeCloseTo(-100, 9)
  })
})
