/**
 * How a lens bends rays, without dimension: Brown–Conrady (D. C. Brown, “Close-range camera calibration”, 1971) with two radial and two
 * tangential numbers, or an equidistant fisheye whose angle is bent by odd powers (J. Kannala, S. Brandt, 2006).
 */
export type Lens =
  | { readonly kind: 'brown'; readonly k1: number; readonly k2: number; readonly p1: number; readonly p2: number }
  | { readonly kind: 'fisheye'; readonly k1: number; readonly k2: number; readonly k3: number }

type Pair = readonly [number, number]

/** Rays that leave the lens at more than this are behind it, radians. */
const MOST_ANGLE = Math.PI / 2 - 0.01
const ROUNDS = 30
const CLOSE = 1e-12

/** Where a ray meets the picture at a distance of one. @param x,y where it would without the lens, z forwards being 1 */
export function bent(lens: Lens, x: number, y: number): Pair {
  const r2 = x * x + y * y
  if (lens.kind === 'brown') {
    const { k1, k2, p1, p2 } = lens
    const radial = 1 + r2 * (k1 + r2 * k2)
    return [x * radial + 2 * p1 * x * y + p2 * (r2 + 2 * x * x), y * radial + p1 * (r2 + 2 * y * y) + 2 * p2 * x * y]
  }
  const r = Math.sqrt(r2)
  if (r < 1e-12) return [x, y]
  const share = fisheyeRadius(lens, Math.atan(r)) / r
  return [x * share, y * share]
}

const fisheyeRadius = ({ k1, k2, k3 }: Lens & { readonly kind: 'fisheye' }, angle: number): number => {
  const a2 = angle * angle
  return angle * (1 + a2 * (k1 + a2 * (k2 + a2 * k3)))
}

/** The ray that meets the picture at a place: the way back of `bent`, by Newton's method; undefined where no ray does. */
export function unbent(lens: Lens, u: number, v: number): Pair | undefined {
  if (lens.kind === 'fisheye') {
    const r = Math.hypot(u, v)
    if (r < 1e-12) return [u, v]
    let angle = Math.min(r, MOST_ANGLE)
    for (let round = 0; round < ROUNDS; round++) {
      const a2 = angle * angle
      const slope = 1 + a2 * (3 * lens.k1 + a2 * (5 * lens.k2 + a2 * 7 * lens.k3))
      if (slope < 1e-3) return undefined
      const step = (fisheyeRadius(lens, angle) - r) / slope
      angle -= step
      if (Math.abs(step) < CLOSE) break
    }
    if (!(angle > 0 && angle < MOST_ANGLE) || Math.abs(fisheyeRadius(lens, angle) - r) > 1e-6) return undefined
    const share = Math.tan(angle) / r
    return [u * share, v * share]
  }
  const { k1, k2, p1, p2 } = lens
  let [x, y] = [u, v]
  for (let round = 0; round < ROUNDS; round++) {
    const r2 = x * x + y * y
    const radial = 1 + r2 * (k1 + r2 * k2)
    const byRadius = 2 * (k1 + 2 * k2 * r2)
    const a = radial + byRadius * x * x + 2 * p1 * y + 6 * p2 * x
    const b = byRadius * x * y + 2 * p1 * x + 2 * p2 * y
    const d = radial + byRadius * y * y + 6 * p1 * y + 2 * p2 * x
    const [fx, fy] = bent(lens, x, y)
    const det = a * d - b * b
    if (Math.abs(det) < 1e-6) return undefined
    const [ex, ey] = [fx - u, fy - v]
    x -= (d * ex - b * ey) / det
    y -= (a * ey - b * ex) / det
    if (Math.abs(ex) + Math.abs(ey) < CLOSE) break
  }
  const [fx, fy] = bent(lens, x, y)
  const r2 = x * x + y * y
  // Beyond where the picture turns back no ray is meant.
  const goesOut = 1 + r2 * (3 * k1 + 5 * k2 * r2) > 0
  return goesOut && Math.hypot(fx - u, fy - v) < 1e-6 ? [x, y] : undefined
}
