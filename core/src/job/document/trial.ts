import type { ProcessName } from './operation.ts'

/** A setting that a trial goes through. */
export const TRIAL_SETTINGS = ['power', 'speedMmS', 'intervalMm', 'passes', 'pulseHz', 'offFocusMm'] as const
export type TrialSetting = (typeof TRIAL_SETTINGS)[number]

/** Values of one setting, in the order in which they stand on the card; power as a share of full, 0–1. */
export interface TrialAxis {
  readonly setting: TrialSetting
  readonly values: readonly number[]
}

/** What is measured on the cells of a card. */
export const TRIAL_QUANTITIES = ['depth', 'tone', 'kerf', 'watts'] as const
export type TrialQuantity = (typeof TRIAL_QUANTITIES)[number]

/** What was measured on one cell: depths and slots in mm, tones 0–1, watts. */
export type CellReadings = Readonly<Partial<Record<TrialQuantity, readonly number[]>>>

/** What a card goes through. */
export interface TrialAxes {
  /** From left to right. */
  readonly across: TrialAxis
  /** From top to bottom; absent: one row. */
  readonly down?: TrialAxis
  /** All of that once more for each of its values, one grid under the other; absent: one grid. */
  readonly again?: TrialAxis
}

/** Where a cell stands on its card, each from 0. */
export interface TrialPlace {
  readonly column: number
  readonly row: number
  readonly again?: number
}

/** What a job tries: each of its cells is an operation of its own. What was measured on them comes back by this. */
export interface Trial extends TrialAxes {
  readonly process: ProcessName
  /** What its settings are for, where that is another process: a relief is tried as an area. */
  readonly isFor?: ProcessName
  /** The job, and its operation, that it was made for. */
  readonly from?: { readonly job: string; readonly operation: string }
  /** Where the cells lie, by their operations; in the first grid where none is named. */
  readonly cells: Readonly<Record<string, TrialPlace>>
  /** A square that is burned as dark as the material turns, to compare tones with: its operation. */
  readonly full?: string
  /** How much darker than what is untouched that square was in the photo that was read, −1 to 1. */
  readonly contrast?: number
  /** What was measured on them, by their operations. */
  readonly readings?: Readonly<Record<string, CellReadings>>
  /** Cells whose readings do not count. */
  readonly leftOut?: readonly string[]
  /** The cell that came out best. */
  readonly best?: string
}

export const TRIAL_UNITS: Readonly<Record<TrialSetting, string>> = {
  power: '%',
  speedMmS: 'mm/s',
  intervalMm: 'mm',
  passes: 'x',
  pulseHz: 'Hz',
  offFocusMm: 'mm',
}
export const TRIAL_WORDS: Readonly<Record<TrialSetting, string>> = {
  power: 'power',
  speedMmS: 'speed',
  intervalMm: 'interval',
  passes: 'passes',
  pulseHz: 'pulses',
  offFocusMm: 'lens over its focus',
}

/** The settings that a card goes through, from the one across. */
export const axesOf = ({ across, down, again }: TrialAxes): TrialAxis[] => [
  across,
  ...(down ? [down] : []),
  ...(again ? [again] : []),
]

/** Which value of each of its axes a cell tries. */
export function valuesOf({ across: _, down, again, cells }: Trial, id: string): number[] {
  const { column, row, again: grid = 0 } = cells[id]
  return [column, ...(down ? [row] : []), ...(again ? [grid] : [])]
}

/** A value as it stands on the card. */
export const trialValue = (setting: TrialSetting, value: number): string =>
  String(Number((setting === 'power' ? 100 * value : value).toFixed(3)))

/** Whether an operation is part of what a card tries: what comes out of it is what the card is for. */
export const isTried = ({ trial }: { readonly trial?: Trial | undefined }, id: string): boolean =>
  trial !== undefined && (trial.cells[id] !== undefined || trial.full === id)

/** What a cell of a card tries, in words; undefined where it is none. */
export function tellCell(trial: Trial, id: string): string | undefined {
  if (id === trial.full) return 'as dark as it turns'
  if (!trial.cells[id]) return undefined
  const at = valuesOf(trial, id)
  return axesOf(trial)
    .map(({ setting, values }, i) => `${trialValue(setting, values[at[i]])} ${TRIAL_UNITS[setting]}`)
    .join(' · ')
}
