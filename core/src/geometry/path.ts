import type { Ring } from './ring.ts'

/** Kinds of segment in a path. */
export const LINE = 0
export const CUBIC = 1

/**
 * An outline of straight and cubic Bézier segments.
 * `points` starts with the start point; each line adds its end (2 numbers), each cubic its two control points and its
 * end (6 numbers). A closed path returns to its start with its last segment.
 */
export interface Path {
  readonly closed: boolean
  readonly kinds: Uint8Array
  readonly points: Float64Array
}

/** Every point moved by x·sx + dx, y·sy + dy. */
export function mapPath(path: Path, sx: number, sy: number, dx: number, dy: number): Path {
  const points = new Float64Array(path.points.length)
  for (let i = 0; i < points.length; i += 2) {
    points[i] = path.points[i] * sx + dx
    points[i + 1] = path.points[i + 1] * sy + dy
  }
  return { closed: path.closed, kinds: path.kinds, points }
}

/** The path turned, then moved. @param cos,sin of the angle that turns x towards y */
export function turnPath(path: Path, cos: number, sin: number, dx: number, dy: number): Path {
  const points = new Float64Array(path.points.length)
  for (let i = 0; i < points.length; i += 2) {
    points[i] = path.points[i] * cos - path.points[i + 1] * sin + dx
    points[i + 1] = path.points[i] * sin + path.points[i + 1] * cos + dy
  }
  return { closed: path.closed, kinds: path.kinds, points }
}

/**
 * The path as a polygon whose chords stay within `tolerance` of the curve.
 * The number of chords of a cubic follows from its second differences (Wang's bound, in Goldman,
 * "Pyramid Algorithms", 2003): n = √(√(…)/ (8·tolerance) · 6).
 */
export function flattenPath(path: Path, tolerance: number): Ring {
  const { kinds, points } = path
  const out: number[] = [points[0], points[1]]
  let at = 2
  let x = points[0]
  let y = points[1]
  for (let s = 0; s < kinds.length; s++) {
    if (kinds[s] === LINE) {
      x = points[at]
      y = points[at + 1]
      at += 2
      out.push(x, y)
      continue
    }
    const x1 = points[at]
    const y1 = points[at + 1]
    const x2 = points[at + 2]
    const y2 = points[at + 3]
    const x3 = points[at + 4]
    const y3 = points[at + 5]
    at += 6
    const bend = Math.max(Math.hypot(x - 2 * x1 + x2, y - 2 * y1 + y2), Math.hypot(x1 - 2 * x2 + x3, y1 - 2 * y2 + y3))
    const chords = Math.max(1, Math.min(1000, Math.ceil(Math.sqrt((6 * bend) / (8 * tolerance)))))
    for (let k = 1; k <= chords; k++) {
      const t = k / chords
      const u = 1 - t
      const a = u * u * u
      const b = 3 * u * u * t
      const c = 3 * u * t * t
      const d = t * t * t
      out.push(a * x + b * x1 + c * x2 + d * x3, a * y + b * y1 + c * y2 + d * y3)
    }
    x = x3
    y = y3
  }
  const n = out.length
  if (path.closed && n > 2 && Math.hypot(out[n - 2] - out[0], out[n - 1] - out[1]) < 1e-9) out.length = n - 2
  return Float64Array.from(out)
}

/** A polygon as a closed path of straight segments. */
export function pathFromRing(ring: Ring): Path {
  const n = ring.length / 2
  const points = new Float64Array(ring.length + 2)
  points.set(ring)
  points[ring.length] = ring[0]
  points[ring.length + 1] = ring[1]
  return { closed: true, kinds: new Uint8Array(n), points }
}

/** A polyline as an open path of straight segments. */
export const pathFromLine = (line: Ring): Path => ({
  closed: false,
  kinds: new Uint8Array(Math.max(0, line.length / 2 - 1)),
  points: line,
})
