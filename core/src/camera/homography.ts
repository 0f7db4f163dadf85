import { Matrix, SingularValueDecomposition } from 'ml-matrix'

/** A map of planes that keeps straight lines straight: nine numbers, row by row, the last one 1. */
export type Homography = readonly number[]

export const throughHomography = (h: Homography, x: number, y: number): readonly [number, number] => {
  const w = h[6] * x + h[7] * y + h[8]
  return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w]
}

/** Moved to their middle and sized to √2, so that numbers of all sizes count alike (R. Hartley, “In defense of the eight-point algorithm”, 1997). */
function evened(points: readonly (readonly [number, number])[]): { readonly to: Matrix; readonly points: [number, number][] } {
  const n = points.length
  const mx = points.reduce((sum, [x]) => sum + x, 0) / n
  const my = points.reduce((sum, [, y]) => sum + y, 0) / n
  const far = points.reduce((sum, [x, y]) => sum + Math.hypot(x - mx, y - my), 0) / n
  const s = far > 0 ? Math.SQRT2 / far : 1
  return {
    to: new Matrix([
      [s, 0, -s * mx],
      [0, s, -s * my],
      [0, 0, 1],
    ]),
    points: points.map(([x, y]) => [s * (x - mx), s * (y - my)]),
  }
}

/**
 * The map that takes places of a plane to places of another one, by least squares (direct linear transform).
 * @throws RangeError with a sentence where fewer than four places, or places on a line, say nothing
 */
export function homographyOf(
  from: readonly (readonly [number, number])[],
  to: readonly (readonly [number, number])[],
): Homography {
  if (from.length < 4 || from.length !== to.length) throw new RangeError('Four places are needed at least.')
  const [a, b] = [evened(from), evened(to)]
  const rows = a.points.flatMap(([x, y], i) => {
    const [u, v] = b.points[i]
    return [
      [-x, -y, -1, 0, 0, 0, u * x, u * y, u],
      [0, 0, 0, -x, -y, -1, v * x, v * y, v],
    ]
  })
  // Nine at least, so that all nine ways are told apart.
  while (rows.length < 9) rows.push(new Array(9).fill(0))
  const { rightSingularVectors, diagonal } = new SingularValueDecomposition(new Matrix(rows), {
    computeLeftSingularVectors: false,
  })
  const sorted = diagonal.map((value, i) => ({ value, i })).sort((p, q) => p.value - q.value)
  if (sorted[1].value < 1e-9 * sorted[sorted.length - 1].value) throw new RangeError('These places lie on one line.')
  const h = rightSingularVectors.getColumn(sorted[0].i)
  const even = new Matrix([h.slice(0, 3), h.slice(3, 6), h.slice(6, 9)])
  const whole = inverse3(b.to).mmul(even).mmul(a.to)
  const last = whole.get(2, 2)
  if (Math.abs(last) < 1e-15) throw new RangeError('These places lie on one line.')
  return whole.to1DArray().map((v) => v / last)
}

/** The way back of an evening: it only moves and sizes. */
function inverse3(m: Matrix): Matrix {
  const s = m.get(0, 0)
  return new Matrix([
    [1 / s, 0, -m.get(0, 2) / s],
    [0, 1 / s, -m.get(1, 2) / s],
    [0, 0, 1],
  ])
}
