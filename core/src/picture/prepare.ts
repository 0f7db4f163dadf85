import { Arena } from '../kernels/kernel.ts'
import { rowDither } from './dither.ts'
import type { Framed } from './framing.ts'
import type { GreyPicture } from './picture.ts'
import { pictureKernel } from './picture-kernel.ts'
import type { Dots, Treatment } from './steps.ts'
import { type TreatOptions, treatedRows } from './treat.ts'

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

export interface PrepareOptions extends TreatOptions {
  /** Makes up for dot gain: the tone to ask for so that the tone wanted comes out. */
  readonly compensate?: (wanted: number) => number
  /** How much of each dot may be burned, 0–255, row by row. */
  readonly cover?: Uint8Array
}

/**
 * Framed picture → dots at their pitch: treated, resampled, dithered, the last once.
 * The mark wanted is 1 − lightness; transparent pixels are never marked.
 */
export function prepareMarks(
  framed: Framed,
  treatment: Treatment,
  dots: Dots,
  columns: number,
  rows: number,
  options: PrepareOptions,
): Marks {
  if (dots.asPrepared) return covered(marksAsPrepared(framed.picture, dots.kernel === 'none'), options.cover)
  const source = treatedRows(framed, treatment, columns, rows, options)
  const kernel = pictureKernel()
  const { run, room } = kernel
  const arena = new Arena(run.freeFrom())
  const { compensate, cover } = options
  const table = compensate ? arena.take(4 * 1025) : 0
  if (compensate) {
    const values = Float32Array.from({ length: 1025 }, (_, i) => Math.min(1, Math.max(0, compensate(i / 1024))))
    room(arena.bytes).set(new Uint8Array(values.buffer), table)
  }
  const dither = rowDither(kernel, arena, dots, columns, options.pitchMm)
  const levels = new Uint8Array(columns * rows)
  let wantedSum = 0
  source(kernel, arena, (y, at) => {
    if (compensate) {
      const row = new Float32Array(room(0).buffer, at, columns)
      for (let x = 0; x < columns; x++) wantedSum += row[x]
      run.throughTable(at, columns, table)
    }
    if (cover) {
      const row = new Float32Array(room(0).buffer, at, columns)
      for (let x = 0; x < columns; x++) row[x] *= cover[y * columns + x] / 255
    }
    const made = dither(y, at)
    levels.set(room(0).subarray(made, made + columns), y * columns)
  })
  const n = columns * rows
  return {
    columns,
    rows,
    levels,
    wantedTone: (compensate ? wantedSum : run.wantedMarks()) / n,
    meanTone: run.madeMarks() / n,
    coverage: run.markedDots() / n,
  }
}

/** Dots that are prepared already, without those that lie mostly beyond an edge. */
function covered(marks: Marks, cover: Uint8Array | undefined): Marks {
  if (!cover) return marks
  const levels = marks.levels.map((level, i) => (cover[i] < 128 ? 0 : level))
  const n = levels.length
  const [sum, dots] = levels.reduce(([all, count], level) => [all + level, count + Number(level > 0)], [0, 0])
  return { ...marks, levels, meanTone: sum / 255 / n, coverage: dots / n }
}

/** One pixel, one dot: dark pixels burn, or every grey with its own power. */
function marksAsPrepared({ widthPx, heightPx, samples, full, alpha }: GreyPicture, grey: boolean): Marks {
  const n = widthPx * heightPx
  const levels = new Uint8Array(n)
  let sum = 0
  let dots = 0
  for (let i = 0; i < n; i++) {
    const mark = (1 - samples[i] / full) * (alpha ? alpha[i] / 255 : 1)
    const level = grey ? Math.round(255 * mark) : mark >= 0.5 ? 255 : 0
    levels[i] = level
    sum += level
    if (level > 0) dots++
  }
  const meanTone = sum / 255 / n
  return { columns: widthPx, rows: heightPx, levels, wantedTone: meanTone, meanTone, coverage: dots / n }
}
