import type { Quantity } from './curve.ts'

/** What can be read off a piece. */
export type Measurable = Exclude<Quantity, 'gain'>

/** Units that a column may be in, by what is written in its head: how many of ours one of theirs is. */
export const READING_UNITS: Readonly<Record<Measurable, readonly (readonly [RegExp, number])[]>> = {
  depth: [
    [/µm|μm|\bum\b|micron/i, 0.001],
    [/\bin\b|inch|"/i, 25.4],
    [/\bcm\b/i, 10],
    [/mm/i, 1],
  ],
  kerf: [
    [/µm|μm|\bum\b|micron/i, 0.001],
    [/\bin\b|inch|"/i, 25.4],
    [/mm/i, 1],
  ],
  tone: [
    [/%/, 0.01],
    [/0\s*[-–…]\s*255|grey|gray/i, 1 / 255],
    [/0\s*[-–…]\s*1\b/, 1],
  ],
  watts: [
    [/\bmW\b/, 0.001],
    [/\bkW\b/, 1000],
    [/\bW\b|watt/i, 1],
  ],
}
/** What the head of a column of readings says. */
export const READING_HEADS: Readonly<Record<Measurable, RegExp>> = {
  depth: /depth|deep/i,
  tone: /tone|dark/i,
  kerf: /kerf|slot|width/i,
  watts: /watt|power meter|reading/i,
}
/** A number as people write it: 0.5, 0,5, 1 200, 60 %. @returns undefined where it is none */
export function typedNumber(text: string, comma: boolean): number | undefined {
  const plain = text.replaceAll(/[\s'\u00a0]/g, '').replace(/(%|mm\/s|mm|µm|W|Hz|x)$/i, '')
  const point = comma ? plain.replaceAll('.', '').replace(',', '.') : plain
  return /^-?\d*\.?\d+(e-?\d+)?$/i.test(point) ? Number(point) : undefined
}

/** Whether numbers are written with a comma: where one stands before other than three digits, or fields are parted by something else. */
export const writesCommas = (rows: readonly (readonly string[])[], delimiter: string): boolean =>
  delimiter !== ',' && rows.some((row) => row.some((cell) => /^\s*-?\d+,\d+\s*%?$/.test(cell)))
