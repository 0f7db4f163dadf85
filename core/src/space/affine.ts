/**
 * A map of the plane that keeps lines straight and parallels parallel, as six numbers in the order of SVG's matrix:
 * `x′ = e + a·x + c·y`, `y′ = f + d·y + b·x`. The sums are made in this order, so that a map that only moves, or turns an
 * axis over, gives the same number to the last bit as the subtraction that it stands for.
 */
export type Affine = readonly [a: number, b: number, c: number, d: number, e: number, f: number]

export const SAME: Affine = [1, 0, 0, 1, 0, 0]

export const moving = (dx: number, dy: number): Affine => [1, 0, 0, 1, dx, dy]

export const scaling = (sx: number, sy: number): Affine => [sx, 0, 0, sy, 0, 0]

/** A turn about the origin that leads x towards y, degrees; quarter turns are exact. */
export function turning(deg: number): Affine {
  const [cos, sin] = cosSin(deg)
  return [cos, sin, -sin, cos, 0, 0]
}

/** Cosine and sine of an angle in degrees; of quarter turns without a trace of rounding. */
export function cosSin(deg: number): readonly [number, number] {
  const quarter = quarterTurns(deg)
  if (quarter !== undefined)
    return [
      [1, 0],
      [0, 1],
      [-1, 0],
      [0, -1],
    ][quarter] as [number, number]
  const rad = (deg * Math.PI) / 180
  return [Math.cos(rad), Math.sin(rad)]
}

/** How many quarter turns an angle is, 0–3; undefined where it is none. @param deg degrees */
export function quarterTurns(deg: number): 0 | 1 | 2 | 3 | undefined {
  const turns = (((deg % 360) + 360) % 360) / 90
  return Number.isInteger(turns) ? ((turns % 4) as 0 | 1 | 2 | 3) : undefined
}

/** One map after another: `first`, then `then`. */
export const composed = (first: Affine, then: Affine): Affine => {
  const [a, b, c, d, e, f] = first
  const [A, B, C, D, E, F] = then
  return [A * a + C * b, D * b + B * a, A * c + C * d, D * d + B * c, E + A * e + C * f, F + D * f + B * e]
}

/** The way back. @throws RangeError where a map leads everything onto one line */
export function inverseOf([a, b, c, d, e, f]: Affine): Affine {
  const det = a * d - b * c
  if (!(Math.abs(det) > 1e-15)) throw new RangeError('A map onto a line has no way back.')
  const [A, B, C, D] = [d / det, -b / det, -c / det, a / det]
  return [A, B, C, D, -(A * e + C * f), -(D * f + B * e)]
}

export const mapped = ([a, b, c, d, e, f]: Affine, x: number, y: number): readonly [number, number] => [
  e + a * x + c * y,
  f + d * y + b * x,
]

/** x, y pairs mapped where they stand. */
export function mapInPlace([a, b, c, d, e, f]: Affine, points: Float64Array): void {
  for (let i = 0; i < points.length; i += 2) {
    const x = points[i]
    const y = points[i + 1]
    points[i] = e + a * x + c * y
    points[i + 1] = f + d * y + b * x
  }
}

/** x, y pairs mapped into an array of their own. */
export function mappedPoints(map: Affine, points: Float64Array): Float64Array {
  const out = Float64Array.from(points)
  mapInPlace(map, out)
  return out
}

/** Whether a map only moves. */
export const onlyMoves = ([a, b, c, d]: Affine): boolean => a === 1 && b === 0 && c === 0 && d === 1

/** How a map turns x, degrees from −180 to 180. */
export const turnOf = ([a, b]: Affine): number => (Math.atan2(b, a) * 180) / Math.PI

/**
 * Whether a map only exchanges and reverses axes, at one scale for both: dots prepared for one grid are the dots of the other.
 */
export const exchangesAxes = ([a, b, c, d]: Affine): boolean =>
  (b === 0 && c === 0 && Math.abs(a) === Math.abs(d)) || (a === 0 && d === 0 && Math.abs(b) === Math.abs(c))
