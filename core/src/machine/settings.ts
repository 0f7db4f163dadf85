import type { Machine } from './machine.ts'

/** One setting that the machine has otherwise than its profile says. */
export interface SettingDifference {
  readonly name: string
  readonly profile: number
  readonly machine: number
  /** What it would do if the profile stays as it is. */
  readonly effect: string
}

interface Compared {
  readonly key: string
  readonly name: string
  readonly of: (machine: Machine) => number
  readonly effect: string
}

const COMPARED: readonly Compared[] = [
  {
    key: 'bed.x',
    name: 'bed, left to right (mm)',
    of: ({ bed }) => bed.widthMm,
    effect: 'jobs are refused that would fit, or planned beyond its reach',
  },
  {
    key: 'bed.y',
    name: 'bed, front to rear (mm)',
    of: ({ bed }) => bed.heightMm,
    effect: 'jobs are refused that would fit, or planned beyond its reach',
  },
  {
    key: 'bed.z',
    name: 'lens travel (mm)',
    of: ({ focusTravelMm }) => focusTravelMm,
    effect: 'the focus cannot be driven to where it should be',
  },
  {
    key: 'power.max',
    name: 'S of full power',
    of: ({ fullPowerS }) => fullPowerS,
    effect: 'all powers are off by the same factor',
  },
  { key: 'speed.x', name: 'top speed x (mm/s)', of: ({ maxSpeedMmS }) => maxSpeedMmS.x, effect: 'times are estimated wrong' },
  { key: 'speed.y', name: 'top speed y (mm/s)', of: ({ maxSpeedMmS }) => maxSpeedMmS.y, effect: 'times are estimated wrong' },
  {
    key: 'acceleration.x',
    name: 'acceleration x (mm/s²)',
    of: ({ accelerationMmS2 }) => accelerationMmS2.x,
    effect: 'times are estimated wrong, and run-ups may be too short',
  },
  {
    key: 'acceleration.y',
    name: 'acceleration y (mm/s²)',
    of: ({ accelerationMmS2 }) => accelerationMmS2.y,
    effect: 'times are estimated wrong',
  },
  {
    key: 'junction',
    name: 'junction deviation (mm)',
    of: ({ junctionDeviationMm }) => junctionDeviationMm,
    effect: 'times of curves are estimated wrong',
  },
  {
    key: 'planner',
    name: 'moves looked ahead',
    of: ({ plannerDepth }) => plannerDepth,
    effect: 'times of fine work are estimated wrong',
  },
]

/** What a machine says of itself against its profile; numbers that are equal within 0.1 % are the same. */
export function settingDifferences(machine: Machine, settings: ReadonlyMap<string, number>): SettingDifference[] {
  return COMPARED.flatMap(({ key, name, of, effect }) => {
    const told = settings.get(key)
    const profile = of(machine)
    if (told === undefined || Math.abs(told - profile) <= 0.001 * Math.max(Math.abs(told), Math.abs(profile))) return []
    // Mirrors have no acceleration to speak of.
    if (machine.kind === 'scan-head' && (key.startsWith('acceleration') || key === 'junction')) return []
    return [{ name, profile, machine: told, effect }]
  })
}

/** The profile with what the machine says of itself. */
export function withSettings(machine: Machine, settings: ReadonlyMap<string, number>): Machine {
  const told = (key: string, now: number): number => settings.get(key) ?? now
  const { bed, maxSpeedMmS: v, accelerationMmS2: a } = machine
  return {
    ...machine,
    version: machine.version + 1,
    bed: { widthMm: told('bed.x', bed.widthMm), heightMm: told('bed.y', bed.heightMm) },
    focusTravelMm: told('bed.z', machine.focusTravelMm),
    fullPowerS: told('power.max', machine.fullPowerS),
    maxSpeedMmS: { x: told('speed.x', v.x), y: told('speed.y', v.y) },
    ...(machine.kind === 'moving-head' && {
      accelerationMmS2: { x: told('acceleration.x', a.x), y: told('acceleration.y', a.y) },
      junctionDeviationMm: told('junction', machine.junctionDeviationMm),
    }),
    plannerDepth: told('planner', machine.plannerDepth),
  }
}
