import { describe, expect, it } from 'vitest'
import { JobError } from '../job/document/job-error.ts'
import { bringUpMachine } from '../job/upgrade/to-2.ts'
import { upgraded } from '../job/upgrade/upgrade.ts'
import { MACHINES } from '../material/catalogue.ts'
import { checkJob, machineSchema } from '../reading/check-job.ts'
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

  it('of an older version is brought up: its spot becomes a lens', () => {
    const { kind: _k, powerCurve: _p, riseTimeS: _r, lenses: _l, lens: _i, focusTravelMm: _f, address: _a, ...rest } = bench60
    const old = { ...rest, spotMm: 0.15 }
    const up = bringUpMachine(old) as typeof bench60
    expect(spotMm(up)).toBe(0.15)
    expect(machineSchema.validate(up, { convert: false }).error).toBeUndefined()
    expect(bringUpMachine(bench60)).toBe(bench60)
    expect(bringUpMachine(null)).toBe(null)
    const job = sampleJob({ picture: squarePicture(10, 5) })
    expect(upgraded(job as never)).toBe(job)
  })

  it('of a scan head needs the delays of its mirrors, and others have none', () => {
    const { mirrors, ...bare } = MACHINES.find(({ kind }) => kind === 'scan-head')!
    expect(mirrors).toBeDefined()
    const job = sampleJob({ picture: squarePicture(10, 5) })
    expect(() => checkJob({ ...job, machine: bare })).toThrow(JobError)
    expect(() => checkJob({ ...job, machine: { ...bench60, mirrors } })).toThrow(JobError)
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
