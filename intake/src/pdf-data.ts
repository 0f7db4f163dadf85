import type { Matrix } from '@neotaxis/core/formats/svg/path-data'

/** A number of a drawing, to the sixth digit. */
export const number = (v: number): string => String(Math.round(v * 1e6) / 1e6)

/** A map as SVG writes it. */
export const matrixData = (matrix: Matrix): string => `matrix(${matrix.map(number).join(' ')})`

/** Path data from what the reader gives: 0 move, 1 line, 2 cubic, 3 quadratic, 4 close. */
export function dataOf(path: ArrayLike<number>): string {
  let d = ''
  for (let i = 0; i < path.length; ) {
    const kind = path[i++]
    const count = kind === 2 ? 6 : kind === 3 ? 4 : kind === 4 ? 0 : 2
    d += 'MLCQZ'[kind] ?? ''
    for (let k = 0; k < count; k++) d += `${k ? ' ' : ''}${number(path[i++])}`
  }
  return d
}

/** A box as a path. */
export const boxData = ([x0, y0, x1, y1]: ArrayLike<number> & Iterable<number>): string =>
  `M${number(x0)} ${number(y0)}H${number(x1)}V${number(y1)}H${number(x0)}Z`
