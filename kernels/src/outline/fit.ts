import { px, py } from './points'

/**
 * Least-squares cubics through the points of one smooth stretch, as few as the tolerance allows.
 * After P. Schneider, "An Algorithm for Automatically Fitting Digitized Curves", Graphics Gems, 1990, with free or
 * given tangents at either end and with the longest possible piece taken first.
 */

const LINE: u8 = 0
const CUBIC: u8 = 1

/** At most this many points carry a trial; all of them judge it. */
const SAMPLES: i32 = 20
const ROUNDS: i32 = 4
/** A cubic's way is at most this many times its chord. */
const LONGEST: f64 = 2
/** The samples: x, y and parameter of each. */
const samples: i32 = <i32>memory.data(8 * 3 * SAMPLES, 16)

// Control points of the last trial that was accepted, or that it is a straight line.
let x1: f64 = 0
let y1: f64 = 0
let x2: f64 = 0
let y2: f64 = 0
let straight: bool = false

/** Largest distance of a point from the curve, and the root mean square of the distances, px. */
let maxOff: f64 = 0
let rmsOff: f64 = 0
/** Way along the stretch at hand up to each of its points (f64). */
let way: i32 = 0

// Where pieces go: a byte a piece, and its points.
let kinds: i32 = 0
let points: i32 = 0
/** Pieces of the path at hand. */
export let pieceCount: i32 = 0
/** Bytes of its points. */
export let pieceBytes: i32 = 0

/** Starts a new path at (x, y). */
export function beginPath(x: f64, y: f64, kindsOut: i32, pointsOut: i32, wayRoom: i32, max: f64, rms: f64): void {
  kinds = kindsOut
  points = pointsOut
  way = wayRoom
  maxOff = max
  rmsOff = rms
  pieceCount = 0
  pieceBytes = 0
  put(x, y)
}

function put(x: f64, y: f64): void {
  store<f64>(points + pieceBytes, x)
  store<f64>(points + pieceBytes, y, 8)
  pieceBytes += 16
}

function emit(line: i32, to: i32): void {
  if (straight) store<u8>(kinds + pieceCount++, LINE)
  else {
    store<u8>(kinds + pieceCount++, CUBIC)
    put(x1, y1)
    put(x2, y2)
  }
  put(px(line, to), py(line, to))
}

// A direction of unit length, or none (both 0) where the curve may leave as it likes.
export let tangentX: f64 = 0
export let tangentY: f64 = 0
/** Where the parabola goes that carries the tangent. */
let smoothX: f64 = 0
let smoothY: f64 = 0

/** Half the number of points that carry a tangent. */
let reach: i32 = 5

/** Places where pieces meet are averaged over their neighbours: one alone would hand its error on to both. */
let grainy: bool = false

/** A place of a noisy line is put where the parabola of the last tangent goes. */
export function settle(line: i32, i: i32): void {
  store<f64>(line + 16 * i, smoothX)
  store<f64>(line + 16 * i, smoothY, 8)
}

export function setGrainy(is: bool): void {
  grainy = is
}

/** Stepped lines need more points for a tangent than smooth ones. */
export function setTangentReach(points: i32): void {
  reach = points
}

/** Tangent at a point from a parabola through its neighbours on both sides; `direction` 1 points onward, −1 back. */
export function tangentAt(line: i32, last: i32, i: i32, direction: f64): void {
  const lo = max(0, i - reach)
  const hi = min(last, i + reach)
  // Slope at 0 of a parabola fitted by least squares over k = lo−i … hi−i.
  let s1: f64 = 0
  let s2: f64 = 0
  let s3: f64 = 0
  let s4: f64 = 0
  let ax: f64 = 0
  let bx: f64 = 0
  let cx: f64 = 0
  let ay: f64 = 0
  let by: f64 = 0
  let cy: f64 = 0
  const ox = px(line, i)
  const oy = py(line, i)
  for (let j = lo; j <= hi; j++) {
    const k = <f64>(j - i)
    const kk = k * k
    s1 += k
    s2 += kk
    s3 += kk * k
    s4 += kk * kk
    const x = px(line, j) - ox
    const y = py(line, j) - oy
    ax += x
    bx += x * k
    cx += x * kk
    ay += y
    by += y * k
    cy += y * kk
  }
  const s0 = <f64>(hi - lo + 1)
  const det = s0 * (s2 * s4 - s3 * s3) - s1 * (s1 * s4 - s3 * s2) + s2 * (s1 * s3 - s2 * s2)
  let x: f64
  let y: f64
  smoothX = ox
  smoothY = oy
  if (hi - lo < 3 || abs(det) < 1e-9) {
    x = px(line, hi) - px(line, lo)
    y = py(line, hi) - py(line, lo)
  } else {
    const v0 = s2 * s4 - s3 * s3
    const v1 = s2 * s3 - s1 * s4
    const v2 = s1 * s3 - s2 * s2
    smoothX = ox + (ax * v0 + bx * v1 + cx * v2) / det
    smoothY = oy + (ay * v0 + by * v1 + cy * v2) / det
    const w0 = s2 * s3 - s1 * s4
    const w1 = s0 * s4 - s2 * s2
    const w2 = s1 * s2 - s0 * s3
    x = (ax * w0 + bx * w1 + cx * w2) / det
    y = (ay * w0 + by * w1 + cy * w2) / det
  }
  const length = sqrt(x * x + y * y)
  if (length < 1e-9) {
    tangentX = 0
    tangentY = 0
    return
  }
  tangentX = (direction * x) / length
  tangentY = (direction * y) / length
}

/**
 * Fits the points 0…last and hands on the pieces. The first and last point are kept.
 * @param sx,sy tangent at the first point, pointing into the stretch @param ex,ey at the last, pointing back into it
 */
export function fitStretch(line: i32, last: i32, sx: f64, sy: f64, ex: f64, ey: f64): void {
  let total: f64 = 0
  store<f64>(way, 0)
  for (let i = 1; i <= last; i++) {
    const dx = px(line, i) - px(line, i - 1)
    const dy = py(line, i) - py(line, i - 1)
    total += sqrt(dx * dx + dy * dy)
    store<f64>(way + 8 * i, total)
  }
  let from = 0
  let leaveX = sx
  let leaveY = sy
  while (from < last) {
    if (tryFit(line, from, last, leaveX, leaveY, ex, ey)) {
      emit(line, last)
      return
    }
    // The longest piece that fits: grow until it fails, then halve the gap.
    let good = from + 1
    let bad = last
    let step = max(4, (last - from) >> 1)
    let found = false
    while (bad - good > max(1, (good - from) >> 2)) {
      const half = (good + bad) >> 1
      const to = min(bad - 1, found ? half : min(from + step, half))
      if (to <= good) break
      tangentAt(line, last, to, -1)
      if (tryFit(line, from, to, leaveX, leaveY, tangentX, tangentY)) {
        good = to
        found = true
      } else bad = to
      step = max(2, step >> 1)
    }
    let backX = ex
    let backY = ey
    if (good !== last) {
      tangentAt(line, last, good, -1)
      backX = tangentX
      backY = tangentY
      if (grainy) {
        // Only where the piece fits there too.
        const x = px(line, good)
        const y = py(line, good)
        settle(line, good)
        if (!tryFit(line, from, good, leaveX, leaveY, backX, backY)) {
          store<f64>(line + 16 * good, x)
          store<f64>(line + 16 * good, y, 8)
        }
      }
    }
    if (!tryFit(line, from, good, leaveX, leaveY, backX, backY)) {
      straight = true
      emit(line, good)
      leaveX = 0
      leaveY = 0
    } else {
      emit(line, good)
      // A joint that is not a corner stays smooth.
      if ((backX !== 0 || backY !== 0) && !straight) {
        leaveX = -backX
        leaveY = -backY
      } else {
        tangentAt(line, last, good, 1)
        leaveX = tangentX
        leaveY = tangentY
      }
    }
    from = good
  }
}

function tryFit(line: i32, from: i32, to: i32, sx: f64, sy: f64, ex: f64, ey: f64): bool {
  if (isStraight(line, from, to, sx, sy, ex, ey)) {
    straight = true
    return true
  }
  straight = false
  const n = to - from
  if (n < 3) return false
  const ax = px(line, from)
  const ay = py(line, from)
  const bx = px(line, to)
  const by = py(line, to)
  const begin = load<f64>(way + 8 * from)
  const total = load<f64>(way + 8 * to) - begin
  // No single cubic goes around more than about half a turn.
  if (total * total > LONGEST * LONGEST * ((bx - ax) * (bx - ax) + (by - ay) * (by - ay))) return false
  // Points between the ends, evenly picked, by chord length.
  const count = min(SAMPLES, n - 1)
  for (let k = 0; k < count; k++) {
    const j = from + ((k + 1) * n + count) / (count + 1)
    const at = samples + 24 * k
    store<f64>(at, px(line, j))
    store<f64>(at, py(line, j), 8)
    store<f64>(at, (load<f64>(way + 8 * j) - begin) / total, 16)
  }
  let before = Infinity
  for (let round = 0; round < ROUNDS; round++) {
    if (!solve(count, ax, ay, bx, by, sx, sy, ex, ey, total)) return false
    const worst = reparameterise(count, ax, ay, bx, by)
    if (worst <= maxOff * 0.7) break
    // Hopeless: far off, or not getting nearer fast enough.
    if (worst > maxOff * (round === 0 ? 12 : 4) || (round > 0 && worst > before * 0.8)) return false
    before = worst
  }
  return judge(line, from, to, ax, ay, bx, by)
}

/** Whether all points lie on the chord; a tangent given must agree with it. */
function isStraight(line: i32, from: i32, to: i32, sx: f64, sy: f64, ex: f64, ey: f64): bool {
  if (to === from + 1) return true
  const ax = px(line, from)
  const ay = py(line, from)
  const bx = px(line, to)
  const by = py(line, to)
  const chord = sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay))
  if (chord < 1e-9) return false
  const ux = (bx - ax) / chord
  const uy = (by - ay) / chord
  const bend = min(0.2, 0.15 / sqrt(chord))
  if ((sx !== 0 || sy !== 0) && sx * ux + sy * uy < 1 - bend) return false
  if ((ex !== 0 || ey !== 0) && -(ex * ux + ey * uy) < 1 - bend) return false
  const middle = (from + to) >> 1
  if (abs((px(line, middle) - ax) * uy - (py(line, middle) - ay) * ux) > maxOff) return false
  let squares: f64 = 0
  for (let j = from + 1; j < to; j++) {
    const d = (px(line, j) - ax) * uy - (py(line, j) - ay) * ux
    if (abs(d) > maxOff) return false
    squares += d * d
  }
  return squares <= rmsOff * rmsOff * <f64>(to - from - 1)
}

/** Control points by least squares for the samples' parameters; false where they run away. */
function solve(count: i32, ax: f64, ay: f64, bx: f64, by: f64, sx: f64, sy: f64, ex: f64, ey: f64, total: f64): bool {
  let s11: f64 = 0
  let s12: f64 = 0
  let s22: f64 = 0
  let r1x: f64 = 0
  let r1y: f64 = 0
  let r2x: f64 = 0
  let r2y: f64 = 0
  for (let at = samples, end = samples + 24 * count; at < end; at += 24) {
    const t = load<f64>(at, 16)
    const u = 1 - t
    const b1 = 3 * u * u * t
    const b2 = 3 * u * t * t
    const p0 = u * u * u + b1
    const p3 = t * t * t + b2
    const dx = load<f64>(at) - p0 * ax - p3 * bx
    const dy = load<f64>(at, 8) - p0 * ay - p3 * by
    s11 += b1 * b1
    s12 += b1 * b2
    s22 += b2 * b2
    r1x += b1 * dx
    r1y += b1 * dy
    r2x += b2 * dx
    r2y += b2 * dy
  }
  const hasStart = sx !== 0 || sy !== 0
  const hasEnd = ex !== 0 || ey !== 0
  let ux: f64
  let uy: f64
  let vx: f64
  let vy: f64
  if (hasStart && hasEnd) {
    const m12 = s12 * (sx * ex + sy * ey)
    const c1 = r1x * sx + r1y * sy
    const c2 = r2x * ex + r2y * ey
    const det = s11 * s22 - m12 * m12
    if (abs(det) < 1e-12) return false
    const a1 = (c1 * s22 - c2 * m12) / det
    const a2 = (s11 * c2 - m12 * c1) / det
    if (a1 <= 0 || a2 <= 0) return false
    ux = a1 * sx
    uy = a1 * sy
    vx = a2 * ex
    vy = a2 * ey
  } else if (hasStart) {
    const det = s11 - (s12 * s12) / s22
    if (abs(det) < 1e-12) return false
    const a = (r1x * sx + r1y * sy - (s12 / s22) * (r2x * sx + r2y * sy)) / det
    if (a <= 0) return false
    ux = a * sx
    uy = a * sy
    vx = (r2x - s12 * ux) / s22
    vy = (r2y - s12 * uy) / s22
  } else if (hasEnd) {
    const det = s22 - (s12 * s12) / s11
    if (abs(det) < 1e-12) return false
    const a = (r2x * ex + r2y * ey - (s12 / s11) * (r1x * ex + r1y * ey)) / det
    if (a <= 0) return false
    vx = a * ex
    vy = a * ey
    ux = (r1x - s12 * vx) / s11
    uy = (r1y - s12 * vy) / s11
  } else {
    const det = s11 * s22 - s12 * s12
    if (abs(det) < 1e-12) return false
    ux = (r1x * s22 - r2x * s12) / det
    uy = (r1y * s22 - r2y * s12) / det
    vx = (s11 * r2x - s12 * r1x) / det
    vy = (s11 * r2y - s12 * r1y) / det
  }
  const reach = total * total * 1.5
  if (ux * ux + uy * uy > reach || vx * vx + vy * vy > reach) return false
  x1 = ax + ux
  y1 = ay + uy
  x2 = bx + vx
  y2 = by + vy
  return true
}

/** One Newton step for the parameter of every sample; returns the largest distance found. */
function reparameterise(count: i32, ax: f64, ay: f64, bx: f64, by: f64): f64 {
  // Polynomial form c3 t³ + c2 t² + c1 t + c0.
  const c1x = 3 * (x1 - ax)
  const c1y = 3 * (y1 - ay)
  const c2x = 3 * (ax - 2 * x1 + x2)
  const c2y = 3 * (ay - 2 * y1 + y2)
  const c3x = bx - ax + 3 * (x1 - x2)
  const c3y = by - ay + 3 * (y1 - y2)
  let worst: f64 = 0
  for (let at = samples, end = samples + 24 * count; at < end; at += 24) {
    const t = load<f64>(at, 16)
    const dx = ax + t * (c1x + t * (c2x + t * c3x)) - load<f64>(at)
    const dy = ay + t * (c1y + t * (c2y + t * c3y)) - load<f64>(at, 8)
    const vx = c1x + t * (2 * c2x + t * 3 * c3x)
    const vy = c1y + t * (2 * c2y + t * 3 * c3y)
    const wx = 2 * c2x + 6 * t * c3x
    const wy = 2 * c2y + 6 * t * c3y
    const speed = vx * vx + vy * vy
    const slope = speed + dx * wx + dy * wy
    const along = dx * vx + dy * vy
    const step = slope > 1e-12 ? along / slope : 0
    store<f64>(at, min(1, max(0, t - step)), 16)
    // Distance off the curve, squared: what it falls to by this step.
    const d = dx * dx + dy * dy - along * step
    if (d > worst) worst = d
  }
  return sqrt(worst)
}

/** The trial against every point of the stretch; the parameter walks along with the points. */
function judge(line: i32, from: i32, to: i32, ax: f64, ay: f64, bx: f64, by: f64): bool {
  const c1x = 3 * (x1 - ax)
  const c1y = 3 * (y1 - ay)
  const c2x = 3 * (ax - 2 * x1 + x2)
  const c2y = 3 * (ay - 2 * y1 + y2)
  const c3x = bx - ax + 3 * (x1 - x2)
  const c3y = by - ay + 3 * (y1 - y2)
  const limit = maxOff * maxOff
  let squares: f64 = 0
  let t: f64 = 0
  for (let j = from + 1; j < to; j++) {
    const x = px(line, j)
    const y = py(line, j)
    let d: f64 = 0
    for (let k = 0; k < 4; k++) {
      const dx = x - (ax + t * (c1x + t * (c2x + t * c3x)))
      const dy = y - (ay + t * (c1y + t * (c2y + t * c3y)))
      d = dx * dx + dy * dy
      const vx = c1x + t * (2 * c2x + t * 3 * c3x)
      const vy = c1y + t * (2 * c2y + t * 3 * c3y)
      const speed = vx * vx + vy * vy
      if (speed < 1e-12) {
        t += 1e-3
        continue
      }
      const step = (dx * vx + dy * vy) / speed
      // Nearly straight above the curve: what is left along it does not count.
      if (step * step * speed < 0.04) {
        d -= step * step * speed
        break
      }
      t = min(1, max(0, t + step))
    }
    if (d > limit) return false
    squares += d
  }
  return squares <= rmsOff * rmsOff * <f64>(to - from - 1)
}
