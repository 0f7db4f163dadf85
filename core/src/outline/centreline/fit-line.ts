import { CUBIC, type Path } from '../../geometry/path.ts'

type Point = readonly [number, number]

const unit = (x: number, y: number): Point => {
  const length = Math.hypot(x, y) || 1
  return [x / length, y / length]
}

/** Points over which a direction is taken, so that no single one decides. */
const SPAN = 4
/** Times that parameters are improved before a stretch is parted (Newton's method). */
const IMPROVED = 4

/**
 * Cubics through a line of points, none of which lies farther off than a tolerance (P. J. Schneider, “An algorithm for
 * automatically fitting digitized curves”, Graphics Gems, 1990). @param xs,ys at least two points @param tolerance in their unit
 */
export function fitLine(xs: ArrayLike<number>, ys: ArrayLike<number>, closed: boolean, tolerance: number): Path {
  // The first point again at the end closes it.
  const x = closed ? [...Array.from(xs), xs[0]] : Array.from(xs)
  const y = closed ? [...Array.from(ys), ys[0]] : Array.from(ys)
  const last = x.length - 1
  const towards = (from: number, to: number): Point => unit(x[to] - x[from], y[to] - y[from])
  const seam = towards(last - Math.min(SPAN, last), Math.min(SPAN, last))
  const kinds: number[] = []
  const points: number[] = [x[0], y[0]]
  const fit = (from: number, to: number, start: Point, end: Point): void => {
    let shares = byLength(x, y, from, to)
    let curve = cubicThrough(x, y, from, to, shares, start, end)
    let off = farthest(x, y, from, to, curve, shares)
    for (let k = 0; k < IMPROVED && off.worst > tolerance && off.worst < 16 * tolerance; k++) {
      shares = improved(x, y, from, curve, shares)
      curve = cubicThrough(x, y, from, to, shares, start, end)
      off = farthest(x, y, from, to, curve, shares)
    }
    if (off.worst <= tolerance || to - from < 2) {
      kinds.push(CUBIC)
      points.push(...curve.slice(2))
      return
    }
    const split = Math.min(to - 1, Math.max(from + 1, off.index))
    const span = Math.min(SPAN, split - from, to - split)
    const way = towards(split - span, split + span)
    fit(from, split, start, [-way[0], -way[1]])
    fit(split, to, way, end)
  }
  const first = closed ? seam : towards(0, Math.min(SPAN, last))
  const back: Point = closed ? [-seam[0], -seam[1]] : towards(last, last - Math.min(SPAN, last))
  fit(0, last, first, back)
  return { closed, kinds: Uint8Array.from(kinds), points: Float64Array.from(points) }
}

/** Parameters 0–1 by the way along the points. */
function byLength(x: readonly number[], y: readonly number[], from: number, to: number): Float64Array {
  const shares = new Float64Array(to - from + 1)
  for (let i = from + 1; i <= to; i++) shares[i - from] = shares[i - from - 1] + Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1])
  const whole = shares[to - from] || 1
  return shares.map((share) => share / whole)
}

/** Weights of a cubic's four points at t. */
const bernstein = (t: number): readonly [number, number, number, number] => {
  const s = 1 - t
  return [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t]
}

/** The cubic with given ends and directions that lies nearest in the mean (least squares for how far its handles reach). */
function cubicThrough(
  x: readonly number[],
  y: readonly number[],
  from: number,
  to: number,
  shares: Float64Array,
  start: Point,
  end: Point,
): readonly number[] {
  let aa = 0
  let ab = 0
  let bb = 0
  let ra = 0
  let rb = 0
  for (let i = from; i <= to; i++) {
    const [w0, w1, w2, w3] = bernstein(shares[i - from])
    const ax = start[0] * w1
    const ay = start[1] * w1
    const bx = end[0] * w2
    const by = end[1] * w2
    const dx = x[i] - (x[from] * (w0 + w1) + x[to] * (w2 + w3))
    const dy = y[i] - (y[from] * (w0 + w1) + y[to] * (w2 + w3))
    aa += ax * ax + ay * ay
    ab += ax * bx + ay * by
    bb += bx * bx + by * by
    ra += ax * dx + ay * dy
    rb += bx * dx + by * dy
  }
  const chord = Math.hypot(x[to] - x[from], y[to] - y[from])
  const whole = aa * bb - ab * ab
  let a = whole > 1e-12 ? (ra * bb - rb * ab) / whole : 0
  let b = whole > 1e-12 ? (aa * rb - ab * ra) / whole : 0
  let way = 0
  for (let i = from + 1; i <= to; i++) way += Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1])
  // Handles that turn back, vanish, or reach farther than the whole way (a loop between the points): a third of the chord does.
  if (a < 1e-3 * chord || b < 1e-3 * chord || a > way || b > way) {
    a = chord / 3
    b = chord / 3
  }
  return [x[from], y[from], x[from] + start[0] * a, y[from] + start[1] * a, x[to] + end[0] * b, y[to] + end[1] * b, x[to], y[to]]
}

const onCurve = (c: readonly number[], t: number): Point => {
  const [w0, w1, w2, w3] = bernstein(t)
  return [w0 * c[0] + w1 * c[2] + w2 * c[4] + w3 * c[6], w0 * c[1] + w1 * c[3] + w2 * c[5] + w3 * c[7]]
}

function farthest(
  x: readonly number[],
  y: readonly number[],
  from: number,
  to: number,
  curve: readonly number[],
  shares: Float64Array,
): { worst: number; index: number } {
  let worst = 0
  let index = (from + to) >> 1
  for (let i = from + 1; i < to; i++) {
    const [px, py] = onCurve(curve, shares[i - from])
    const off = Math.hypot(px - x[i], py - y[i])
    if (off > worst) {
      worst = off
      index = i
    }
  }
  return { worst, index }
}

/** Parameters moved to where the curve is nearest to each point. */
function improved(
  x: readonly number[],
  y: readonly number[],
  from: number,
  c: readonly number[],
  shares: Float64Array,
): Float64Array {
  return shares.map((t, k) => {
    const [px, py] = onCurve(c, t)
    const s = 1 - t
    const d1 = [0, 1].map(
      (j) => 3 * (s * s * (c[2 + j] - c[j]) + 2 * s * t * (c[4 + j] - c[2 + j]) + t * t * (c[6 + j] - c[4 + j])),
    )
    const d2 = [0, 1].map((j) => 6 * (s * (c[4 + j] - 2 * c[2 + j] + c[j]) + t * (c[6 + j] - 2 * c[4 + j] + c[2 + j])))
    const ex = px - x[from + k]
    const ey = py - y[from + k]
    const slope = d1[0] * d1[0] + d1[1] * d1[1] + ex * d2[0] + ey * d2[1]
    return slope > 0 ? Math.min(1, Math.max(0, t - (ex * d1[0] + ey * d1[1]) / slope)) : t
  })
}
