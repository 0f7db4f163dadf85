/** A projective map of the plane, row by row; the last entry is 1. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number]

/**
 * The projective map that takes four points to four others (direct linear transform: R. Hartley and A. Zisserman,
 * Multiple View Geometry, 2nd ed., 4.1).
 * @param from,to x and y of four points in turn @throws RangeError where three of them lie on a line
 */
export function homography(from: readonly number[], to: readonly number[]): Homography {
  const rows: number[][] = []
  for (let i = 0; i < 4; i++) {
    const [x, y, u, v] = [from[2 * i], from[2 * i + 1], to[2 * i], to[2 * i + 1]]
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y, u], [0, 0, 0, x, y, 1, -v * x, -v * y, v])
  }
  const h = solve(rows)
  return [h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1]
}

/** Gauss with the largest pivot, on rows of n unknowns and one right side. */
function solve(rows: number[][]): number[] {
  const n = rows.length
  for (let c = 0; c < n; c++) {
    let best = c
    for (let r = c + 1; r < n; r++) if (Math.abs(rows[r][c]) > Math.abs(rows[best][c])) best = r
    if (Math.abs(rows[best][c]) < 1e-9) throw new RangeError('Three of the four corners lie on one line.')
    ;[rows[c], rows[best]] = [rows[best], rows[c]]
    for (let r = 0; r < n; r++) {
      if (r === c) continue
      const f = rows[r][c] / rows[c][c]
      for (let k = c; k <= n; k++) rows[r][k] -= f * rows[c][k]
    }
  }
  return rows.map((row, i) => row[n] / row[i])
}

export function mapPoint(h: Homography, x: number, y: number): readonly [number, number] {
  const w = h[6] * x + h[7] * y + h[8]
  return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w]
}

/** First `a`, then `b`. */
export function chained(a: Homography, b: Homography): Homography {
  const m = new Array<number>(9).fill(0)
  for (let r = 0; r < 3; r++) for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) m[3 * r + c] += b[3 * r + k] * a[3 * k + c]
  return m.map((v) => v / m[8]) as unknown as Homography
}

export const IDENTITY: Homography = [1, 0, 0, 0, 1, 0, 0, 0, 1]

/** The way back. @throws RangeError where there is none */
export function undoing(h: Homography): Homography {
  const [a, b, c, d, e, f, g, i, j] = h
  const A = e * j - f * i
  const D = f * g - d * j
  const G = d * i - e * g
  const det = a * A + b * D + c * G
  if (Math.abs(det) < 1e-15) throw new RangeError('This map flattens everything: there is no way back.')
  const m = [A, c * i - b * j, b * f - c * e, D, a * j - c * g, c * d - a * f, G, b * g - a * i, a * e - b * d]
  return m.map((v) => v / m[8]) as unknown as Homography
}
