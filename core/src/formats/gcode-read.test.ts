import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { askedFor } from '../edits/steps-edits.ts'
import { checkFindings } from '../findings/check.ts'
import { forecastMaps } from '../forecast/maps.ts'
import type { Supply } from '../lineage/supply.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { measureJob } from '../plan/plan.ts'
import { recordJob } from '../plan/record.ts'
import { writeProgram } from '../plan/write-program.ts'
import { programJob } from '../proposals/program-job.ts'
import { checkJob } from '../reading/check-job.ts'
import { setUps, withoutFirstPause } from '../run/set-ups.ts'
import { forecastScene } from '../scene/scene.ts'
import { greyPicture, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { readProgram } from './gcode-read.ts'

const picture = greyPicture(60, 60, (x, y) => (Math.hypot(x - 30, y - 30) < 22 ? 60 : 255))
const sample = sampleJob({ picture, widthMm: 20, engrave: { intervalMm: 0.2 } })

function textOf(job: typeof sample, supply: Supply = supplyWith(picture), only?: ReadonlySet<string>): string {
  let text = ''
  writeProgram(job, supply, (bytes) => (text += new TextDecoder().decode(bytes)), only)
  return text
}

describe('reading a program', () => {
  it('knows inches, relative moves, a shifted zero, modal words, comments and arcs', () => {
    const { moves, box, problems, air } = readProgram(
      '%\n(a sign) G20 G90\nm4 s500 M8\nG0 X1 Y1 ; there\nG1X2F60\nG21G91\nY10\nG90\nG92X0Y0\nG1X-5\nG2X5Y0I5J0\nM5\nG0X0\nM2\n',
    )
    expect(problems).toEqual([])
    expect(air).toBe(true)
    expect([moves.x[0], moves.y[0], moves.s[0], moves.speed[0]]).toEqual([25_400, 25_400, 0, 0])
    expect([moves.x[1], moves.s[1]]).toEqual([50_800, 500])
    expect(moves.speed[1]).toBeCloseTo(25.4, 5)
    expect(moves.y[2]).toBe(35_400)
    expect(moves.x[3]).toBe(45_800)
    // Half a circle of 5 mm over the middle, clockwise: up and over.
    const arc = [...Array(moves.count - 5).keys()].map((i) => Math.hypot(moves.x[i + 4] - 50_800, moves.y[i + 4] - 35_400))
    for (const radius of arc) expect(Math.abs(radius - 5000)).toBeLessThan(6)
    expect(box![3]).toBeCloseTo(40.4, 1)
  })

  it('tells each line that no machine would take, does nothing of it, and reads on', () => {
    const { problems, moves } = readProgram('G21\nG90\nG1 X5\nG77 X9\nM4 S10 Q3\nhello\nG1 X10 F600\nG2 X20 I3 J3\nG1 X30')
    expect(problems.map(({ line, severity }) => [line, severity])).toEqual([
      [3, 'stop'],
      [4, 'stop'],
      [5, 'stop'],
      [6, 'stop'],
      [8, 'stop'],
      [9, 'note'],
    ])
    expect(problems[0].message).toContain('without a speed')
    expect([...moves.x]).toEqual([10_000, 30_000])
  })

  it('says once where it leaves out waits and moves of the lens', () => {
    const { problems, moves } = readProgram('G21\nG0X5Z2\nM4S10\nG4 P0.5\nG1X9F600\nG4 P1\nZ0\nM2\n')
    expect(problems.map(({ line, severity, message }) => [line, severity, message.slice(0, 8)])).toEqual([
      [4, 'note', 'It waits'],
      [2, 'note', 'It moves'],
    ])
    expect([...moves.x]).toEqual([5000, 9000])
  })

  it('never fails, whatever is in the file', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 400 }), (text) => {
        const { moves, problems } = readProgram(text)
        expect(moves.x.length).toBe(moves.count)
        expect(problems.length).toBeLessThanOrEqual(21)
      }),
      { numRuns: 10_000 },
    )
  })
})

describe('a program from a file as a job', () => {
  const text = textOf(sample)
  const supply: Supply = { ...supplyWith(picture), program: () => text }
  const settings = { workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 }, material: MATERIALS[0], machine: MACHINES[0] }
  const job = programJob('From elsewhere', 'b'.repeat(64), readProgram(text), settings)

  it('is a job like others: it has its schema, its time, its findings, its picture', () => {
    expect(checkJob(JSON.parse(JSON.stringify(job)))).toEqual(job)
    expect(measureJob(job, supply).seconds).toBeCloseTo(measureJob(sample, supplyWith(picture)).seconds, 1)
    expect(checkFindings(job, supply).filter(({ severity }) => severity === 'stop')).toEqual([])
    const maps = forecastMaps(forecastScene(job, supply), 300, 200, 1)
    expect(maps.through.some((v) => v > 0) || forecastScene(job, supply).layers.length > 0).toBe(true)
  })

  it('makes the same moves as the program that was read', () => {
    const again = recordJob(job, supply).track
    const first = recordJob(sample, supplyWith(picture)).track
    expect(again.count).toBe(first.count)
    for (let i = 0; i < first.count; i++) {
      expect(Math.abs(again.x[i] - first.x[i])).toBeLessThanOrEqual(1)
      expect(Math.abs(again.y[i] - first.y[i])).toBeLessThanOrEqual(1)
      expect(again.s[i]).toBe(first.s[i])
    }
  })

  it('that lies outside the bed, says words nobody knows or asks too much is stopped or asked about', () => {
    const kinds = (program: string): string[] => {
      const own: Supply = { ...supplyWith(picture), program: () => program }
      return checkFindings(programJob('x', 'c'.repeat(64), readProgram(program), settings), own).map(
        ({ kind, severity }) => `${kind} ${severity}`,
      )
    }
    expect(kinds('G21 G90 M4 S200\nG1 X900 F600\nM2')).toContain('outside-bed stop')
    expect(kinds('G21 G90 M4 S200\nG33 X9\nG1 X20 Y20 F600\nM2')).toContain('program stop')
    expect(kinds('G21 G90 M4 S4000\nG1 X20 Y20 F600\nM2')).toContain('program-power ask')
    expect(kinds('G21 G90 M4 S400\nG1 X20 Y20 F600')).toContain('program note')
  })
})

describe('set-ups', () => {
  it('begin where a pause asks for another one, each with a program of its own', () => {
    const job = askedFor(sample, 'cut', { kind: 'set-up', name: 'Peel the film off' })
    expect(setUps(sample)).toEqual([['engrave', 'cut']])
    expect(setUps(job)).toEqual([['engrave'], ['cut']])
    const second = textOf(withoutFirstPause(job, ['cut']), supplyWith(picture), new Set(['cut']))
    expect(second).not.toContain('M0')
    expect(second).toMatch(/M2\n$/)
    expect(textOf(job)).toContain('M0')
    expect(withoutFirstPause(sample, ['engrave'])).toEqual(sample)
  })
})
