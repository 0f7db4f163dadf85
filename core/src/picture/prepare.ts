import { ditherRows, type Kernel } from './dither.ts'
import type { GreyPicture } from './picture.ts'
import { type ResampleOptions, resampleRows } from './resample.ts'
import { NEUTRAL_TONE, type Tone, toneTable } from './tone.ts'

/** A picture as it will be burned: the mark of every dot, row by row, 0 off to 255 full. */
export interface Marks {
  readonly columns: number
  readonly rows: number
  readonly levels: Uint8Array
  /** Mean of the mark wanted before dots, 0–1. */
  readonly wantedTone: number
  /** Mean of the marks made, 0–1. */
  readonly meanTone: number
  /** Share of dots with any mark, 0–1. */
  readonly coverage: number
}

export interface PrepareSteps {
  readonly tone?: Tone
  readonly kernel: Kernel
}

/**
 * Grey picture → dots at their pitch: tone, resample, dither, once and in this order.
 * The mark wanted is 1 − lightness; transparent pixels are never marked.
 */
export function preparePicture(
  source: GreyPicture,
  columns: number,
  rows: number,
  steps: PrepareSteps,
  options: Pick<ResampleOptions, 'crop' | 'linear' | 'progress'> = {},
): Marks {
  const levels = new Uint8Array(columns * rows)
  const dither = ditherRows(steps.kernel, columns)
  let wanted = 0
  let made = 0
  let marked = 0
  const sink = (y: number, row: Float32Array): void => {
    for (let x = 0; x < columns; x++) {
      const mark = 1 - row[x]
      row[x] = mark
      wanted += mark
    }
    const out = levels.subarray(y * columns, (y + 1) * columns)
    dither(y, row, out)
    for (let x = 0; x < columns; x++) {
      const level = out[x]
      if (level !== 0) {
        made += level
        marked++
      }
    }
  }
  resampleRows(source, columns, rows, sink, { ...options, table: toneTable(steps.tone ?? NEUTRAL_TONE, source.full) })
  const n = columns * rows
  return { columns, rows, levels, wantedTone: wanted / n, meanTone: made / 255 / n, coverage: marked / n }
}
