import { px, py, wrap } from './points'

/** How far to look for a turn on either side, in points (about pixels). */
const LONG: i32 = 8
const SHORT: i32 = 4
/** A corner keeps its turn over half the window; an arc loses half of it. */
const PERSISTS: f64 = 0.72

/**
 * |atan2(cross, dot)| to 0.0015 rad, which is enough to tell corners (S. Rajan et al., "Efficient Approximations for the
 * Arctangent Function", IEEE Signal Processing Magazine 23(3), 2006).
 */
function angle(cross: f64, dot: f64): f64 {
  const y = abs(cross)
  const x = abs(dot)
  const z = x > y ? y / x : x > 0 ? x / y : 0
  let a = z * (Math.PI / 4 + (1 - z) * (0.2447 + 0.0663 * z))
  if (x <= y) a = Math.PI / 2 - a
  return dot < 0 ? Math.PI - a : a
}

function turning(line: i32, n: i32, i: i32, w: i32): f64 {
  const a = wrap(i - w, n)
  const c = wrap(i + w, n)
  const ux = px(line, i) - px(line, a)
  const uy = py(line, i) - py(line, a)
  const vx = px(line, c) - px(line, i)
  const vy = py(line, c) - py(line, i)
  return angle(ux * vy - uy * vx, ux * vx + uy * vy)
}

/**
 * The corners of a closed line: places where it turns by more than `limit` over a window and still turns almost as
 * much over half of it.
 * @param turn room for n f64 @param out where indices of points go (i32), ascending @returns how many
 */
export function findCorners(line: i32, n: i32, limit: f64, turn: i32, out: i32): i32 {
  if (n < 8) return 0
  const long = min(LONG, n >> 3)
  if (long < 2) return 0
  const short = max(1, min(SHORT, long >> 1))
  const cos = Math.cos(limit)
  const cos2 = cos * cos
  let any = false
  for (let i = 0; i < n; i++) {
    store<f64>(turn + 8 * i, 0)
    const a = wrap(i - long, n)
    const c = wrap(i + long, n)
    const ux = px(line, i) - px(line, a)
    const uy = py(line, i) - py(line, a)
    const vx = px(line, c) - px(line, i)
    const vy = py(line, c) - py(line, i)
    // Most points turn by far too little: seen from the cosine alone.
    const dot = ux * vx + uy * vy
    const lengths = cos2 * (ux * ux + uy * uy) * (vx * vx + vy * vy)
    if (cos > 0 ? dot > 0 && dot * dot > lengths : dot > 0 || dot * dot < lengths) continue
    const wide = angle(ux * vy - uy * vx, dot)
    const narrow = turning(line, n, i, short)
    if (narrow >= PERSISTS * wide && narrow >= limit * 0.7) {
      store<f64>(turn + 8 * i, wide + narrow)
      any = true
    }
  }
  if (!any) return 0
  let count = 0
  for (let i = 0; i < n; i++) {
    const here = load<f64>(turn + 8 * i)
    if (here === 0) continue
    // The largest turn of its neighbourhood; the first of equals.
    let best = true
    for (let k = 1; k <= short && best; k++)
      best = load<f64>(turn + 8 * wrap(i - k, n)) < here && load<f64>(turn + 8 * wrap(i + k, n)) <= here
    if (best) store<i32>(out + 4 * count++, i)
  }
  return count
}

/** Points nearer than this to a corner are rounded by the pixels and are not used to place it. */
const BLURRED: i32 = 2
/** How many points on each side carry the estimate of a corner; more where they are noisy. */
const SIDE: i32 = 9
const NOISY_SIDE: i32 = 22

let sidePoints: i32 = SIDE
/** A bend that stays below this over a side is none, px. */
let leastBend: f64 = 0.12

/** How noisy the line at hand is, px; 0: not so that it counts. */
export function setSideNoise(noise: f64): void {
  sidePoints = noise > 0 ? NOISY_SIDE : SIDE
  leastBend = max(0.12, 4 * noise)
}

// x(s), y(s) of the side at hand, as parabolas of the distance s from the corner point.
let sx0: f64 = 0
let sx1: f64 = 0
let sx2: f64 = 0
let sy0: f64 = 0
let sy1: f64 = 0
let sy2: f64 = 0

/** Fits a side by least squares: a parabola, or a line where few points are left. @returns whether it could */
function side(line: i32, n: i32, corner: i32, direction: i32, reach: i32): bool {
  const first = reach > 4 ? BLURRED : 1
  const count = reach - first + 1
  if (count < 2) return false
  const ox = px(line, corner)
  const oy = py(line, corner)
  let s0: f64 = 0
  let s1: f64 = 0
  let s2: f64 = 0
  let s3: f64 = 0
  let s4: f64 = 0
  let mx0: f64 = 0
  let mx1: f64 = 0
  let mx2: f64 = 0
  let my0: f64 = 0
  let my1: f64 = 0
  let my2: f64 = 0
  let lastX = ox
  let lastY = oy
  let s: f64 = 0
  for (let k = 1; k <= reach; k++) {
    const i = wrap(corner + direction * k, n)
    const x = px(line, i)
    const y = py(line, i)
    s += sqrt((x - lastX) * (x - lastX) + (y - lastY) * (y - lastY))
    lastX = x
    lastY = y
    if (k < first) continue
    const ss = s * s
    s0 += 1
    s1 += s
    s2 += ss
    s3 += ss * s
    s4 += ss * ss
    mx0 += x - ox
    mx1 += (x - ox) * s
    mx2 += (x - ox) * ss
    my0 += y - oy
    my1 += (y - oy) * s
    my2 += (y - oy) * ss
  }
  if (s === 0) return false
  const det = s0 * s2 - s1 * s1
  if (abs(det) < 1e-9) return false
  sx0 = ox + (mx0 * s2 - mx1 * s1) / det
  sx1 = (s0 * mx1 - s1 * mx0) / det
  sx2 = 0
  sy0 = oy + (my0 * s2 - my1 * s1) / det
  sy1 = (s0 * my1 - s1 * my0) / det
  sy2 = 0
  if (count < 6) return true
  const d3 = s0 * (s2 * s4 - s3 * s3) - s1 * (s1 * s4 - s3 * s2) + s2 * (s1 * s3 - s2 * s2)
  if (abs(d3) < 1e-6) return true
  // Cramer's rule for both coordinates: rows of the adjugate.
  const i0 = s2 * s4 - s3 * s3
  const i1 = s2 * s3 - s1 * s4
  const i2 = s1 * s3 - s2 * s2
  const j1 = s0 * s4 - s2 * s2
  const j2 = s1 * s2 - s0 * s3
  const k2 = s0 * s2 - s1 * s1
  const cx = (mx0 * i2 + mx1 * j2 + mx2 * k2) / d3
  const cy = (my0 * i2 + my1 * j2 + my2 * k2) / d3
  // A bend that stays below what the pixels resolve is a straight side: a line extrapolates better.
  if (sqrt(cx * cx + cy * cy) * s * s < leastBend) return true
  sx0 = ox + (mx0 * i0 + mx1 * i1 + mx2 * i2) / d3
  sx1 = (mx0 * i1 + mx1 * j1 + mx2 * j2) / d3
  sx2 = cx
  sy0 = oy + (my0 * i0 + my1 * i1 + my2 * i2) / d3
  sy1 = (my0 * i1 + my1 * j1 + my2 * j2) / d3
  sy2 = cy
  return true
}

/**
 * The true place of a corner: a parabola is fitted to the points on either side, and the two are intersected. Falls
 * back to the nearest point where they do not meet close by.
 * @param before points available before the corner until the previous one @param after likewise after it
 * @param out where x and y go
 */
export function placeCorner(line: i32, n: i32, corner: i32, before: i32, after: i32, out: i32): void {
  const cx = px(line, corner)
  const cy = py(line, corner)
  store<f64>(out, cx)
  store<f64>(out, cy, 8)
  if (!side(line, n, corner, -1, min(sidePoints + BLURRED, before >> 1))) return
  const ax0 = sx0
  const ax1 = sx1
  const ax2 = sx2
  const ay0 = sy0
  const ay1 = sy1
  const ay2 = sy2
  if (!side(line, n, corner, 1, min(sidePoints + BLURRED, after >> 1))) return
  // Newton on the two arc parameters: a(s) = b(t), started where both reach the corner.
  let s: f64 = 0
  let t: f64 = 0
  for (let k = 0; k < 8; k++) {
    const dx = sx0 + t * (sx1 + t * sx2) - (ax0 + s * (ax1 + s * ax2))
    const dy = sy0 + t * (sy1 + t * sy2) - (ay0 + s * (ay1 + s * ay2))
    const ux = ax1 + 2 * s * ax2
    const uy = ay1 + 2 * s * ay2
    const vx = sx1 + 2 * t * sx2
    const vy = sy1 + 2 * t * sy2
    const det = uy * vx - ux * vy
    if (abs(det) < 1e-3) return
    const ds = (dy * vx - dx * vy) / det
    const dt = (ux * dy - uy * dx) / det
    s += ds
    t += dt
    if (abs(s) > 4 || abs(t) > 4) return
    if (abs(ds) + abs(dt) < 1e-9) break
  }
  const x = ax0 + s * (ax1 + s * ax2)
  const y = ay0 + s * (ay1 + s * ay2)
  if ((x - cx) * (x - cx) + (y - cy) * (y - cy) >= 9) return
  store<f64>(out, x)
  store<f64>(out, y, 8)
}
