import type { Path } from '../../geometry/path.ts'
import { type Piece, pathOf } from '../../geometry/pieces.ts'
import { type Entity, number, text } from './dxf-document.ts'

/** How far cubics may lie off the arcs and splines they stand for, in units of the drawing. */
export interface CurveOptions {
  readonly tolerance: number
}

const FULL = 2 * Math.PI
const SAME = 1e-9

/**
 * An arc as cubics. One over an angle θ is off by r · (4/27) · sin⁶(θ/4)/cos²(θ/4)
 * (M. Goldapp, Computer Aided Geometric Design 8(3), 1991): as many as keep that within the tolerance.
 */
export function arcPieces(cx: number, cy: number, r: number, from: number, sweep: number, tolerance: number): Piece[] {
  const off = (theta: number): number => ((r * 4) / 27) * (Math.sin(theta / 4) ** 6 / Math.cos(theta / 4) ** 2)
  let n = Math.max(1, Math.ceil(Math.abs(sweep) / (Math.PI / 2) - 1e-9))
  while (off(Math.abs(sweep) / n) > tolerance && n < 10_000) n++
  const step = sweep / n
  const k = (4 / 3) * Math.tan(step / 4) * r
  return Array.from({ length: n }, (_, i): Piece => {
    const a = from + i * step
    const b = a + step
    const [ca, sa, cb, sb] = [Math.cos(a), Math.sin(a), Math.cos(b), Math.sin(b)]
    return [
      cx + r * ca,
      cy + r * sa,
      cx + r * ca - k * sa,
      cy + r * sa + k * ca,
      cx + r * cb + k * sb,
      cy + r * sb - k * cb,
      cx + r * cb,
      cy + r * sb,
    ]
  })
}

/** A stretch of a polyline: straight, or by its bulge, the tangent of a quarter of the angle of its arc. */
function bulged(x0: number, y0: number, x1: number, y1: number, bulge: number, tolerance: number): Piece[] {
  const chord = Math.hypot(x1 - x0, y1 - y0)
  if (chord < SAME) return []
  if (Math.abs(bulge) < 1e-12) return [[x0, y0, x1, y1]]
  const sweep = 4 * Math.atan(bulge)
  const r = chord / (2 * Math.abs(Math.sin(sweep / 2)))
  // The centre lies off the middle of the chord, to its left for a positive bulge below a half circle.
  const h = ((1 - bulge * bulge) / (4 * bulge)) * chord
  const cx = (x0 + x1) / 2 - ((y1 - y0) / chord) * h
  const cy = (y0 + y1) / 2 + ((x1 - x0) / chord) * h
  const pieces = arcPieces(cx, cy, r, Math.atan2(y0 - cy, x0 - cx), sweep, tolerance) as number[][]
  // Ends exactly where the vertices are.
  pieces[0][0] = x0
  pieces[0][1] = y0
  pieces[pieces.length - 1][6] = x1
  pieces[pieces.length - 1][7] = y1
  return pieces
}

function polyline(points: readonly (readonly [number, number, number])[], closed: boolean, tolerance: number): Path[] {
  const pieces: Piece[] = []
  const n = points.length
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const [x0, y0, bulge] = points[i]
    const [x1, y1] = points[(i + 1) % n]
    pieces.push(...bulged(x0, y0, x1, y1, bulge, tolerance))
  }
  if (pieces.length === 0) return []
  const [fx, fy] = points[0]
  const [lx, ly] = points[n - 1]
  // One that ends where it begins is closed, whatever it says.
  return [pathOf(pieces, closed || (n > 2 && Math.hypot(fx - lx, fy - ly) < SAME))]
}

/** Paths of an entity in its own coordinates, y up; undefined where it is no curve. @throws RangeError for numbers that are none */
export function entityPaths(entity: Entity, { tolerance }: CurveOptions): Path[] | undefined {
  const n = (code: number, missing?: number): number => number(entity, code, missing)
  switch (entity.type) {
    case 'LINE': {
      const [x0, y0, x1, y1] = [n(10), n(20), n(11), n(21)]
      return Math.hypot(x1 - x0, y1 - y0) < SAME ? [] : [pathOf([[x0, y0, x1, y1]], false)]
    }
    case 'CIRCLE':
      return n(40) > 0 ? [pathOf(arcPieces(n(10), n(20), n(40), 0, FULL, tolerance), true)] : []
    case 'ARC': {
      const from = (n(50) * Math.PI) / 180
      const to = (n(51, 360) * Math.PI) / 180
      return n(40) > 0 ? [pathOf(arcPieces(n(10), n(20), n(40), from, turn(from, to), tolerance), false)] : []
    }
    case 'ELLIPSE':
      return ellipse(entity, tolerance)
    case 'LWPOLYLINE': {
      const points: [number, number, number][] = []
      for (const { code, value } of entity.pairs) {
        const v = Number(value)
        if ((code === 10 || code === 20 || code === 42) && !Number.isFinite(v)) throw new RangeError(`${value} is no number`)
        if (code === 10) points.push([v, 0, 0])
        else if (code === 20 && points.length > 0) points[points.length - 1][1] = v
        else if (code === 42 && points.length > 0) points[points.length - 1][2] = v
      }
      return points.length > 1 ? polyline(points, (n(70) & 1) === 1, tolerance) : []
    }
    case 'POLYLINE': {
      const flags = n(70)
      // Meshes are no outlines.
      if (flags & (16 | 64)) return undefined
      // Of a line that was fitted the points of its frame do not count.
      const points = entity.parts
        .filter((part) => (number(part, 70) & 16) === 0)
        .map((part) => [number(part, 10), number(part, 20), number(part, 42)] as const)
      return points.length > 1 ? polyline(points, (flags & 1) === 1, tolerance) : []
    }
    case 'SPLINE':
      return spline(entity, tolerance)
    case 'SOLID':
    case 'TRACE': {
      const at = (k: number): [number, number, number] => [n(10 + k), n(20 + k), 0]
      const corners = [at(0), at(1), ...(text(entity, 13) === undefined ? [] : [at(3)]), at(2)]
      return polyline(corners, true, tolerance)
    }
    default:
      return undefined
  }
}

/** From one angle on to another, counter-clockwise, at most a full turn. */
function turn(from: number, to: number): number {
  const sweep = (((to - from) % FULL) + FULL) % FULL
  return sweep < 1e-12 ? FULL : sweep
}

function ellipse(entity: Entity, tolerance: number): Path[] {
  const [cx, cy] = [number(entity, 10), number(entity, 20)]
  const [mx, my] = [number(entity, 11), number(entity, 21)]
  const ratio = number(entity, 40, 1)
  const major = Math.hypot(mx, my)
  if (major < SAME || !(ratio > 0)) return []
  const from = number(entity, 41)
  const sweep = turn(from, number(entity, 42, FULL))
  // A unit circle, stretched: what it is off grows with the longer axis.
  const unit = arcPieces(0, 0, 1, from, sweep, tolerance / major)
  const pieces = unit.map((piece) =>
    piece.map((_, i) => {
      const u = piece[i & ~1]
      const v = piece[i | 1] * ratio
      return i % 2 === 0 ? cx + u * mx - v * my : cy + u * my + v * mx
    }),
  )
  return [pathOf(pieces, FULL - sweep < 1e-6)]
}

/** A point of a curve in homogeneous coordinates. */
type Weighted = readonly [number, number, number]

const mix = (a: Weighted, b: Weighted, t: number): Weighted => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
]

/**
 * A spline: parted into Bézier curves by inserting knots (W. Boehm, Computer-Aided Design 12(4), 1980), exact where it is a
 * plain cubic or less, else fitted within the tolerance. Of one with fit points only, a cubic runs through each.
 */
function spline(entity: Entity, tolerance: number): Path[] {
  const degree = number(entity, 71, 3)
  const knots: number[] = []
  const weights: number[] = []
  const control: [number, number][] = []
  const fit: [number, number][] = []
  for (const { code, value } of entity.pairs) {
    const v = Number(value)
    if (code >= 10 && code < 50 && !Number.isFinite(v)) throw new RangeError(`${value} is no number`)
    if (code === 40) knots.push(v)
    else if (code === 41) weights.push(v)
    else if (code === 10) control.push([v, 0])
    else if (code === 20 && control.length > 0) control[control.length - 1][1] = v
    else if (code === 11) fit.push([v, 0])
    else if (code === 21 && fit.length > 0) fit[fit.length - 1][1] = v
  }
  const closed = (number(entity, 70) & 1) === 1
  if (control.length === 0) return fit.length > 1 ? [through(fit, closed)] : []
  if (degree < 1 || degree > 25 || control.length <= degree || knots.length !== control.length + degree + 1)
    throw new RangeError('a spline whose knots do not fit')
  const curves = bezierCurves(
    degree,
    knots,
    control.map(([x, y], i): Weighted => {
      const w = weights.length === control.length ? weights[i] : 1
      if (!(w > 0)) throw new RangeError('a weight that is not above 0')
      return [x * w, y * w, w]
    }),
  )
  const pieces = curves.flatMap((curve) => cubics(curve, tolerance, 0)).filter((piece) => !isPoint(piece))
  if (pieces.length === 0) return []
  const [fx, fy] = pieces[0]
  const last = pieces[pieces.length - 1]
  const [lx, ly] = last.slice(-2)
  return [pathOf(pieces, closed || Math.hypot(fx - lx, fy - ly) < 1e-7)]
}

const isPoint = (piece: Piece): boolean => {
  for (let i = 2; i < piece.length; i += 2) if (Math.hypot(piece[i] - piece[0], piece[i + 1] - piece[1]) > SAME) return false
  return true
}

/** Bézier curves of a B-spline, each with degree + 1 points. */
function bezierCurves(degree: number, knots: readonly number[], control: readonly Weighted[]): Weighted[][] {
  let u = [...knots]
  let p = [...control]
  const low = u[degree]
  const high = u[p.length]
  // Every knot within, and both ends, as often as the degree.
  for (const knot of [...new Set(u)].filter((k) => k >= low && k <= high)) {
    const times = u.filter((k) => k === knot).length
    for (let k = times; k < degree; k++) [u, p] = inserted(degree, u, p, knot)
  }
  const curves: Weighted[][] = []
  for (let i = 0; i + 1 < u.length; i++) {
    if (u[i] < low || u[i + 1] > high || u[i + 1] - u[i] < 1e-12) continue
    const first = i - degree
    const points = p.slice(first, first + degree + 1)
    if (first >= 0 && points.length === degree + 1) curves.push(points)
  }
  return curves
}

function inserted(degree: number, u: readonly number[], p: readonly Weighted[], knot: number): [number[], Weighted[]] {
  let span = u.findLastIndex((k) => k <= knot)
  if (span >= p.length) span = u.findLastIndex((k) => k < knot)
  const out: Weighted[] = []
  for (let i = 0; i <= p.length; i++) {
    if (i <= span - degree) out.push(p[i])
    else if (i > span) out.push(p[i - 1])
    else {
      const width = u[i + degree] - u[i]
      const t = width > 0 ? (knot - u[i]) / width : 0
      out.push(i < p.length ? mix(p[i - 1], p[i], t) : p[i - 1])
    }
  }
  return [[...u.slice(0, span + 1), knot, ...u.slice(span + 1)], out]
}

/** One Bézier curve as lines and cubics. */
function cubics(curve: readonly Weighted[], tolerance: number, depth: number): Piece[] {
  const flat = curve.map(([x, y, w]): readonly [number, number] => [x / w, y / w])
  const even = curve.every(([, , w]) => Math.abs(w - curve[0][2]) < 1e-12)
  const [a, z] = [flat[0], flat[flat.length - 1]]
  if (even && curve.length === 2) return [[...a, ...z]]
  if (even && curve.length === 4) return [flat.flat()]
  if (even && curve.length === 3) {
    const [, b] = flat
    const third = (from: readonly [number, number]): readonly [number, number] => [
      from[0] + (2 / 3) * (b[0] - from[0]),
      from[1] + (2 / 3) * (b[1] - from[1]),
    ]
    return [[...a, ...third(a), ...third(z), ...z]]
  }
  const candidate = hermite(curve)
  const off = [0.2, 0.35, 0.5, 0.65, 0.8].reduce((worst, t) => Math.max(worst, distance(candidate, at(curve, t))), 0)
  if (off <= tolerance / 2 || depth > 12) return [candidate]
  const [left, right] = halves(curve)
  return [...cubics(left, tolerance, depth + 1), ...cubics(right, tolerance, depth + 1)]
}

/** A cubic with the same ends, and the same speed at them. */
function hermite(curve: readonly Weighted[]): Piece {
  const n = curve.length - 1
  const flat = ([x, y, w]: Weighted): readonly [number, number] => [x / w, y / w]
  const [a, b, y, z] = [curve[0], curve[1], curve[n - 1], curve[n]]
  const [ax, ay] = flat(a)
  const [zx, zy] = flat(z)
  const speed = (from: Weighted, to: Weighted): readonly [number, number] => {
    const [fx, fy] = flat(from)
    const [tx, ty] = flat(to)
    return [(n * (tx - fx) * to[2]) / from[2], (n * (ty - fy) * to[2]) / from[2]]
  }
  const [ux, uy] = speed(a, b)
  const [vx, vy] = speed(z, y)
  return [ax, ay, ax + ux / 3, ay + uy / 3, zx + vx / 3, zy + vy / 3, zx, zy]
}

function at(curve: readonly Weighted[], t: number): readonly [number, number] {
  let points = [...curve]
  while (points.length > 1) points = points.slice(1).map((point, i) => mix(points[i], point, t))
  const [x, y, w] = points[0]
  return [x / w, y / w]
}

function halves(curve: readonly Weighted[]): [Weighted[], Weighted[]] {
  const left: Weighted[] = []
  const right: Weighted[] = []
  let points = [...curve]
  while (points.length > 0) {
    left.push(points[0])
    right.unshift(points[points.length - 1])
    points = points.slice(1).map((point, i) => mix(points[i], point, 0.5))
  }
  return [left, right]
}

/** How far a point lies off a cubic, looked for in steps. */
function distance(piece: Piece, [x, y]: readonly [number, number]): number {
  let best = Infinity
  for (let i = 0; i <= 64; i++) {
    const t = i / 64
    const s = 1 - t
    const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t]
    const px = a * piece[0] + b * piece[2] + c * piece[4] + d * piece[6]
    const py = a * piece[1] + b * piece[3] + c * piece[5] + d * piece[7]
    const slopeX = 3 * (s * s * (piece[2] - piece[0]) + 2 * s * t * (piece[4] - piece[2]) + t * t * (piece[6] - piece[4]))
    const slopeY = 3 * (s * s * (piece[3] - piece[1]) + 2 * s * t * (piece[5] - piece[3]) + t * t * (piece[7] - piece[5]))
    const speed = Math.hypot(slopeX, slopeY)
    // Across the curve, within half a step along it.
    const along = speed > 0 ? Math.abs((x - px) * slopeX + (y - py) * slopeY) / speed : 0
    const whole = Math.hypot(x - px, y - py)
    const across = Math.sqrt(Math.max(0, whole * whole - along * along))
    best = Math.min(best, along <= speed / 100 ? across : whole)
  }
  return best
}

/** A smooth line through points (Catmull–Rom, centripetal would need their distances: ends as its neighbours lie). */
function through(points: readonly (readonly [number, number])[], closed: boolean): Path {
  const n = points.length
  const p = (i: number): readonly [number, number] => points[closed ? (i + n) % n : Math.min(n - 1, Math.max(0, i))]
  const pieces: Piece[] = []
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const [a, b, c, d] = [p(i - 1), p(i), p(i + 1), p(i + 2)]
    pieces.push([
      ...b,
      b[0] + (c[0] - a[0]) / 6,
      b[1] + (c[1] - a[1]) / 6,
      c[0] - (d[0] - b[0]) / 6,
      c[1] - (d[1] - b[1]) / 6,
      ...c,
    ])
  }
  return pathOf(pieces, closed)
}
