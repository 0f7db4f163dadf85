import type { ProcessName } from './operation.ts'

/** A setting that a trial goes through. */
export const TRIAL_SETTINGS = ['power', 'speedMmS', 'intervalMm', 'passes', 'pulseHz'] as const
export type TrialSetting = (typeof TRIAL_SETTINGS)[number]

/** Values of one setting, in the order in which they stand on the card; power as a share of full, 0–1. */
export interface TrialAxis {
  readonly setting: TrialSetting
  readonly values: readonly number[]
}

/** What a job tries: each of its cells is an operation of its own. What was measured on them comes back by this. */
export interface Trial {
  readonly process: ProcessName
  /** From left to right. */
  readonly across: TrialAxis
  /** From top to bottom; absent: one row. */
  readonly down?: TrialAxis
  /** Where the cells lie, by their operations. */
  readonly cells: Readonly<Record<string, { readonly column: number; readonly row: number }>>
}

export const TRIAL_UNITS: Readonly<Record<TrialSetting, string>> = {
  power: '%',
  speedMmS: 'mm/s',
  intervalMm: 'mm',
  passes: 'x',
  pulseHz: 'Hz',
}
export const TRIAL_WORDS: Readonly<Record<TrialSetting, string>> = {
  power: 'power',
  speedMmS: 'speed',
  intervalMm: 'interval',
  passes: 'passes',
  pulseHz: 'pulses',
}

/** A value as it stands on the card. */
export const trialValue = (setting: TrialSetting, value: number): string =>
  String(Number((setting === 'power' ? 100 * value : value).toFixed(3)))

/** What a cell of a card tries, in words; undefined where it is none. */
export function tellCell({ across, down, cells }: Trial, id: string): string | undefined {
  const cell = cells[id]
  if (!cell) return undefined
  const one = ({ setting, values }: TrialAxis, i: number): string => `${trialValue(setting, values[i])} ${TRIAL_UNITS[setting]}`
  return [one(across, cell.column), ...(down ? [one(down, cell.row)] : [])].join(' · ')
}
