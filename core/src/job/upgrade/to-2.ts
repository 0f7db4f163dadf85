import type { Machine } from '../../machine/machine.ts'
import type { Stored } from './stored.ts'

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

/** Version 2: machines have lenses, a power curve and a kind. */
export const to2 = (job: Stored): Stored => ({ ...job, version: 2, machine: bringUpMachine(job.machine) })
