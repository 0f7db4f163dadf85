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

/** One whole mark as integer: fine enough that rounding the tone does not show, small enough for 32 bits. */
const WHOLE = 1 << 16

/**
 * Error diffusion by R. Floyd and L. Steinberg, Proc. SID 17(2), 1976: 7, 3, 5 and 1 sixteenths to the dot ahead and
 * the three below, serpentine so that no diagonal grain appears. In integers, and without a branch that guesses wrong
 * every other time; what rounding leaves goes to the last of the four, so that no tone is lost.
 */
function floydSteinberg(columns: number): RowDither {
  // One cell of margin on each side takes what would leave the row.
  let above = new Int32Array(columns + 2)
  let below = new Int32Array(columns + 2)
  return (y, wanted, out) => {
    const ahead = (y & 1) === 0 ? 1 : -1
    below[0] = 0
    below[columns + 1] = 0
    let carried = 0
    // What the cells below get is gathered in registers and written once: straight below, and one behind.
    let straight = 0
    let behind = 0
    let x = ahead === 1 ? 0 : columns - 1
    for (let i = 0; i < columns; i++, x += ahead) {
      const value = ((wanted[x] * WHOLE + 0.5) | 0) + above[x + 1] + carried
      // All ones where the mark is made.
      const mark = (WHOLE / 2 - 1 - value) >> 31
      out[x] = mark & 255
      const error = value - (mark & WHOLE)
      carried = (error * 7) >> 4
      const back = (error * 3) >> 4
      const under = (error * 5) >> 4
      below[x + 1 - ahead] = behind + back
      behind = straight + under
      straight = error - carried - back - under
    }
    below[x + 1 - ahead] = behind
    const done = above
    above = below
    below = done
  }
}
