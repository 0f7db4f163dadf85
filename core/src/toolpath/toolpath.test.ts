import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { GcodeWriter } from '../formats/gcode.ts'
import type { Machine } from '../machine/machine.ts'
import { MACHINES } from '../material/catalogue.ts'
import { motionClock } from '../motion/clock.ts'
import { TrackRecorder, timeOfLines, trackSeconds } from '../motion/track.ts'
import { both } from '../plan/plan.ts'
import { standsFor } from './events.ts'
import { BLOCK_MOVES, MoveWriter, type PlanSink } from './moves.ts'

const [bench] = MACHINES
const turning: Machine = {
  ...bench,
  axes: {
    ...bench.axes,
    z: { travelMm: 40, speedMmS: 10, accelerationMmS2: 100 },
    a: { speedDegS: 180, accelerationDegS2: 720 },
  },
}

/** The program that a writer makes, without its head. */
function programOf(write: (writer: MoveWriter) => void): readonly string[] {
  let text = ''
  const out = new GcodeWriter({ head: [], operation: (id) => `operation ${id}` }, (bytes) => {
    text += new TextDecoder().decode(bytes)
  })
  const writer = new MoveWriter(out)
  write(writer)
  writer.flush()
  return text.trim().split('\n').slice(5)
}

function secondsOn(machine: Machine, write: (writer: MoveWriter) => void): number {
  const clock = motionClock(machine)
  clock.section()
  const sink: PlanSink = {
    operation: () => {},
    moves: (block) => clock.add(block),
    event: (event) => {
      const seconds = standsFor(event)
      if (seconds !== undefined) clock.rest(seconds)
    },
  }
  const writer = new MoveWriter(sink)
  write(writer)
  writer.flush()
  return clock.finish()[0].seconds
}

/** Seconds for a way from rest to rest. */
const ramp = (length: number, speed: number, acceleration: number): number =>
  length * acceleration <= speed ** 2 ? 2 * Math.sqrt(length / acceleration) : length / speed + speed / acceleration

describe('moves of all axes', () => {
  it('are written with the words that change, and leave the others out', () => {
    expect(
      programOf((writer) => {
        writer.operation('ring')
        writer.move(10_000, 0, 0, 0)
        writer.moveAxes(10_000, 0, -1500, 0, 0, 0)
        writer.moveAxes(12_000, 0, -1500, 90_250, 300, 20)
        writer.move(14_000, 5000, 300, 20)
        writer.moveAxes(14_000, 5000, -1500, -360_000, 0, 0)
        writer.moveAxes(14_000, 5000, -1500, -360_000, 0, 0)
      }),
    ).toEqual(['; operation ring', 'G0X10', 'Z-1.5', 'G1X12A90.25S300F1200', 'X14Y5', 'G0A-360'])
  })

  it('keep where they are while rows are burned between them, over any number of blocks', () => {
    const xs = Int32Array.from({ length: 2 * BLOCK_MOVES + 7 }, (_, i) => (i + 1) * 10)
    const lines = programOf((writer) => {
      writer.moveAxes(0, 0, 2000, 0, 0, 0)
      writer.row(1000, xs, new Uint16Array(xs.length).fill(5), new Float32Array(xs.length).fill(100))
      writer.moveAxes(0, 1000, 2000, 0, 0, 0)
    })
    expect(lines).toHaveLength(xs.length + 2)
    expect(lines.filter((line) => line.includes('Z'))).toEqual(['G0Z2'])
    expect(lines.at(-1)).toBe('G0X0')
  })

  it('take the time of their slowest axis', () => {
    const around = (deg: number) => secondsOn(turning, (writer) => writer.moveAxes(0, 0, 0, deg * 1000, 0, 0))
    expect(around(90)).toBeCloseTo(ramp(90, 180, 720), 6)
    expect(around(-720)).toBeCloseTo(ramp(720, 180, 720), 6)
    const lift = secondsOn(turning, (writer) => writer.moveAxes(0, 0, 5000, 0, 0, 0))
    expect(lift).toBeCloseTo(ramp(5, 10, 100), 6)
    // Both together: as long as the longer of the two takes.
    const together = secondsOn(turning, (writer) => writer.moveAxes(0, 0, 5000, 30_000, 0, 0))
    expect(together).toBeCloseTo(Math.max(lift, around(30)), 2)
  })

  it('are as quick as two axes alone where nothing lifts or turns', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ max: 90_000, min: 0 }), fc.integer({ max: 90_000, min: 0 })), {
          minLength: 2,
          maxLength: 40,
        }),
        (points) => {
          const write = (from: number) => (writer: MoveWriter) => {
            if (from !== 0) writer.moveAxes(0, 0, from, 0, 0, 0)
            for (const [x, y] of points) writer.move(x, y, 100, 50)
          }
          const lift = secondsOn(turning, (writer) => writer.moveAxes(0, 0, 1000, 0, 0, 0))
          const flat = secondsOn(turning, write(0))
          // Lifted first, the same way: at the joint it is a corner of 90°, as rest is but for what the corner allows.
          const lifted = secondsOn(turning, write(1000))
          expect(lifted).toBeLessThanOrEqual(flat + lift + 1e-9)
          expect(lifted).toBeGreaterThan(flat + lift - 0.05)
        },
      ),
    )
  })

  it('run straight on where they go on in one direction', () => {
    const once = secondsOn(turning, (writer) => writer.moveAxes(20_000, 0, 0, 20_000, 200, 30))
    const parted = secondsOn(turning, (writer) => {
      for (let i = 1; i <= 10; i++) writer.moveAxes(2000 * i, 0, 0, 2000 * i, 200, 30)
    })
    expect(parted).toBeCloseTo(once, 6)
  })

  it('bring a scan head to rest while its stage moves the lens', () => {
    const scan = MACHINES.find(({ head }) => head.kind === 'mirrors')!
    const jump = secondsOn(scan, (writer) => writer.move(10_000, 0, 0, 0))
    const both = secondsOn(scan, (writer) => {
      writer.moveAxes(0, 0, 3000, 0, 0, 0)
      writer.move(10_000, 0, 0, 0)
    })
    expect(both).toBeCloseTo(jump + 3 / scan.axes.z!.speedMmS, 9)
  })
})

describe('events', () => {
  const write = (writer: MoveWriter): void => {
    writer.operation('cut', ['Turn it'])
    writer.event({ kind: 'air', on: true })
    writer.move(0, 1000, 0, 0)
    writer.event({ kind: 'set-up', name: 'Turn it' })
    writer.move(10_000, 1000, 0, 0)
    writer.event({ kind: 'dwell', seconds: 0.25 })
    writer.move(20_000, 1000, 300, 20)
    writer.focus(-2000)
    writer.focus(-2000)
    writer.move(30_000, 1000, 300, 20)
    writer.event({ kind: 'air', on: false })
  }

  it('stand in the program where they happen', () => {
    expect(programOf(write)).toEqual([
      '; operation cut',
      '; pause: Turn it',
      'M8',
      'G0Y1',
      ...['M5', 'M9', 'M0', 'M8', 'M4'],
      'X10',
      'G4 P0.25',
      'G1X20S300F1200',
      '; focus at z -2',
      'G0Z-2',
      'G1X30',
      'M9',
    ])
  })

  it('take their time, and lines that are no moves shift no move in the track', () => {
    const writer = new GcodeWriter({ head: [], operation: (id) => id }, () => {})
    const recorder = new TrackRecorder(turning, () => writer.lines)
    const moves = new MoveWriter(both(writer, recorder))
    write(moves)
    moves.flush()
    const track = recorder.track()
    expect(track.count).toBe(5)
    const parts = [ramp(1, 400, 3000), ramp(10, 600, 6000), 0.25, ramp(10, 20, 6000), ramp(2, 10, 100), ramp(10, 20, 6000)]
    const sum = parts.reduce((all, part) => all + part)
    // Where the lens stops the way goes on around a corner, not from rest.
    expect(trackSeconds(track)).toBeLessThan(sum)
    expect(trackSeconds(track)).toBeGreaterThan(sum - 0.02)
    // Lines: 5 at the head, M8, G0, five of the wait, X10, G4, G1 …: after thirteen of them it stands at x 10, after the next it dwelt.
    expect(track.parts).toEqual([{ id: 'cut', firstMove: 1, linesBefore: 12 }])
    expect(timeOfLines(track, 13)).toBeCloseTo(parts[0] + parts[1], 5)
    expect(timeOfLines(track, 14)).toBeCloseTo(parts[0] + parts[1], 5)
    expect(timeOfLines(track, 15)).toBeCloseTo(parts[0] + parts[1] + parts[2] + parts[3], 5)
    expect(timeOfLines(track, writer.lines)).toBeCloseTo(trackSeconds(track), 9)
  })
})
