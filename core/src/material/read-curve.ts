import Papa from 'papaparse'
import type { MeasuredCurve } from './curve.ts'
import { type Measurable, READING_HEADS, READING_UNITS, typedNumber, writesCommas } from './typed-units.ts'

/** Something about a row that should be looked at. */
export interface CurveRowTrouble {
  /** As a table counts it, from 1. */
  readonly row: number
  readonly message: string
}

const INPUT_HEADS: readonly (readonly [RegExp, number])[] = [
  [/power.*%|%.*power/i, 0.01],
  [/J\s*\/\s*cm/i, 0.01],
  [/dose|J\s*\/|power|share/i, 1],
]
/** The unit that is proposed where none is said. */
const USUAL: Readonly<Record<Measurable, string>> = { depth: 'mm', tone: '%', kerf: 'mm', watts: 'W' }
/** With fewer points nothing is fitted: a line through two says nothing of what lies between. */
const LEAST_POINTS = 4
/** What falls by more than this share of the whole rise is asked about. */
const FALLS = 0.1

/**
 * A curve from a table: a column of what was given (a dose in J/mm², J/cm² or J/mm, a power), and columns of what was read; several
 * readings of one with a stroke between them, or in a line each. In any order. What cannot be taken is told at its row.
 * @param asked what was read, where a table has several @throws RangeError with a sentence where it is no such table
 */
export function readCurveTable(
  text: string,
  asked?: Measurable,
): { readonly quantity: Measurable; readonly points: MeasuredCurve['points']; readonly troubles: readonly CurveRowTrouble[] } {
  const { data, meta } = Papa.parse<string[]>(text.replace(/^\ufeff/, '').trim(), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: ['\t', ';', ','],
  })
  const [heads = [], ...rows] = data
  const input = heads.findIndex((head) => INPUT_HEADS.some(([words]) => words.test(head)))
  const quantity = (asked ? [asked] : (['depth', 'tone', 'kerf', 'watts'] as const)).find((each) =>
    heads.some((head, i) => i !== input && READING_HEADS[each].test(head)),
  )
  if (input < 0 || !quantity)
    throw new RangeError(
      `A table of a curve has heads like “dose J/mm²” and “depth mm”, not ${heads.map((head) => `“${head.trim()}”`).join(', ') || 'nothing'}.`,
    )
  const at = heads.findIndex((head, i) => i !== input && READING_HEADS[quantity].test(head))
  const unit = READING_UNITS[quantity].find(([words]) => words.test(heads[at]))
  if (!unit)
    throw new RangeError(`The head “${heads[at].trim()}” has no unit: write it like “${heads[at].trim()} (${USUAL[quantity]})”.`)
  const per = INPUT_HEADS.find(([words]) => words.test(heads[input]))![1]
  const comma = writesCommas(rows, meta.delimiter)
  const troubles: CurveRowTrouble[] = []
  const read = new Map<number, number[]>()
  rows.forEach((fields, i) => {
    const row = i + 2
    const [given, typed] = [(fields[input] ?? '').trim(), (fields[at] ?? '').trim()]
    if (typed === '' || typed === '-') return
    const dose = typedNumber(given, comma)
    const values = typed.split('/').map((each) => typedNumber(each, comma))
    const wrong =
      dose === undefined || dose < 0
        ? [given, heads[input]]
        : values.some((v) => v === undefined || v < 0)
          ? [typed, heads[at]]
          : undefined
    if (wrong) troubles.push({ row, message: `Row ${row}: “${wrong[0]}” under “${wrong[1].trim()}” is no number of 0 or more.` })
    else read.set(dose! * per, [...(read.get(dose! * per) ?? []), ...values.map((v) => v! * unit[1])])
  })
  if (read.size < LEAST_POINTS)
    throw new RangeError(
      `A curve needs at least ${LEAST_POINTS} points with different doses; ${read.size === 1 ? 'one is' : `${read.size} are`} there.`,
    )
  const points = [...read].sort((a, b) => a[0] - b[0]).map(([dose, readings]) => ({ input: dose, readings }))
  const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length
  const most = Math.max(...points.map(({ readings }) => mean(readings)))
  points.forEach(({ input: dose, readings }, i) => {
    if (i > 0 && mean(readings) < mean(points[i - 1].readings) - FALLS * most)
      troubles.push({
        row: 0,
        message: `At ${Number(dose.toPrecision(3))} it falls, from ${Number(mean(points[i - 1].readings).toPrecision(3))} to ${Number(mean(readings).toPrecision(3))}: more light never does less. Measure it again, or leave it out.`,
      })
  })
  return { quantity, points, troubles }
}
