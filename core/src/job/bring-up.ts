import type { Machine } from '../machine/machine.ts'
import { JOB_VERSION } from './document.ts'

/** A machine profile as version 1 of the job had it: one spot, no lenses, no power curve, a head that is moved. */
interface FirstMachine
  extends Omit<Machine, 'kind' | 'powerCurve' | 'riseTimeS' | 'lenses' | 'lens' | 'focusTravelMm' | 'address'> {
  readonly spotMm: number
}

/** A machine profile of any version as it is now. What is none comes back as it is, for the schema to refuse. */
export function bringUpMachine(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || !('spotMm' in value)) return value
  const { spotMm, ...rest } = value as FirstMachine
  return {
    kind: 'moving-head',
    powerCurve: [],
    riseTimeS: 0,
    lenses: [{ id: 'l1', name: 'Lens', focalLengthMm: 50.8, spotMm, depthOfFocusMm: 2 }],
    lens: 'l1',
    focusTravelMm: 0,
    address: '',
    ...rest,
  }
}

/** A job document of an older version as it is now. @param value not checked yet: the schema comes after */
export function bringUp(value: { version?: unknown }): unknown {
  if (typeof value.version !== 'number' || value.version >= JOB_VERSION) return value
  const job = value as { version: number; machine?: unknown }
  return { ...job, version: JOB_VERSION, machine: bringUpMachine(job.machine) }
}
