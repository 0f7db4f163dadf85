import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Bed } from './bed.ts'
import { LineError, MAX_LINE, readWords } from './line.ts'
import { Machine } from './machine.ts'
import { deviating, TRUTHS } from './truth.ts'

const truth = { ...TRUTHS['bench-60'], acceleration: { x: 1000, y: 1000 }, speed: { x: 500, y: 500 } }
const started = (bed?: Bed): Machine => {
  const machine = new Machine(truth, bed)
  for (const line of ['G21', 'G90', 'M5']) machine.take(line)
  return machine
}
const finish = (machine: Machine): Machine => {
  while (machine.finishMove());
  return machine
}
const refusal = (machine: Machine, line: string): number => {
  try {
    machine.take(line)
    return 0
  } catch (cause) {
    return (cause as LineError).number
  }
}

describe('lines', () => {
  it('are read as words, whatever their case, blanks and comments', () => {
    expect(readWords(' g1 X10.5y-3 (there) F600 ; back')).toEqual([
      { letter: 'G', value: 1 },
      { letter: 'X', value: 10.5 },
      { letter: 'Y', value: -3 },
      { letter: 'F', value: 600 },
    ])
    expect(readWords('; only words')).toEqual([])
  })

  it.each([
    ['G', 1],
    ['X1 Y', 1],
    ['%', 2],
    ['5', 2],
    [`G1 X${'1'.repeat(MAX_LINE)}`, 8],
  ])('“%s” is refused', (line, number) => {
    expect(() => readWords(line)).toThrow(LineError)
    try {
      readWords(line)
    } catch (cause) {
      expect((cause as LineError).number).toBe(number)
    }
  })

  it('never do anything but give words or a refusal, whatever is sent', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 150 }), (text) => {
        try {
          for (const { letter, value } of readWords(text)) {
            expect(letter).toMatch(/^[A-Z]$/)
            expect(Number.isFinite(value)).toBe(true)
          }
        } catch (cause) {
          expect(cause).toBeInstanceOf(LineError)
        }
      }),
      { numRuns: 1000 },
    )
  })
})

describe('driving', () => {
  it('takes the time that physics gives: up, flat, down', () => {
    const machine = started()
    machine.take('G1 X100 F6000')
    // 100 mm/s: 0.1 s up over 5 mm, 0.9 s flat, 0.1 s down.
    expect(finish(machine).counts.seconds).toBeCloseTo(1.1, 9)
    machine.take('G0 X110')
    expect(finish(machine).counts.seconds).toBeCloseTo(1.1 + 0.2, 9)
    expect(machine.status()).toContain('|at 110.000,0.000,0.000|')
  })

  it('runs through straight joints, stops where it turns around, and takes no longer for a way in pieces', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 400 }), { minLength: 1, maxLength: 60 }), (pieces) => {
        const total = pieces.reduce((sum, piece) => sum + piece, 0) / 100
        const whole = started()
        whole.take(`G1 X${total} F6000`)
        const parts = started()
        let x = 0
        for (const piece of pieces) {
          x += piece / 100
          parts.take(`G1 X${x} F6000`)
        }
        expect(finish(parts).counts.seconds).toBeCloseTo(finish(whole).counts.seconds, 6)
      }),
    )
    const back = started()
    back.take('G1 X100 F6000')
    back.take('G1 X0')
    expect(finish(back).counts.seconds).toBeCloseTo(2.2, 9)
  })

  it('never drives faster than it can brake for what it knows', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 0, max: 100 }), fc.integer({ min: 60, max: 20_000 })),
          {
            minLength: 2,
            maxLength: 80,
          },
        ),
        (moves) => {
          const machine = started()
          let most = 0
          for (const [x, y, f] of moves) {
            while (!machine.hasRoom) machine.finishMove()
            machine.take(`G1 X${x} Y${y} F${f}`)
            most = Math.max(most, f / 60)
          }
          const seconds = finish(machine).counts.seconds
          const way = machine.counts.travelMm + machine.counts.burnMm
          expect(seconds).toBeGreaterThanOrEqual(way / Math.min(most, 500 * Math.SQRT2) - 1e-9)
          expect(Number.isFinite(seconds)).toBe(true)
        },
      ),
      { numRuns: 150 },
    )
  })

  it('knows inches, relative moves and a shifted zero', () => {
    const machine = started()
    for (const line of ['G20', 'G0 X1', 'G91', 'G0 X1', 'G21', 'G0 Y10', 'G90', 'G92 X0 Y0', 'G0 X5 Y5']) machine.take(line)
    expect(finish(machine).status()).toContain('|at 55.800,15.000,')
  })
})

describe('refusing', () => {
  it('tells unknown words, moves without a speed, and keeps its place', () => {
    const machine = started()
    expect(refusal(machine, 'G7')).toBe(2)
    expect(refusal(machine, 'M77')).toBe(2)
    expect(refusal(machine, 'Q1')).toBe(2)
    expect(refusal(machine, 'G1 X10')).toBe(3)
    expect(machine.counts.lines).toBe(3)
    expect(finish(machine).status()).toContain('|at 0.000,0.000,')
  })

  it('touches what lies there with its probe, or the bed; a lens that is fixed has none', () => {
    const machine = new Machine(TRUTHS['bench-60'])
    machine.surface = 4.25
    expect(machine.probe()).toBe(4.25)
    machine.drive(5)
    expect(machine.status()).toMatch(/at 0.000,0.000,4.250/)
    machine.surface = 0
    expect(machine.probe()).toBe(0)
    machine.drive(5)
    const { focusTravel: _, ...fixed } = TRUTHS['bench-60']
    expect(() => new Machine(fixed).probe()).toThrow(LineError)
  })

  it('goes into alarm outside its bed, with the beam off, and is locked until it is reset and homed', () => {
    const machine = started()
    machine.take('M3 S500')
    machine.take('G1 X10 F600')
    expect(refusal(machine, 'G1 X700')).toBe(4)
    expect(machine.state).toBe('alarm')
    expect(machine.counts.alarms).toBe(1)
    expect(refusal(machine, 'G0 X0')).toBe(6)
    machine.reset()
    machine.home()
    expect(machine.state).toBe('idle')
    machine.take('G0 X5')
    expect(finish(machine).status()).toContain('|at 5.000,')
  })

  it('counts a move by hand as no line: the lid in its middle leaves a report that can be read', () => {
    const machine = new Machine(TRUTHS['bench-60'])
    machine.jog(50, 0, 0, 80)
    machine.drive(0.2)
    expect(machine.status()).toContain('|line 0/0|')
    machine.lid(true)
    machine.drive(1)
    expect(machine.status()).not.toContain('-1')
  })

  it('stands while it is held or its lid is open', () => {
    const machine = started()
    machine.take('G1 X100 F600')
    machine.hold()
    expect(machine.finishMove()).toBe(false)
    expect(machine.state).toBe('hold')
    machine.lid(true)
    expect(refusal(machine, 'G0 X1')).toBe(7)
    machine.lid(false)
    expect(machine.state).toBe('hold')
    machine.resume()
    expect(machine.finishMove()).toBe(true)
  })
})

describe('a line that is refused', () => {
  it('sets none of its modes: no beam stays on, and no speed or place is taken', () => {
    const bed = new Bed(60, 40, 0.1, 0.2)
    const machine = started(bed)
    machine.take('S800 F600')
    expect(refusal(machine, 'M3 G33 X20')).toBe(2)
    expect(refusal(machine, 'G91 M3 Q5')).toBe(2)
    machine.take('G1 X10')
    finish(machine)
    expect(bed.total()).toBe(0)
    expect(machine.status()).toContain('|at 10.000,0.000,')
  })
})

describe('burning', () => {
  const bedOf = (): Bed => new Bed(60, 40, 0.05, 0.2)
  const energyOf = (bed: Bed): number => bed.total()

  it('leaves as much energy as the beam gave, where the head went', () => {
    const bed = bedOf()
    const machine = started(bed)
    for (const line of ['M4 S500', 'G1 X20 Y11.3 F1200', 'G0 X0 Y0']) machine.take(line)
    finish(machine)
    // 30 W at 20 mm/s are 1.5 J/mm, and with M4 every mm gets the same.
    expect(energyOf(bed)).toBeCloseTo(1.5 * Math.hypot(20, 11.3), 0)
    expect(machine.counts.burnMm).toBeCloseTo(Math.hypot(20, 11.3), 9)
    expect(bed.energy(Math.floor(10 / 0.05), Math.floor(5.65 / 0.05))).toBeGreaterThan(0)
    expect(bed.energy(Math.floor(2 / 0.05), Math.floor(9 / 0.05))).toBe(0)
  })

  it('burns more where it is slow when the beam does not follow', () => {
    const burned = (word: string): number => {
      const bed = bedOf()
      const machine = started(bed)
      for (const line of [`${word} S500`, 'G1 X3 F12000']) machine.take(line)
      finish(machine)
      return energyOf(bed)
    }
    expect(burned('M3')).toBeGreaterThan(1.3 * burned('M4'))
  })

  it('is dark in rapids and after M5', () => {
    const bed = bedOf()
    const machine = started(bed)
    for (const line of ['M4 S1000', 'G0 X20', 'M5', 'G1 X30 F600', 'G0 X0']) machine.take(line)
    finish(machine)
    expect(energyOf(bed)).toBe(0)
  })

  it('shows it as a picture, rear first', () => {
    const bed = bedOf()
    bed.burn({ x0: 5, y0: 35, x1: 55, y1: 35, dose: 1 })
    const { widthPx, heightPx, samples } = bed.picture(1)
    expect([widthPx, heightPx]).toEqual([1200, 800])
    expect(samples[100 * 1200 + 600]).toBe(0)
    expect(samples[700 * 1200 + 600]).toBe(255)
  })
})

describe('hidden truth', () => {
  it('is off by no more than its share, and the same for the same seed', () => {
    const a = deviating(truth, 5, 0.1)
    expect(deviating(truth, 5, 0.1)).toEqual(a)
    expect(a).not.toEqual(deviating(truth, 6, 0.1))
    expect(Math.abs(a.acceleration.x / truth.acceleration.x - 1)).toBeLessThanOrEqual(0.1)
    expect(Math.abs(a.watts / truth.watts - 1)).toBeLessThanOrEqual(0.1)
  })
})

it('what says that it stands does stand: held in the first moment of a move and reset, it still knows where it is', () => {
  const machine = new Machine(TRUTHS['bench-60'])
  machine.begin('test')
  for (const line of ['G21', 'G90', 'G1X40F6000']) machine.take(line)
  machine.drive(1e-9)
  machine.hold()
  expect(machine.status()).toContain('speed 0.0')
  machine.reset()
  expect(machine.state).toBe('idle')
})
