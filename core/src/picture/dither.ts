/** Ways from tones to dots that exist by now. `none` keeps grey as power. */
export type Kernel = 'floyd-steinberg' | 'threshold' | 'none'

export const KERNELS: readonly Kernel[] = ['floyd-steinberg', 'threshold', 'none']

/** Takes one row of mark wanted (0–1) and writes the mark made (0–255) into `out`. Rows come top to bottom. */
export type RowDither = (y: number, wanted: Float32Array, out: Uint8Array) => void

/** A dither for rows of `columns` dots. It keeps the error of the row above, so use one for each picture. */
export function ditherRows(kernel: Kernel, columns: number): RowDither {
  if (kernel === 'none') {
    return (_y, wanted, out) => {
      for (let x = 0; x < columns; x++) out[x] = wanted[x] * 255 + 0.5
    }
  }
  if (kernel === 'threshold') {
    return (_y, wanted, out) => {
      for (let x = 0; x < columns; x++) out[x] = wanted[x] >= 0.5 ? 255 : 0
    }
  }
  return floydSteinberg(columns)
}

/**
 * Error diffusion by R. Floyd and L. Steinberg, Proc. SID 17(2), 1976: 7, 3, 5 and 1 sixteenths to the dot ahead and
 * the three below, serpentine so that no diagonal grain appears.
 */
function floydSteinberg(columns: number): RowDither {
  // One cell of margin on each side takes what would leave the row.
  let above = new Float32Array(columns + 2)
  let below = new Float32Array(columns + 2)
  return (y, wanted, out) => {
    below.fill(0)
    const ahead = (y & 1) === 0 ? 1 : -1
    let carried = 0
    for (let i = 0, x = ahead === 1 ? 0 : columns - 1; i < columns; i++, x += ahead) {
      const value = wanted[x] + above[x + 1] + carried
      const mark = value >= 0.5 ? 1 : 0
      out[x] = mark * 255
      const error = value - mark
      carried = error * 0.4375
      below[x + 1 - ahead] += error * 0.1875
      below[x + 1] += error * 0.3125
      below[x + 1 + ahead] = error * 0.0625
    }
    const done = above
    above = below
    below = done
  }
}
