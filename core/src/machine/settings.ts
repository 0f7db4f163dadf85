import { type Axis, LENS_AXIS, type Machine } from './machine.ts'

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
    of: ({ axes }) => axes.x.travelMm,
    effect: 'jobs are refused that would fit, or planned beyond its reach',
  },
  {
    key: 'bed.y',
    name: 'bed, front to rear (mm)',
    of: ({ axes }) => axes.y.travelMm,
    effect: 'jobs are refused that would fit, or planned beyond its reach',
  },
  {
    key: 'bed.z',
    name: 'lens travel (mm)',
    of: ({ axes }) => axes.z?.travelMm ?? 0,
    effect: 'the focus cannot be driven to where it should be',
  },
  {
    key: 'power.max',
    name: 'S of full power',
    of: ({ fullPowerS }) => fullPowerS,
    effect: 'all powers are off by the same factor',
  },
  { key: 'speed.x', name: 'top speed x (mm/s)', of: ({ axes }) => axes.x.speedMmS, effect: 'times are estimated wrong' },
  { key: 'speed.y', name: 'top speed y (mm/s)', of: ({ axes }) => axes.y.speedMmS, effect: 'times are estimated wrong' },
  {
    key: 'acceleration.x',
    name: 'acceleration x (mm/s²)',
    of: ({ axes }) => axes.x.accelerationMmS2,
    effect: 'times are estimated wrong, and run-ups may be too short',
  },
  {
    key: 'acceleration.y',
    name: 'acceleration y (mm/s²)',
    of: ({ axes }) => axes.y.accelerationMmS2,
    effect: 'times are estimated wrong',
  },
  {
    key: 'junction',
    name: 'junction deviation (mm)',
    of: ({ head }) => (head.kind === 'gantry' ? head.junctionDeviationMm : 0),
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
    if (machine.head.kind === 'mirrors' && (key.startsWith('acceleration') || key === 'junction')) return []
    return [{ name, profile, machine: told, effect }]
  })
}

/** The profile with what the machine says of itself. */
export function withSettings(machine: Machine, settings: ReadonlyMap<string, number>): Machine {
  const told = (key: string, now: number): number => settings.get(key) ?? now
  const { axes, head } = machine
  const moved = (letter: 'x' | 'y'): Axis => ({
    travelMm: told(`bed.${letter}`, axes[letter].travelMm),
    speedMmS: told(`speed.${letter}`, axes[letter].speedMmS),
    // Mirrors have no acceleration to speak of.
    accelerationMmS2:
      head.kind === 'mirrors' ? axes[letter].accelerationMmS2 : told(`acceleration.${letter}`, axes[letter].accelerationMmS2),
  })
  const lens = told('bed.z', axes.z?.travelMm ?? 0)
  const { z: _, ...flat } = axes
  return {
    ...machine,
    version: machine.version + 1,
    axes: { ...flat, x: moved('x'), y: moved('y'), ...(lens > 0 ? { z: { ...(axes.z ?? LENS_AXIS), travelMm: lens } } : {}) },
    head: head.kind === 'gantry' ? { ...head, junctionDeviationMm: told('junction', head.junctionDeviationMm) } : head,
    fullPowerS: told('power.max', machine.fullPowerS),
    plannerDepth: told('planner', machine.plannerDepth),
  }
}
