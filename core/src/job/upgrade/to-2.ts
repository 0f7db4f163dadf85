import type { Stored } from './stored.ts'

/** A machine profile of version 1 as version 2 had it: its spot became a lens. What is none comes back as it is. */
export function withLenses(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || !('spotMm' in value)) return value
  const { spotMm, ...rest } = value as Stored
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
export const to2 = (job: Stored): Stored => ({ ...job, version: 2, machine: withLenses(job.machine) })
