import { Arena } from '../kernels/kernel.ts'
import { type Kernel, rowDither } from './dither.ts'
import type { GreyPicture } from './picture.ts'
import { pictureKernel } from './picture-kernel.ts'
import { type ResampleOptions, resampleMarks } from './resample.ts'
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
  options: ResampleOptions = {},
): Marks {
  const kernel = pictureKernel()
  const { run, room } = kernel
  const arena = new Arena(run.freeFrom())
  const dither = rowDither(kernel, arena, steps.kernel, columns)
  room(arena.bytes).fill(0, run.freeFrom(), arena.bytes)
  const levels = new Uint8Array(columns * rows)
  const table = toneTable(steps.tone ?? NEUTRAL_TONE, source.full).map((lightness) => 1 - lightness)
  const sink = (y: number, at: number): void => {
    const dots = dither(y, at)
    levels.set(room(0).subarray(dots, dots + columns), y * columns)
  }
  resampleMarks(kernel, arena, source, table, columns, rows, sink, options)
  const n = columns * rows
  return {
    columns,
    rows,
    levels,
    wantedTone: run.wantedMarks() / n,
    meanTone: run.madeMarks() / n,
    coverage: run.markedDots() / n,
  }
}
