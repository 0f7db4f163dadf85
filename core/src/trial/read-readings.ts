import Papa from 'papaparse'
import type { JobDocument } from '../job/document/document.ts'
import { axesOf, type CellReadings, type TrialAxis, type TrialQuantity, trialValue, valuesOf } from '../job/document/trial.ts'
import { READING_HEADS, READING_UNITS, typedNumber, writesCommas } from '../material/typed-units.ts'
import { cellsOf, QUANTITY_WORDS, quantitiesOf, trialOf, withReadings } from './measured.ts'

/** A row that could not be taken, and why. */
export interface RowTrouble {
  /** As a table counts it, from 1. */
  readonly row: number
  readonly message: string
}

export interface ReadReadings {
  readonly job: JobDocument
  /** Cells that got readings. */
  readonly cells: number
  readonly quantities: readonly TrialQuantity[]
  readonly troubles: readonly RowTrouble[]
}

const SETTING_HEADS: Readonly<Record<TrialAxis['setting'], RegExp>> = {
  power: /^power\b(?!.*meter)/i,
  speedMmS: /^speed/i,
  intervalMm: /^interval|^line/i,
  passes: /^pass/i,
  pulseHz: /^puls|^freq/i,
  offFocusMm: /^focus|^lens/i,
}

/**
 * Measurements from a table: a line for each cell with the values that it tries and what was measured; or only what was measured, in
 * the order of the cells. Fields parted by commas, semicolons or tabs; numbers with a point or a comma; units in the heads.
 * @throws RangeError with a sentence where it is no such table
 */
export function readReadings(text: string, job: JobDocument): ReadReadings {
  const trial = trialOf(job)
  const { data, meta } = Papa.parse<string[]>(text.replace(/^\ufeff/, '').trim(), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: ['\t', ';', ','],
  })
  if (data.length === 0) throw new RangeError('There is nothing in it: a table has a line of heads and a line for each cell.')
  const possible = quantitiesOf(job)
  const [heads, ...rows] = data
  const axes = axesOf(trial)
  const columns = possible.flatMap((quantity) => {
    const at = heads.findIndex((head) => READING_HEADS[quantity].test(head))
    if (at < 0) return []
    const per = READING_UNITS[quantity].find(([unit]) => unit.test(heads[at]))
    return [{ quantity, at, per: per?.[1], head: heads[at].trim() }]
  })
  if (columns.length === 0)
    throw new RangeError(
      `None of its heads says what was measured: ${heads.map((head) => `“${head.trim()}”`).join(', ')}. Expected one like ${possible.map((each) => `“${QUANTITY_WORDS[each].name} ${QUANTITY_WORDS[each].unit}”`).join(' or ')}.`,
    )
  const unsaid = columns.find(({ per }) => per === undefined)
  if (unsaid)
    throw new RangeError(
      `The head “${unsaid.head}” has no unit: write it like “${QUANTITY_WORDS[unsaid.quantity].name} ${QUANTITY_WORDS[unsaid.quantity].unit}”.`,
    )
  const keys = axes.map((axis) => ({ axis, at: heads.findIndex((head) => SETTING_HEADS[axis.setting].test(head)) }))
  const byValue = keys.every(({ at }) => at >= 0)
  const comma = writesCommas(rows, meta.delimiter)
  const order = cellsOf(trial)
  const troubles: RowTrouble[] = []
  const found = new Map<string, Partial<Record<TrialQuantity, number[]>>>()
  rows.forEach((fields, i) => {
    const row = i + 2
    const number = (at: number): number | undefined => typedNumber(fields[at] ?? '', comma)
    let cell: string | undefined
    if (byValue) {
      const places = keys.map(({ axis, at }) => {
        const value = number(at)
        return value === undefined
          ? -1
          : axis.values.findIndex(
              (v) => Math.abs(Number(trialValue(axis.setting, v)) - value) <= 1e-3 * Math.max(1, Math.abs(value)),
            )
      })
      cell = order.find((id) => valuesOf(trial, id).every((at, axis) => at === places[axis]))
      if (cell === undefined) {
        const bad = keys[places.indexOf(-1)] ?? keys[0]
        troubles.push({
          row,
          message: `Row ${row}: “${fields[bad.at] ?? ''}” is not tried on this card. Expected ${bad.axis.values.map((v) => trialValue(bad.axis.setting, v)).join(', ')}.`,
        })
        return
      }
    } else cell = order[i]
    if (cell === undefined) {
      troubles.push({ row, message: `Row ${row}: the card has ${order.length} cells, and this is one more.` })
      return
    }
    const own = found.get(cell) ?? {}
    for (const { quantity, at, per, head } of columns) {
      const typed = (fields[at] ?? '').trim()
      if (typed === '' || typed === '-') continue
      // Several readings of one cell stand with strokes between them.
      const values = typed.split('/').map((each) => typedNumber(each, comma))
      if (values.some((value) => value === undefined || value < 0)) {
        troubles.push({ row, message: `Row ${row}: “${typed}” under “${head}” is no number of 0 or more.` })
        continue
      }
      own[quantity] = [...(own[quantity] ?? []), ...values.map((value) => value! * per!)]
    }
    if (Object.keys(own).length > 0) found.set(cell, own)
  })
  const made = [...found].reduce((next, [cell, readings]) => withReadings(next, cell, readings as CellReadings), job)
  return { job: made, cells: found.size, quantities: columns.map(({ quantity }) => quantity), troubles }
}

/** A table to be filled in: a line for each cell, with what is known of it. */
export function readingsTable(job: JobDocument): string {
  const trial = trialOf(job)
  const axes = axesOf(trial)
  const heads: Readonly<Record<TrialAxis['setting'], string>> = {
    power: 'power %',
    speedMmS: 'speed mm/s',
    intervalMm: 'interval mm',
    passes: 'passes',
    pulseHz: 'pulses Hz',
    offFocusMm: 'focus mm',
  }
  const quantities = quantitiesOf(job)
  const rows = cellsOf(trial).map((id) => {
    const at = valuesOf(trial, id)
    return [
      ...axes.map(({ setting, values }, i) => trialValue(setting, values[at[i]])),
      ...quantities.map((quantity) =>
        (trial.readings?.[id]?.[quantity] ?? [])
          .map((v) => String(Number((v * QUANTITY_WORDS[quantity].per).toFixed(4))))
          .join(' / '),
      ),
    ]
  })
  return Papa.unparse(
    [
      [
        ...axes.map(({ setting }) => heads[setting]),
        ...quantities.map((each) => `${QUANTITY_WORDS[each].name} ${QUANTITY_WORDS[each].unit}`),
      ],
      ...rows,
    ],
    { newline: '\n' },
  )
}
