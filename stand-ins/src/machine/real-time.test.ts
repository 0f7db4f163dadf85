import type { AddressInfo, Server } from 'node:net'
import { connect } from 'node:net'
import fc from 'fast-check'
import { afterEach, describe, expect, it } from 'vitest'
import { arcChords } from './arc.ts'
import { Bed } from './bed.ts'
import { LineError } from './line.ts'
import { Machine } from './machine.ts'
import { Workpiece } from './material.ts'
import { servePanel } from './panel.ts'
import { deviating, TRUTHS, turning } from './truth.ts'

const truth = { ...TRUTHS['bench-60'], acceleration: { x: 1000, y: 1000 }, speed: { x: 500, y: 500 } }
const started = (bed?: Bed, own = truth): Machine => {
  const machine = new Machine(own, bed)
  for (const line of ['G21', 'G90', 'M4 S500']) machine.take(line)
  return machine
}
const numberOf = (machine: Machine, line: string): number => {
  try {
    machine.take(line)
    return 0
  } catch (cause) {
    return (cause as LineError).number
  }
}
const placeOf = (machine: Machine): number[] => /at (-?[\d.]+),(-?[\d.]+),(-?[\d.]+)/.exec(machine.status())!.slice(1).map(Number)

describe('time that passes in pieces', () => {
  it('is as long as time in one piece, and burns the same', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 50 }), fc.integer({ min: 0, max: 30 })), { minLength: 1, maxLength: 12 }),
        fc.integer({ min: 1, max: 40 }),
        (moves, milliseconds) => {
          const lines = moves.map(([x, y]) => `G1 X${x} Y${y} F3000`)
          const whole = started(new Bed(60, 40, 0.2, 0.3))
          const parts = started(new Bed(60, 40, 0.2, 0.3))
          for (const line of lines) {
            whole.take(line)
            parts.take(line)
          }
          while (whole.finishMove());
          for (let i = 0; parts.isDriving && i < 1e5; i++) parts.drive(milliseconds / 1000)
          expect(parts.counts.seconds).toBeCloseTo(whole.counts.seconds, 6)
          // A cell or two at the ends of pieces fall to one side or the other; where a line starts at the bed's corner, half a
          // dozen lie on its border and count for one of them only.
          expect(Math.abs(parts.bed!.total() - whole.bed!.total())).toBeLessThanOrEqual(1 + 0.05 * whole.bed!.total())
        },
      ),
      { numRuns: 60 },
    )
  })

  it('a hold brakes with the acceleration it has, and going on burns the rest, no more and no less', () => {
    const bed = new Bed(120, 20, 0.1, 0.2)
    const machine = started(bed)
    machine.take('G1 X100 Y5 F6000')
    machine.drive(0.5)
    const [before] = placeOf(machine)
    machine.hold()
    machine.drive(10)
    expect(machine.isDriving).toBe(false)
    // From 100 mm/s at 1000 mm/s² it takes 5 mm.
    expect(placeOf(machine)[0] - before).toBeCloseTo(5, 1)
    machine.resume()
    machine.drive(10)
    expect(machine.state).toBe('idle')
    expect(Math.abs(bed.total() - (30 / 100) * Math.hypot(100, 5))).toBeLessThan(0.15)
  })

  it('the lid cuts the beam at once: what is passed while braking stays dark, and the place is told', () => {
    const bed = new Bed(120, 20, 0.1, 0.2)
    const machine = started(bed)
    const said: string[] = []
    machine.onEvent = (text) => said.push(text)
    machine.take('G1 X100 F6000')
    machine.drive(0.5)
    const [cut] = placeOf(machine)
    machine.lid(true)
    machine.drive(1)
    expect(machine.status()).toContain(`dark 3@${cut.toFixed(3)},`)
    expect(said[0]).toMatch(/^lid open\|line 3\/4\|at /)
    machine.lid(false)
    machine.resume()
    machine.drive(10)
    expect(bed.total()).toBeLessThan((30 / 100) * 96)
  })

  it('the emergency stop stands dead and slips; only homing brings the place back', () => {
    const machine = started(new Bed(120, 20, 0.1, 0.2))
    machine.take('G1 X100 F12000')
    machine.drive(0.3)
    machine.emergency(true)
    expect(machine.state).toBe('emergency')
    expect(machine.beamNow).toBe(0)
    expect(numberOf(machine, 'G0 X0')).toBe(10)
    expect(() => machine.home()).toThrow(LineError)
    machine.emergency(false)
    expect(machine.state).toBe('alarm')
    expect(numberOf(machine, 'G0 X0')).toBe(6)
    machine.home()
    machine.take('G0 X3')
    machine.drive(10)
    expect(placeOf(machine)).toEqual([3, 0, 0])
  })

  it('moving by hand ends where it is let go, and never leaves the bed', () => {
    const machine = new Machine(truth)
    machine.jog(5000, 0, 0, 100)
    machine.drive(0.4)
    machine.hold()
    machine.drive(5)
    expect(machine.state).toBe('idle')
    const [x] = placeOf(machine)
    expect(x).toBeGreaterThan(20)
    expect(x).toBeLessThan(60)
    machine.jog(0, -50, 90, 100)
    machine.drive(60)
    expect(placeOf(machine)).toEqual([x, 0, 40])
  })

  it('waits with a beam that stays, and does not burn while it waits with one that follows', () => {
    const burned = (word: string): number => {
      const bed = new Bed(20, 20, 0.05, 0.2)
      const machine = new Machine(truth, bed)
      for (const line of ['G21', `${word} S100`, 'G0 X5 Y5', 'G1 F600', 'G4 P0.5']) machine.take(line)
      machine.drive(10)
      return bed.total()
    }
    expect(burned('M3')).toBeCloseTo(3, 0)
    expect(burned('M4')).toBe(0)
  })

  it('a pause stands until the button is pressed; armed it does not move before', () => {
    const machine = started()
    machine.begin('x')
    machine.arm()
    for (const line of ['G21', 'G0 X5', 'M0']) machine.take(line)
    machine.drive(5)
    expect(machine.state).toBe('armed')
    expect(placeOf(machine)[0]).toBe(0)
    machine.press()
    machine.drive(5)
    machine.drive(1e-9)
    expect(machine.state).toBe('pause')
    expect(machine.hasRoom).toBe(false)
    machine.press()
    expect(machine.state).toBe('idle')
  })

  it('a program broken off by a reset takes no more of its lines', () => {
    const machine = started()
    machine.begin('x')
    machine.take('G0 X5')
    machine.reset()
    expect(numberOf(machine, 'G0 X9')).toBe(11)
    machine.begin('y')
    expect(numberOf(machine, 'G0 X9')).toBe(0)
  })
})

describe('arcs and mirrors', () => {
  it('chords lie on their arc, and end where they should', () => {
    const chords = arcChords(10, 0, 0, 10, 0, 0, false)!
    for (const { x, y } of chords) expect(Math.hypot(x, y)).toBeCloseTo(10, 9)
    expect(chords.at(-1)).toEqual({ x: 0, y: 10 })
    // The long way round, clockwise.
    expect(arcChords(10, 0, 0, 10, 0, 0, true)!.length).toBeGreaterThan(2.5 * chords.length)
    expect(arcChords(10, 0, 0, 12, 0, 0, true)).toBeUndefined()
    const machine = started()
    expect(numberOf(machine, 'G2 X10 Y10 I3 J3 F600')).toBe(5)
    expect(machine.counts.lines).toBe(3)
  })

  it('a scan head takes the time that its delays make', () => {
    const own = {
      ...TRUTHS['scan-20'],
      speed: { x: 1000, y: 1000 },
      mirrors: { jumpDelay: { least: 0.001, most: 0.005, fullMm: 20 }, markDelay: 0.002, turnDelay: 0.004 },
    }
    const machine = new Machine(own)
    for (const line of ['G21', 'M4 S500', 'G0 X10', 'G1 Y5 F6000', 'X15', 'G0 Y30']) machine.take(line)
    while (machine.finishMove());
    expect(machine.counts.seconds).toBeCloseTo(0.01 + 0.003 + 0.05 + 0.002 + 0.05 + 0.002 + 0.025 + 0.005, 9)
  })
})

describe('a rotary', () => {
  it('goes around and around: the same place comes back, and a stroke over the seam lies on both sides of it', () => {
    const own = { ...turning(truth, 20), spot: 0.2 }
    const once = Math.PI * 20
    const bed = new Bed(own.bed.x, own.bed.y, 0.1, 0.2)
    const machine = started(bed, own)
    // Two turns and a bit, at x 30: every place twice, the last 10 mm three times.
    for (const line of ['G0 X30', `G1 Y${(2 * once + 10).toFixed(4)} F3000`, 'G0 Y-5']) machine.take(line)
    while (machine.finishMove());
    const at = (y: number): number => bed.energy(300, Math.floor(y / 0.1))
    expect(at(40)).toBeGreaterThan(0)
    expect(at(5) / at(40)).toBeCloseTo(1.5, 1)
    expect(bed.total()).toBeCloseTo((30 / 50) * (2 * once + 10), 0)
    expect(numberOf(machine, 'G0 X900')).toBe(4)
  })
})

describe('a hidden truth', () => {
  it('shows: play shifts rows there against rows back, a late beam too, and a weak source gives nothing', () => {
    const burnedMiddle = (own: typeof truth, back: boolean): number => {
      const bed = new Bed(60, 10, 0.02, 0.1)
      const machine = started(bed, own)
      for (const line of back ? ['G0 X50 Y5', 'G1 X25 S500 F12000', 'X20 S0'] : ['G0 X0 Y5', 'G1 X25 S0 F12000', 'X30 S500'])
        machine.take(line)
      while (machine.finishMove());
      let first = 0
      while (first < bed.columns && bed.energy(first, 250) === 0) first++
      return first * 0.02
    }
    const play = { ...truth, backlash: 0.2 }
    expect(burnedMiddle(play, false) - burnedMiddle(truth, false)).toBeCloseTo(0.1, 2)
    expect(burnedMiddle(play, true) - burnedMiddle(truth, true)).toBeCloseTo(-0.1, 2)
    expect(burnedMiddle({ ...truth, latency: 0.001 }, false)).toBeGreaterThan(burnedMiddle(truth, false))
    expect(new Machine({ ...truth, turnOn: 0.1 }).watts(0.08)).toBe(0)
    expect(new Machine({ ...truth, inverted: true }).beamNow).toBe(60)
    expect(deviating(truth, 3, 0.1).unevenness).toBe(0.1)
  })

  it('out of focus the same energy lies wider', () => {
    const peak = (z: number): number => {
      const bed = new Bed(20, 20, 0.02, 0.12)
      const machine = started(bed)
      machine.surface = 3
      for (const line of [`G0 Z${z}`, 'G0 X2 Y10', 'G1 X18 F1200']) machine.take(line)
      while (machine.finishMove());
      return Math.max(...Array.from({ length: bed.rows }, (_, r) => bed.energy(500, r)))
    }
    expect(peak(3)).toBeGreaterThan(1.6 * peak(7))
  })
})

describe('the hidden material', () => {
  const cutWith = (s: number, passes: number): Workpiece => {
    const bed = new Bed(60, 40, 0.05, 0.12)
    const machine = started(bed)
    machine.take(`S${s}`)
    for (let i = 0; i < passes; i++) for (const line of ['G0 X10 Y20', 'G1 X40 F720']) machine.take(line)
    while (machine.finishMove());
    return new Workpiece({ material: 'birch-ply', thickness: 3, x0: 0, y0: 0, x1: 60, y1: 40 }, bed, 0)
  }

  it('is cut through by enough dose in one pass or several, darkens and deepens with dose', async () => {
    expect(cutWith(680, 1).through(25, 20)).toBe(true)
    expect(cutWith(300, 1).through(25, 20)).toBe(false)
    expect(cutWith(300, 2).through(25, 20)).toBe(true)
    const weak = cutWith(6, 1)
    const more = cutWith(12, 1)
    expect(more.tone(25, 20)).toBeGreaterThan(weak.tone(25, 20))
    expect(more.depth(25, 20)).toBeGreaterThan(weak.depth(25, 20))
    expect(weak.tone(25, 30)).toBe(0)
    const { through, tone } = await cutWith(680, 1).picture(24, 19.5, 20, 20, 0.05)
    expect(through.length).toBe(400)
    expect(through.some((t) => t > 0)).toBe(true)
    expect(tone.some((t) => t > 0)).toBe(true)
  })

  it('that nobody knows is refused', () => {
    expect(
      () => new Workpiece({ material: 'moon-rock', thickness: 3, x0: 0, y0: 0, x1: 1, y1: 1 }, new Bed(1, 1, 0.1, 0.1), 0),
    ).toThrow('There is no material “moon-rock”.')
  })
})

describe('the outside of a machine', () => {
  let server: Server | undefined
  afterEach(() => server?.close())

  const ask = (port: number, text: string): Promise<Record<string, unknown>> =>
    new Promise((resolve) => {
      const socket = connect({ host: '127.0.0.1', port })
      let answer = ''
      socket.on('data', (data) => {
        answer += data.toString()
        if (!answer.endsWith('\n')) return
        socket.destroy()
        resolve(JSON.parse(answer))
      })
      socket.write(`${text}\n`)
    })

  it('has button, lid and emergency stop, something laid in, and gauges; nonsense is told to be', async () => {
    const machine = new Machine(truth, new Bed(60, 40, 0.1, 0.12))
    server = await servePanel(machine, 0)
    const { port } = server.address() as AddressInfo
    const deed = (request: object): Promise<Record<string, unknown>> => ask(port, JSON.stringify(request))
    expect(await ask(port, 'hello')).toEqual({ ok: false, message: 'That is no request.' })
    expect(await deed({ do: 'dance' })).toMatchObject({ ok: false })
    expect(await deed({ do: 'tone', x: 1, y: 1 })).toEqual({ ok: false, message: 'Nothing lies in the machine.' })
    const laid = { material: 'grey-card', thickness: 1, x0: 0, y0: 0, x1: 60, y1: 40 }
    expect(await deed({ do: 'lay', laid })).toEqual({ ok: true })
    expect(machine.surface).toBe(1)
    for (const line of ['G21', 'M4 S400', 'G0 X5 Y5', 'G1 X40 F1200']) machine.take(line)
    while (machine.finishMove());
    expect(await deed({ do: 'through', x: 20, y: 5 })).toMatchObject({ ok: true, value: true })
    expect(await deed({ do: 'burned', x: 0, y: 0, columns: 60, rows: 40, cell: 1 })).toMatchObject({ ok: true })
    expect(await deed({ do: 'burned', x: 0, y: 0, columns: 1e5, rows: 1e5, cell: 1 })).toMatchObject({ ok: false })
    expect(await deed({ do: 'watts', power: 0.5 })).toEqual({ ok: true, value: 30 })
    await deed({ do: 'lid', open: true })
    expect(machine.isLidOpen).toBe(true)
    await deed({ do: 'lid', open: false })
    await deed({ do: 'emergency', pressed: true })
    expect(await deed({ do: 'state' })).toMatchObject({ ok: true, watts: 0 })
    await deed({ do: 'lift' })
    expect(await deed({ do: 'state' })).toMatchObject({ laid: null })
    // Something round is put in, in the place of the bed; something flat takes it out again.
    const { y } = machine.truth.bed
    const around = Math.PI * 20
    expect(await deed({ do: 'lay', laid: { ...laid, y1: around, diameter: 20 } })).toEqual({ ok: true })
    expect(machine.truth.turned?.diameter).toBe(20)
    expect(machine.bed!.rows * machine.bed!.cell).toBeCloseTo(around, 0)
    await deed({ do: 'lay', laid })
    expect(machine.truth.turned).toBeUndefined()
    expect(machine.truth.bed.y).toBe(y)
  })
})
