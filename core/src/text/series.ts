import Papa from 'papaparse'

/** Numbers from one to another as texts, zeros in front. @throws RangeError with a sentence */
export function numberSeries(from: number, to: number, step: number, digits: number): string[] {
  if (![from, to, step].every(Number.isInteger) || step === 0) throw new RangeError('A series counts in whole numbers.')
  const count = Math.floor((to - from) / step) + 1
  if (!(count >= 1)) throw new RangeError(`Counting from ${from} by ${step} never comes to ${to}.`)
  if (count > MOST_ENTRIES) throw new RangeError(`A series has at most ${MOST_ENTRIES} entries; this one has ${count}.`)
  return Array.from({ length: count }, (_, i) => {
    const n = from + i * step
    return `${n < 0 ? '-' : ''}${String(Math.abs(n)).padStart(digits, '0')}`
  })
}

export const MOST_ENTRIES = 2000

/** A table of texts, as a CSV file has it. */
export interface Table {
  readonly columns: readonly string[]
  readonly rows: readonly (readonly string[])[]
}

/**
 * Reads a CSV file (RFC 4180; commas, semicolons or tabs): its first row names the columns. Empty rows are left out.
 * @throws RangeError with a sentence
 */
export function readTable(text: string): Table {
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: 'greedy' })
  const [columns, ...rows] = data
  if (!columns || columns.some((name) => name.includes('\u0000')))
    throw new RangeError('This is no table. A CSV file has texts with commas between them.')
  if (rows.length === 0)
    throw new RangeError('The table has one row only: the first row names the columns, the others are the entries.')
  if (rows.length > MOST_ENTRIES)
    throw new RangeError(
      `The table has ${rows.length} rows; a series has at most ${MOST_ENTRIES} entries. Part it into several files.`,
    )
  return { columns: columns.map((name, i) => name.trim() || `column ${i + 1}`), rows }
}

/** The entries of one column; rows that have nothing there are left out. */
export const columnOf = ({ rows }: Table, column: number): string[] =>
  rows.map((row) => (row[column] ?? '').trim()).filter((entry) => entry !== '')
