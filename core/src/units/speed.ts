import { MM_PER_INCH } from './length.ts'

/** Units of speed an operator may choose. Inside the core speeds are mm/s. */
export type SpeedUnit = 'mm/s' | 'mm/min' | 'in/s' | 'in/min'

const MM_S_PER: Record<SpeedUnit, number> = { 'mm/s': 1, 'mm/min': 1 / 60, 'in/s': MM_PER_INCH, 'in/min': MM_PER_INCH / 60 }

/** @param value in `unit` @returns mm/s */
export const toMmPerSecond = (value: number, unit: SpeedUnit): number => value * MM_S_PER[unit]

/** @param mmPerS mm/s @returns the number in `unit` */
export const fromMmPerSecond = (mmPerS: number, unit: SpeedUnit): number => mmPerS / MM_S_PER[unit]

const decimals: Record<SpeedUnit, number> = { 'mm/s': 1, 'mm/min': 0, 'in/s': 2, 'in/min': 1 }

/** A speed for reading, trailing zeros dropped: `12 mm/s`. @param mmPerS mm/s */
export function formatSpeed(mmPerS: number, unit: SpeedUnit): string {
  return `${Number(fromMmPerSecond(mmPerS, unit).toFixed(decimals[unit]))} ${unit}`
}
