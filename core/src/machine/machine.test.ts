import { describe, expect, it } from 'vitest'
import { JobError } from '../job/document/job-error.ts'
import { bringUpMachine } from '../job/upgrade/machine-axes.ts'
import { MACHINES } from '../material/catalogue.ts'
import { machineSchema } from '../reading/catalogue-schema.ts'
import { checkJob } from '../reading/check-job.ts'
import { sampleJob, squarePicture } from '../testing/sample-job.ts'
import { fittedLens, spotMm, wattsAt } from './machine.ts'
import { settingDifferences, withSettings } from './settings.ts'

const bench60 = MACHINES[0]
const told = (): Map<string, number> =>
  new Map([
    ['bed.x', 600],
    ['bed.y', 400],
    ['bed.z', 40],
    ['power.max', 1000],
    ['speed.x', 600],
    ['speed.y', 400],
    ['acceleration.x', 6000],
    ['acceleration.y', 3000],
    ['junction', 0.01],
    ['planner', 128],
  ])

describe('a machine profile', () => {
  it.each(MACHINES.map((machine) => [machine.id, machine] as const))('%s is one that the schema takes', (_id, machine) => {
    expect(machineSchema.validate(machine, { convert: false }).error).toBeUndefined()
    expect(fittedLens(machine).id).toBe(machine.lens)
  })

  it('gives watts on straight lines between what was measured', () => {
    expect(wattsAt(bench60, 0.5)).toBeCloseTo(30, 9)
    expect(wattsAt(bench60, 0)).toBe(0)
    expect(wattsAt(bench60, 1)).toBe(60)
    const measured = {
      watts: 60,
      powerCurve: [
        { power: 0.1, watts: 0 },
        { power: 0.5, watts: 20 },
        { power: 1, watts: 56 },
      ],
    }
    expect(wattsAt(measured, 0.05)).toBe(0)
    expect(wattsAt(measured, 0.3)).toBeCloseTo(10, 9)
    expect(wattsAt(measured, 0.75)).toBeCloseTo(38, 9)
    expect(wattsAt(measured, 1)).toBe(56)
  })

  it('of an older version is brought up: its spot became a lens, its bed and speeds axes, its kind a head', () => {
    // As version 1 wrote it.
    const first = {
      id: 'old-40',
      version: 3,
      name: 'Old',
      bed: { widthMm: 500, heightMm: 300 },
      zero: 'rear-left',
      watts: 40,
      fullPowerS: 255,
      maxSpeedMmS: { x: 400, y: 300 },
      accelerationMmS2: { x: 2000, y: 1500 },
      junctionDeviationMm: 0.02,
      plannerDepth: 16,
      spotMm: 0.15,
      hasAir: true,
    }
    const up = bringUpMachine(first) as typeof bench60
    expect(machineSchema.validate(up, { convert: false }).error).toBeUndefined()
    expect(spotMm(up)).toBe(0.15)
    expect(up.axes).toEqual({
      x: { travelMm: 500, speedMmS: 400, accelerationMmS2: 2000 },
      y: { travelMm: 300, speedMmS: 300, accelerationMmS2: 1500 },
    })
    expect(up.head).toEqual({ kind: 'gantry', junctionDeviationMm: 0.02 })
    const { spotMm: _, ...fourth } = first
    const mirrors = { jumpDelayS: { least: 0.001, most: 0.002, fullMm: 9 }, markDelayS: 0.001, turnDelayS: 0.002 }
    const lens = { powerCurve: [], riseTimeS: 0, lenses: bench60.lenses, lens: 'l50', address: '' }
    const scan = bringUpMachine({ ...fourth, ...lens, kind: 'scan-head', mirrors, focusTravelMm: 60 }) as typeof bench60
    expect(machineSchema.validate(scan, { convert: false }).error).toBeUndefined()
    expect(scan.head).toEqual({ kind: 'mirrors', ...mirrors })
    expect(scan.axes.z?.travelMm).toBe(60)
    expect(bringUpMachine(bench60)).toBe(bench60)
    expect(
      [null, 7, { bed: 3 }, { bed: {} }].map((value) => machineSchema.validate(bringUpMachine(value)).error !== undefined),
    ).toEqual([true, true, true, true])
  })

  it('of a scan head needs the delays of its mirrors, and others have none', () => {
    const { head } = MACHINES.find((one) => one.head.kind === 'mirrors')!
    const job = sampleJob({ picture: squarePicture(10, 5) })
    expect(() => checkJob({ ...job, machine: { ...bench60, head: { kind: 'mirrors' } } })).toThrow(JobError)
    expect(() => checkJob({ ...job, machine: { ...bench60, head: { ...head, kind: 'gantry' } } })).toThrow(JobError)
    expect(() => checkJob({ ...job, machine: { ...bench60, head: { kind: 'arm' } } })).toThrow('a kind of head')
    expect(() => checkJob({ ...job, machine: { ...bench60, axes: { x: bench60.axes.x } } })).toThrow(JobError)
    expect(() => checkJob({ ...job, machine: { ...bench60, address: 'file:///etc' } })).toThrow('tcp://HOST:PORT')
  })
})

describe('the settings that a machine tells', () => {
  it('are compared with its profile, what is equal left out', () => {
    expect(settingDifferences(bench60, told())).toEqual([])
    const other = told().set('acceleration.x', 5000).set('power.max', 255).set('something.else', 3)
    expect(settingDifferences(bench60, other).map(({ name, profile, machine }) => [name, profile, machine])).toEqual([
      ['S of full power', 1000, 255],
      ['acceleration x (mm/s²)', 6000, 5000],
    ])
    const taken = withSettings(bench60, other)
    expect(settingDifferences(taken, other)).toEqual([])
    expect(taken.version).toBe(bench60.version + 1)
  })
})
