import type { Arena, Kernel as Compiled } from '../kernels/kernel.ts'
import type { PictureKernel } from './picture-kernel.ts'

/** Ways from tones to dots that exist by now. `none` keeps grey as power. */
export type Kernel = 'floyd-steinberg' | 'threshold' | 'none'

export const KERNELS: readonly Kernel[] = ['floyd-steinberg', 'threshold', 'none']

/** Takes the place of one row of marks wanted (f32, 0–1) and gives the place of its dots (bytes, 0–255). Rows come top to bottom. */
export type RowDither = (y: number, wanted: number) => number

/**
 * A dither for rows of `columns` dots, working in the kernel's memory. It keeps the error of the row above, so use one
 * for each picture. All places must be taken from the arena before the first row.
 */
export function rowDither({ run }: Compiled<PictureKernel>, arena: Arena, kernel: Kernel, columns: number): RowDither {
  const out = arena.take(columns)
  run.beginDots()
  if (kernel === 'none') {
    return (_y, wanted) => {
      run.greyRow(wanted, columns, out)
      return out
    }
  }
  if (kernel === 'threshold') {
    return (_y, wanted) => {
      run.thresholdRow(wanted, columns, out)
      return out
    }
  }
  const errors = [arena.take(4 * columns + 8), arena.take(4 * columns + 8)]
  return (y, wanted) => {
    run.floydSteinbergRow(wanted, columns, (y & 1) === 0 ? 1 : -1, errors[y & 1], errors[1 - (y & 1)], out)
    return out
  }
}
