import type { JobDocument } from '../job/document/document.ts'
import type { Operation, ProcessName } from '../job/document/operation.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { RANGES } from '../job/document/ranges.ts'
import { TRIAL_SETTINGS, type TrialAxes, type TrialAxis, type TrialSetting } from '../job/document/trial.ts'
import { fittedLens, type Machine } from '../machine/machine.ts'
import type { Material } from '../material/material.ts'
import { processOf } from '../process/table.ts'
import type { Setting } from '../proposals/new-job.ts'
import { type CardSpec, cardLayout, evenSteps } from './card.ts'

/** What a card is for: two settings against each other, or one alone. */
export const CARD_KINDS = ['power-speed', 'wedge', 'turn-on', 'interval', 'passes', 'pulses', 'focus', 'kerf'] as const
export type CardKind = (typeof CARD_KINDS)[number]

/** A card that is begun from an operation has so many values either way. */
const COUNT = 5
/** Steps of a wedge, where nobody says how many. */
export const WEDGE_STEPS = 10
const TURN_ON_STEPS = 12
/** Up to this share of full power a source wakes up. */
const TURN_ON_MOST = 0.12
/** Its strongest and its weakest power, and its fastest and slowest speed, by what the operation has. */
const POWERS = [0.5, 1.5] as const
const SPEEDS = [2, 0.5] as const
/** Scrap that a card is laid on where nothing else is said, mm: as large as it needs to be, in steps. */
const SCRAP = [90, 120, 150, 200, 300] as const

/** Three digits: what a dial shows. */
const dial = (v: number): number => Number(v.toPrecision(3))

/** Whether an operation can be tried on a card: what burns something, and is no program that is run as it is written. */
export const canBeTried = (job: JobDocument, id: string): boolean => {
  const operation = job.operations[id]
  const { form, silent } = processOf(operation)
  return form !== 'as written' && !silent?.(operation)
}

/** What of an operation can be tried on a card of its own. */
export function cardKinds(job: JobDocument, id: string): CardKind[] {
  if (!canBeTried(job, id)) return []
  const operation = job.operations[id]
  const { cutting } = processOf(operation)
  const { machine } = job
  const fills = 'intervalMm' in operation
  return CARD_KINDS.filter((kind) => {
    if (kind === 'wedge' || kind === 'interval') return fills
    if (kind === 'pulses') return machine.pulses !== undefined
    if (kind === 'focus') return machine.axes.z !== undefined
    return kind !== 'kerf' || cutting !== undefined
  })
}

/** Settings of an operation that can be tried against each other: what its process and the machine have. */
export function settingsToTry(job: JobDocument, id: string): TrialSetting[] {
  const operation = job.operations[id]
  const { machine } = job
  return TRIAL_SETTINGS.filter((setting) => {
    if (setting === 'intervalMm') return 'intervalMm' in operation
    if (setting === 'pulseHz') return machine.pulses !== undefined
    return setting !== 'offFocusMm' || machine.axes.z !== undefined
  })
}

/** So many values of a setting around what an operation has. @param count 2 to 9 */
export function valuesAround(job: JobDocument, id: string, setting: TrialSetting, count = 3): number[] {
  const operation = job.operations[id]
  const { machine } = job
  const around = (value: number, least: number, most: number, share: number): number[] =>
    aroundValue(Math.min(most, Math.max(least, value)), least, most, share, count)
  switch (setting) {
    case 'power':
      return around(operation.power, 0.01, 1, 1.25)
    case 'speedMmS':
      return around(
        operation.speedMmS,
        RANGES.speedMmS.min,
        Math.min(RANGES.speedMmS.max, machine.axes.x.speedMmS),
        1.4,
      ).reverse()
    case 'intervalMm':
      return around((operation as { intervalMm?: number }).intervalMm ?? 0.1, RANGES.intervalMm.min, RANGES.intervalMm.max, 1.5)
    case 'passes':
      return Array.from({ length: count }, (_, i) => i + 1)
    case 'pulseHz': {
      const { min, max } = machine.pulses?.hz ?? RANGES.pulseHz
      return around(operation.pulseHz ?? Math.sqrt(min * max), min, max, 2)
    }
    case 'offFocusMm': {
      const half = Math.min(10, 2 * fittedLens(machine).depthOfFocusMm)
      return evenSteps(-half, half, count).map((v) => Number(v.toFixed(2)))
    }
  }
}

/** Values around one, each as many times the last as the next is of it. */
const aroundValue = (value: number, least: number, most: number, share: number, count: number = COUNT): number[] => {
  const [low, high] = [Math.max(least, value / share), Math.min(most, value * share)]
  return [...new Set(Array.from({ length: count }, (_, i) => dial(low * (high / low) ** (i / (count - 1)))))]
}

function axesOf(kind: CardKind, operation: Operation, machine: Machine, steps: number): Pick<CardSpec, 'across' | 'down'> {
  const { power, speedMmS } = operation
  const { intervalMm = 0.1 } = operation as { readonly intervalMm?: number } & Operation
  const least = Math.max(0.01, POWERS[0] * power)
  const most = Math.max(least * 1.2, Math.min(1, POWERS[1] * power))
  const topSpeed = Math.min(RANGES.speedMmS.max, machine.axes.x.speedMmS)
  const top = Math.min(topSpeed, SPEEDS[0] * speedMmS)
  const slowest = Math.max(RANGES.speedMmS.min, Math.min(top / 2, SPEEDS[1] * speedMmS))
  const speeds = (count: number): TrialAxis => ({
    setting: 'speedMmS',
    values: Array.from({ length: count }, (_, i) => dial(top * (slowest / top) ** (i / (count - 1)))),
  })
  switch (kind) {
    case 'power-speed':
      return {
        across: { setting: 'power', values: evenSteps(least, most, COUNT).map((v) => Math.min(1, dial(v))) },
        down: speeds(COUNT),
      }
    case 'wedge':
      // Most of it where the material answers: in equal steps up to what the operation has.
      return {
        across: { setting: 'power', values: evenSteps(Math.max(0.01, power) / steps, Math.max(0.01, power), steps).map(dial) },
      }
    case 'turn-on':
      return {
        across: { setting: 'power', values: evenSteps(TURN_ON_MOST / TURN_ON_STEPS, TURN_ON_MOST, TURN_ON_STEPS).map(dial) },
      }
    case 'interval':
      return {
        across: { setting: 'intervalMm', values: aroundValue(intervalMm, RANGES.intervalMm.min, RANGES.intervalMm.max, 2) },
      }
    case 'passes':
      return { across: { setting: 'passes', values: [1, 2, 3, 4, 5] } }
    case 'pulses': {
      const { min, max } = machine.pulses!.hz
      return {
        across: {
          setting: 'pulseHz',
          values: [...new Set(Array.from({ length: COUNT }, (_, i) => dial(min * (max / min) ** (i / (COUNT - 1)))))],
        },
        down: speeds(COUNT),
      }
    }
    case 'focus': {
      const half = Math.min(10, 3 * fittedLens(machine).depthOfFocusMm)
      return { across: { setting: 'offFocusMm', values: evenSteps(-half, half, 9).map((v) => Number(v.toFixed(2))) } }
    }
    case 'kerf':
      return { across: speeds(COUNT) }
  }
}

/** What a card is burned by and on, where the operation's own does not do. */
export interface CardOn {
  /** Scrap of this material instead of the operation's. */
  readonly material?: Material
  /** Steps of a wedge. */
  readonly steps?: number
  /** What is tried, where somebody chose it. */
  readonly axes?: TrialAxes
}

/**
 * A card around what an operation has, on a piece of scrap of its material: all else as the operation says. A relief is tried as an
 * area: each of its depths is one. The job itself stays as it is. @throws RangeError where its process has no such card
 */
export function cardAround(
  job: JobDocument,
  id: string,
  kind: CardKind = 'power-speed',
  { material = operationMaterial(job, job.operations[id]), steps = WEDGE_STEPS, axes }: CardOn = {},
): { readonly spec: CardSpec; readonly setting: Setting } {
  if (!cardKinds(job, id).includes(kind)) throw new RangeError('There is nothing of this kind to try for this operation.')
  if (!(Number.isInteger(steps) && steps >= 4 && steps <= 50)) throw new RangeError('A wedge has 4 to 50 steps.')
  const operation = job.operations[id]
  const { of: _, at: __, recipe: ___, keptFrom: ____, process, ...settings } = operation
  const { machine } = job
  const fills = 'intervalMm' in operation
  // Each grey is one power over an area: a cell of one power tells what that grey does.
  const isEven = kind === 'wedge' || processOf(operation).form === 'heights' || processOf(operation).form === 'dots'
  const { passPowers } = operation as { readonly passPowers?: readonly number[] } & Operation
  const common = {
    power: operation.power,
    speedMmS: operation.speedMmS,
    passes: operation.passes,
    air: operation.air,
    ...(operation.pulseHz !== undefined && { pulseHz: operation.pulseHz }),
    ...(operation.pulseNs !== undefined && { pulseNs: operation.pulseNs }),
    ...(operation.offFocusMm !== undefined && { offFocusMm: operation.offFocusMm }),
    ...(passPowers && passPowers.length > 0 && { passPowers }),
    ...(fills && { intervalMm: (operation as { readonly intervalMm: number } & Operation).intervalMm }),
  } as Partial<Operation>
  const burned: ProcessName = isEven && fills ? 'area' : process
  const spec: CardSpec = {
    process: burned,
    isFor: process,
    settings: burned === process ? { ...settings, ...(kind === 'kerf' && { kerfMm: 0 }) } : common,
    ...(axes ?? axesOf(kind, operation, machine, steps)),
  }
  const { widthMm: wide, heightMm: high } = cardLayout(spec)
  const side = (mm: number): number => SCRAP.find((each) => each >= mm) ?? mm
  return {
    spec,
    setting: {
      workpiece: { widthMm: side(wide), heightMm: side(high), thicknessMm: material.thicknessMm },
      material,
      machine,
    },
  }
}
