/**
 * Least-squares cubics through the points of one smooth stretch, as few as the tolerance allows.
 * After P. Schneider, "An Algorithm for Automatically Fitting Digitized Curves", Graphics Gems, 1990, with free or
 * given tangents at either end and with the longest possible piece taken first.
 */
export interface FitTolerance {
  /** Largest distance of a point from the curve, px. */
  readonly max: number
  /** Root mean square of the distances, px. Keeps noise from exploding the number of pieces. */
  readonly rms: number
}

/** A direction of unit length, or none where the curve may leave as it likes. */
export type Tangent = readonly [number, number] | undefined

/** Receives the pieces in order: a line to (x, y), or a cubic by its two control points and its end. */
export interface PieceSink {
  line(x: number, y: number): void
  cubic(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void
}

/** At most this many points carry a trial; all of them judge it. */
const SAMPLES = 40
const ROUNDS = 4

const qx = new Float64Array(SAMPLES + 2)
const qy = new Float64Array(SAMPLES + 2)
const qt = new Float64Array(SAMPLES + 2)

/** Control points of the last trial that was accepted. */
const trial = { x1: 0, y1: 0, x2: 0, y2: 0, straight: false }

/**
 * Fits the points first…last (indices into x, y pairs) and hands on the pieces. The first and last point are kept.
 * @param start tangent at the first point, pointing into the stretch @param end at the last, pointing back into it
 */
export function fitStretch(
  points: Float64Array,
  first: number,
  last: number,
  start: Tangent,
  end: Tangent,
  tolerance: FitTolerance,
  sink: PieceSink,
): void {
  let from = first
  let leave = start
  while (from < last) {
    if (tryFit(points, from, last, leave, end, tolerance)) {
      emit(points, last, sink)
      return
    }
    // The longest piece that fits: grow until it fails, then halve the gap.
    let good = from + 1
    let bad = last
    let step = Math.max(4, (last - from) >> 1)
    let found = false
    while (bad - good > Math.max(1, (good - from) >> 4)) {
      const to = Math.min(bad - 1, found ? (good + bad) >> 1 : Math.min(from + step, (good + bad) >> 1))
      if (to <= good) break
      if (tryFit(points, from, to, leave, tangentAt(points, first, last, to, -1), tolerance)) {
        good = to
        found = true
      } else bad = to
      step = Math.max(2, step >> 1)
    }
    const back = good === last ? end : tangentAt(points, first, last, good, -1)
    if (!tryFit(points, from, good, leave, back, tolerance)) {
      sink.line(points[2 * good], points[2 * good + 1])
      leave = undefined
    } else {
      const straight = trial.straight
      emit(points, good, sink)
      // A joint that is not a corner stays smooth.
      leave = back && !straight ? [-back[0], -back[1]] : tangentAt(points, first, last, good, 1)
    }
    from = good
  }
}

function emit(points: Float64Array, to: number, sink: PieceSink): void {
  const x = points[2 * to]
  const y = points[2 * to + 1]
  if (trial.straight) sink.line(x, y)
  else sink.cubic(trial.x1, trial.y1, trial.x2, trial.y2, x, y)
}

/** Half the number of points that carry a tangent. */
const TANGENT_REACH = 5

/** Tangent at a point from a parabola through its neighbours on both sides; `direction` 1 points onward, −1 back. */
export function tangentAt(points: Float64Array, first: number, last: number, i: number, direction: 1 | -1): Tangent {
  const lo = Math.max(first, i - TANGENT_REACH)
  const hi = Math.min(last, i + TANGENT_REACH)
  // Slope at 0 of a parabola fitted by least squares over k = lo−i … hi−i.
  let s0 = 0
  let s1 = 0
  let s2 = 0
  let s3 = 0
  let s4 = 0
  let x0 = 0
  let x1 = 0
  let x2 = 0
  let y0 = 0
  let y1 = 0
  let y2 = 0
  for (let j = lo; j <= hi; j++) {
    const k = j - i
    const kk = k * k
    s0++
    s1 += k
    s2 += kk
    s3 += kk * k
    s4 += kk * kk
    const px = points[2 * j] - points[2 * i]
    const py = points[2 * j + 1] - points[2 * i + 1]
    x0 += px
    x1 += px * k
    x2 += px * kk
    y0 += py
    y1 += py * k
    y2 += py * kk
  }
  const det = s0 * (s2 * s4 - s3 * s3) - s1 * (s1 * s4 - s3 * s2) + s2 * (s1 * s3 - s2 * s2)
  let tx: number
  let ty: number
  if (hi - lo < 3 || Math.abs(det) < 1e-9) {
    tx = points[2 * hi] - points[2 * lo]
    ty = points[2 * hi + 1] - points[2 * lo + 1]
  } else {
    const slope = (m0: number, m1: number, m2: number): number =>
      (s0 * (m1 * s4 - m2 * s3) - m0 * (s1 * s4 - s3 * s2) + s2 * (s1 * m2 - m1 * s2)) / det
    tx = slope(x0, x1, x2)
    ty = slope(y0, y1, y2)
  }
  const length = Math.hypot(tx, ty)
  if (length < 1e-9) return undefined
  return [(direction * tx) / length, (direction * ty) / length]
}

function tryFit(points: Float64Array, from: number, to: number, start: Tangent, end: Tangent, tolerance: FitTolerance): boolean {
  const ax = points[2 * from]
  const ay = points[2 * from + 1]
  const bx = points[2 * to]
  const by = points[2 * to + 1]
  const chord = Math.hypot(bx - ax, by - ay)
  if (isStraight(points, from, to, ax, ay, bx, by, chord, start, end, tolerance)) {
    trial.straight = true
    return true
  }
  trial.straight = false
  const n = to - from
  if (n < 3) return false
  // Points between the ends, evenly picked, by chord length.
  const count = Math.min(SAMPLES, n - 1)
  let total = 0
  {
    let lx = ax
    let ly = ay
    let next = 1
    for (let j = from + 1; j < to; j++) {
      const x = points[2 * j]
      const y = points[2 * j + 1]
      total += Math.sqrt((x - lx) * (x - lx) + (y - ly) * (y - ly))
      lx = x
      ly = y
      if (next <= count && (j - from) * (count + 1) >= next * n) {
        qx[next - 1] = x
        qy[next - 1] = y
        qt[next - 1] = total
        next++
      }
    }
    total += Math.hypot(bx - lx, by - ly)
    for (let k = 0; k < count; k++) qt[k] /= total
  }
  let before = Infinity
  for (let round = 0; round < ROUNDS; round++) {
    if (!solve(count, ax, ay, bx, by, start, end, total)) return false
    const worst = reparameterise(count, ax, ay, bx, by)
    if (worst > tolerance.max * (round === 0 ? 12 : 4) && worst > before * 0.7) return false
    before = worst
    if (round > 0 && worst <= tolerance.max * 0.5) break
  }
  if (!solve(count, ax, ay, bx, by, start, end, total)) return false
  return judge(points, from, to, tolerance)
}

/** Whether all points lie on the chord; a tangent given must agree with it. */
function isStraight(
  points: Float64Array,
  from: number,
  to: number,
  ax: number,
  ay: number,
  bx: number,
  by: number,
  chord: number,
  start: Tangent,
  end: Tangent,
  tolerance: FitTolerance,
): boolean {
  if (to === from + 1) return true
  if (chord < 1e-9) return false
  const ux = (bx - ax) / chord
  const uy = (by - ay) / chord
  const bend = Math.min(0.2, 1.5 / Math.sqrt(chord) / 10)
  if (start && start[0] * ux + start[1] * uy < 1 - bend) return false
  if (end && -(end[0] * ux + end[1] * uy) < 1 - bend) return false
  const middle = (from + to) >> 1
  if (Math.abs((points[2 * middle] - ax) * uy - (points[2 * middle + 1] - ay) * ux) > tolerance.max) return false
  let squares = 0
  for (let j = from + 1; j < to; j++) {
    const d = (points[2 * j] - ax) * uy - (points[2 * j + 1] - ay) * ux
    if (d > tolerance.max || d < -tolerance.max) return false
    squares += d * d
  }
  return squares <= tolerance.rms * tolerance.rms * (to - from - 1)
}

/** Control points by least squares for the parameters qt; false where they run away. */
function solve(
  count: number,
  ax: number,
  ay: number,
  bx: number,
  by: number,
  start: Tangent,
  end: Tangent,
  total: number,
): boolean {
  let s11 = 0
  let s12 = 0
  let s22 = 0
  let r1x = 0
  let r1y = 0
  let r2x = 0
  let r2y = 0
  for (let k = 0; k < count; k++) {
    const t = qt[k]
    const u = 1 - t
    const b1 = 3 * u * u * t
    const b2 = 3 * u * t * t
    const p0 = u * u * u + b1
    const p3 = t * t * t + b2
    const dx = qx[k] - p0 * ax - p3 * bx
    const dy = qy[k] - p0 * ay - p3 * by
    s11 += b1 * b1
    s12 += b1 * b2
    s22 += b2 * b2
    r1x += b1 * dx
    r1y += b1 * dy
    r2x += b2 * dx
    r2y += b2 * dy
  }
  let ux: number
  let uy: number
  let vx: number
  let vy: number
  if (start && end) {
    const m12 = s12 * (start[0] * end[0] + start[1] * end[1])
    const c1 = r1x * start[0] + r1y * start[1]
    const c2 = r2x * end[0] + r2y * end[1]
    const det = s11 * s22 - m12 * m12
    if (Math.abs(det) < 1e-12) return false
    const a1 = (c1 * s22 - c2 * m12) / det
    const a2 = (s11 * c2 - m12 * c1) / det
    if (a1 <= 0 || a2 <= 0) return false
    ux = a1 * start[0]
    uy = a1 * start[1]
    vx = a2 * end[0]
    vy = a2 * end[1]
  } else if (start) {
    const det = s11 - (s12 * s12) / s22
    if (Math.abs(det) < 1e-12) return false
    const a = (r1x * start[0] + r1y * start[1] - (s12 / s22) * (r2x * start[0] + r2y * start[1])) / det
    if (a <= 0) return false
    ux = a * start[0]
    uy = a * start[1]
    vx = (r2x - s12 * ux) / s22
    vy = (r2y - s12 * uy) / s22
  } else if (end) {
    const det = s22 - (s12 * s12) / s11
    if (Math.abs(det) < 1e-12) return false
    const a = (r2x * end[0] + r2y * end[1] - (s12 / s11) * (r1x * end[0] + r1y * end[1])) / det
    if (a <= 0) return false
    vx = a * end[0]
    vy = a * end[1]
    ux = (r1x - s12 * vx) / s11
    uy = (r1y - s12 * vy) / s11
  } else {
    const det = s11 * s22 - s12 * s12
    if (Math.abs(det) < 1e-12) return false
    ux = (r1x * s22 - r2x * s12) / det
    uy = (r1y * s22 - r2y * s12) / det
    vx = (s11 * r2x - s12 * r1x) / det
    vy = (s11 * r2y - s12 * r1y) / det
  }
  if (ux * ux + uy * uy > total * total * 1.5 || vx * vx + vy * vy > total * total * 1.5) return false
  trial.x1 = ax + ux
  trial.y1 = ay + uy
  trial.x2 = bx + vx
  trial.y2 = by + vy
  return true
}

/** One Newton step for the parameter of every sample; returns the largest distance found. */
function reparameterise(count: number, ax: number, ay: number, bx: number, by: number): number {
  const { x1, y1, x2, y2 } = trial
  // Polynomial form c3 t³ + c2 t² + c1 t + c0.
  const c1x = 3 * (x1 - ax)
  const c1y = 3 * (y1 - ay)
  const c2x = 3 * (ax - 2 * x1 + x2)
  const c2y = 3 * (ay - 2 * y1 + y2)
  const c3x = bx - ax + 3 * (x1 - x2)
  const c3y = by - ay + 3 * (y1 - y2)
  let worst = 0
  for (let k = 0; k < count; k++) {
    const t = qt[k]
    const dx = ax + t * (c1x + t * (c2x + t * c3x)) - qx[k]
    const dy = ay + t * (c1y + t * (c2y + t * c3y)) - qy[k]
    const vx = c1x + t * (2 * c2x + t * 3 * c3x)
    const vy = c1y + t * (2 * c2y + t * 3 * c3y)
    const wx = 2 * c2x + 6 * t * c3x
    const wy = 2 * c2y + 6 * t * c3y
    const speed = vx * vx + vy * vy
    const slope = speed + dx * wx + dy * wy
    const along = dx * vx + dy * vy
    let next = slope > 1e-12 ? t - along / slope : t
    if (next < 0) next = 0
    else if (next > 1) next = 1
    qt[k] = next
    // Distance off the curve: what is left after the part along it.
    const d = dx * dx + dy * dy - (speed > 0 ? (along * along) / speed : 0)
    if (d > worst) worst = d
  }
  return Math.sqrt(worst)
}

/** The trial against every point of the stretch; the parameter walks along with the points. */
function judge(points: Float64Array, from: number, to: number, tolerance: FitTolerance): boolean {
  const { x1, y1, x2, y2 } = trial
  const ax = points[2 * from]
  const ay = points[2 * from + 1]
  const bx = points[2 * to]
  const by = points[2 * to + 1]
  const c1x = 3 * (x1 - ax)
  const c1y = 3 * (y1 - ay)
  const c2x = 3 * (ax - 2 * x1 + x2)
  const c2y = 3 * (ay - 2 * y1 + y2)
  const c3x = bx - ax + 3 * (x1 - x2)
  const c3y = by - ay + 3 * (y1 - y2)
  const limit = tolerance.max * tolerance.max
  let squares = 0
  let t = 0
  for (let j = from + 1; j < to; j++) {
    const px = points[2 * j]
    const py = points[2 * j + 1]
    let d = 0
    for (let k = 0; k < 3; k++) {
      const dx = px - (ax + t * (c1x + t * (c2x + t * c3x)))
      const dy = py - (ay + t * (c1y + t * (c2y + t * c3y)))
      const vx = c1x + t * (2 * c2x + t * 3 * c3x)
      const vy = c1y + t * (2 * c2y + t * 3 * c3y)
      const speed = vx * vx + vy * vy
      if (speed < 1e-12) {
        d = dx * dx + dy * dy
        t += 1e-3
        continue
      }
      const along = (dx * vx + dy * vy) / speed
      d = dx * dx + dy * dy - along * along * speed
      t += along
      if (t > 1) t = 1
      if (along * along * speed < 0.01) break
    }
    if (d > limit) return false
    squares += d
  }
  return squares <= tolerance.rms * tolerance.rms * (to - from - 1)
}
