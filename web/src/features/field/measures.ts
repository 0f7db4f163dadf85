// How values are written and read: one reader of what is typed, for every field.
import {
  formatDuration,
  formatLengthNumber,
  fromMmPerSecond,
  intervalFromDpi,
  type LengthUnit,
  parseDuration,
  parseLength,
  type SpeedUnit,
  toMmPerSecond,
} from '@neotaxis/core'

/** How a value is written in a field, and how what is typed there is read. */
export interface Written<T> {
  /** Behind the field. */
  readonly unit: string
  /** As it is shown, without its unit. */
  readonly show: (value: T) => string
  /** Throws an error whose message is a sentence. */
  readonly read: (typed: string) => T
}

/** A quantity: a number, with the step that the arrow keys go. */
export interface Measure extends Written<number> {
  readonly step: number
}

/** @param unit may stand behind the number. A comma is a point. @throws Error, with a sentence, where it is no number. */
function readNumber(typed: string, unit = ''): number {
  const all = typed.trim().toLowerCase()
  const bare = (unit !== '' && all.endsWith(unit.toLowerCase()) ? all.slice(0, -unit.length) : all).trim().replace(',', '.')
  const value = Number(bare)
  if (bare === '' || !Number.isFinite(value)) throw new Error(`“${typed.trim()}” is not a number.`)
  return value
}

const plain = (digits: number) => (value: number) => String(Number(value.toFixed(digits)))

const SPEED_UNITS: readonly SpeedUnit[] = ['mm/s', 'mm/min', 'in/s', 'in/min']

/** mm, in the operator's unit. @param digits behind the point for mm, where it is not the usual count */
export const lengthIn = (unit: LengthUnit, digits?: number, step = unit === 'in' ? 1.27 : 1): Measure => {
  const shown = digits === undefined ? undefined : unit === 'in' ? digits + 2 : digits
  return { unit, step, show: (mm) => formatLengthNumber(mm, unit, shown), read: (typed) => parseLength(typed, unit) }
}

const DPI = /^(.*?)(?:dpi|lpi)$/i

/** The distance of lines, mm: as a length, or as a resolution, “254 dpi”. */
export const intervalIn = (unit: LengthUnit): Measure => {
  const length = lengthIn(unit, 3, 0.005)
  return {
    ...length,
    read: (typed) => {
      const dpi = DPI.exec(typed.trim())?.[1]
      if (dpi === undefined) return length.read(typed)
      const perInch = readNumber(dpi)
      if (!(perInch > 0)) throw new Error('A resolution is above 0 dpi.')
      return intervalFromDpi(perInch)
    },
  }
}

/** mm/s, in the operator's unit, or in the one that is typed behind it. */
export const speedIn = (unit: SpeedUnit): Measure => ({
  unit,
  step: toMmPerSecond(1, unit),
  show: (mmS) => plain(unit === 'in/s' ? 3 : 1)(fromMmPerSecond(mmS, unit)),
  read: (typed) => {
    const typedIn = SPEED_UNITS.find((each) => typed.trim().toLowerCase().endsWith(each)) ?? unit
    return toMmPerSecond(readNumber(typed, typedIn), typedIn)
  },
})

/** Shares of 1. */
export const PERCENT: Measure = {
  unit: '%',
  step: 0.01,
  show: (share) => plain(1)(share * 100),
  read: (typed) => readNumber(typed, '%') / 100,
}

const RELATIVE = /^([+\-−])\s*(\d+(?:[.,]\d+)?)\s*%$/

/** The same, or by how much it differs from what it is otherwise: “+20 %”, “-5 %”. */
export const relativeTo = (as: Measure, otherwise: number): Measure => ({
  ...as,
  read: (typed) => {
    const [, sign, percent] = RELATIVE.exec(typed.trim()) ?? []
    if (percent === undefined) return as.read(typed)
    return otherwise * (1 + ((sign === '+' ? 1 : -1) * Number(percent.replace(',', '.'))) / 100)
  },
})

/** A number as it is: whole, unless it is said how many digits stand behind the point. */
export const numberOf = (unit = '', digits = 0): Measure => ({
  unit,
  step: 10 ** -Math.min(1, digits),
  show: plain(digits),
  read: (typed) => Number(readNumber(typed, unit).toFixed(digits)),
})

/** Degrees, clockwise. */
export const DEGREES: Measure = { unit: '°', step: 1, show: plain(3), read: (typed) => readNumber(typed, '°') }

/** A value of the core in thousandths of what is typed (s as ms), or in thousands of it (bytes as kB). */
export const scaled = (unit: string, by: number): Measure => ({
  unit,
  step: by,
  show: (value) => plain(5)(value / by),
  read: (typed) => readNumber(typed, unit) * by,
})

/** Hundredths of a currency. */
export const moneyIn = (currency: string): Measure => ({
  unit: currency,
  step: 10,
  show: (cents) => (cents / 100).toFixed(2),
  read: (typed) => Math.round(readNumber(typed, currency) * 100),
})

/** s, as minutes and seconds. */
export const CLOCK: Written<number> = { unit: 'min:s', show: formatDuration, read: parseDuration }

/** Words. */
export const WORDS: Written<string> = { unit: '', show: (text) => text, read: (typed) => typed.trim() }

/** The same, where what is left open is not there at all. */
export const orAbsent = <T>(as: Written<T>): Written<T | undefined> => ({
  unit: as.unit,
  show: (value) => (value === undefined ? '' : as.show(value)),
  read: (typed) => (typed.trim() === '' ? undefined : as.read(typed)),
})

/** What may be left open. */
export const orNothing = <T>(as: Written<T>): Written<T | null> => ({
  unit: as.unit,
  show: (value) => (value === null ? '' : as.show(value)),
  read: (typed) => (typed.trim() === '' ? null : as.read(typed)),
})
