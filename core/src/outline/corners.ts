import type { Isoline } from './isoline.ts'

/** How far to look for a turn on either side, in points (about pixels). */
const LONG = 8
const SHORT = 4
/** A corner keeps its turn over half the window; an arc loses half of it. */
const PERSISTS = 0.72

/**
 * The corners of a closed line: places where it turns by more than `cornerDeg` over a window and still turns almost as
 * much over half of it. Returns indices of points, ascending.
 */
export function findCorners(line: Isoline, cornerDeg: number): number[] {
  const n = line.length / 2
  if (n < 8) return []
  const long = Math.min(LONG, n >> 3)
  if (long < 2) return []
  const short = Math.max(1, Math.min(SHORT, long >> 1))
  const limit = (cornerDeg * Math.PI) / 180
  const turn = new Float64Array(n)
  for (let i = 0; i < n; i++) {
    const wide = Math.abs(turning(line, n, i, long))
    if (wide < limit) continue
    const narrow = Math.abs(turning(line, n, i, short))
    if (narrow >= PERSISTS * wide && narrow >= limit * 0.7) turn[i] = wide + narrow
  }
  const corners: number[] = []
  for (let i = 0; i < n; i++) {
    if (turn[i] === 0) continue
    let best = true
    for (let k = 1; k <= short && best; k++) {
      const before = turn[(i - k + n) % n]
      const after = turn[(i + k) % n]
      if (before > turn[i] || after > turn[i] || (before === turn[i] && k > 0)) best = before < turn[i] && after <= turn[i]
    }
    if (best) corners.push(i)
  }
  return corners
}

function turning(line: Isoline, n: number, i: number, w: number): number {
  const a = ((i - w + n) % n) * 2
  const b = i * 2
  const c = ((i + w) % n) * 2
  const ux = line[b] - line[a]
  const uy = line[b + 1] - line[a + 1]
  const vx = line[c] - line[b]
  const vy = line[c + 1] - line[b + 1]
  return Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy)
}

/** Points nearer than this to a corner are rounded by the pixels and are not used to place it. */
const BLURRED = 2
/** How many points on each side carry the estimate of a corner. */
const SIDE = 9

/**
 * The true place of a corner: a parabola (a line where few points are left) is fitted to the points on either side,
 * and the two are intersected. Falls back to the nearest point where they do not meet close by.
 * @param before points available before the corner until the previous one @param after likewise after it
 */
export function placeCorner(line: Isoline, corner: number, before: number, after: number): [number, number] {
  const n = line.length / 2
  const px = line[2 * corner]
  const py = line[2 * corner + 1]
  const a = side(line, n, corner, -1, Math.min(SIDE + BLURRED, before >> 1))
  const b = side(line, n, corner, 1, Math.min(SIDE + BLURRED, after >> 1))
  if (!a || !b) return [px, py]
  // Newton on the two arc parameters: a(s) = b(t), started where both reach the corner.
  let s = 0
  let t = 0
  for (let k = 0; k < 8; k++) {
    const ax = a.x0 + s * (a.x1 + s * a.x2)
    const ay = a.y0 + s * (a.y1 + s * a.y2)
    const bx = b.x0 + t * (b.x1 + t * b.x2)
    const by = b.y0 + t * (b.y1 + t * b.y2)
    const dx = bx - ax
    const dy = by - ay
    const ux = a.x1 + 2 * s * a.x2
    const uy = a.y1 + 2 * s * a.y2
    const vx = b.x1 + 2 * t * b.x2
    const vy = b.y1 + 2 * t * b.y2
    const det = -ux * vy + uy * vx
    if (Math.abs(det) < 1e-3) return [px, py]
    const ds = (-dx * vy + dy * vx) / det
    const dt = (ux * dy - uy * dx) / det
    s += ds
    t += dt
    if (Math.abs(s) > 4 || Math.abs(t) > 4) return [px, py]
    if (Math.abs(ds) + Math.abs(dt) < 1e-9) break
  }
  const x = a.x0 + s * (a.x1 + s * a.x2)
  const y = a.y0 + s * (a.y1 + s * a.y2)
  return Math.hypot(x - px, y - py) < 3 ? [x, y] : [px, py]
}

/** x(s), y(s) as parabolas of the distance s from the corner point, fitted by least squares. */
interface Side {
  x0: number
  x1: number
  x2: number
  y0: number
  y1: number
  y2: number
}

function side(line: Isoline, n: number, corner: number, direction: 1 | -1, reach: number): Side | undefined {
  const first = reach > 4 ? BLURRED : 1
  const count = reach - first + 1
  if (count < 2) return undefined
  const ox = line[2 * corner]
  const oy = line[2 * corner + 1]
  let s0 = 0
  let s1 = 0
  let s2 = 0
  let s3 = 0
  let s4 = 0
  let mx0 = 0
  let mx1 = 0
  let mx2 = 0
  let my0 = 0
  let my1 = 0
  let my2 = 0
  let far = 0
  let lastX = ox
  let lastY = oy
  let length = 0
  for (let k = 1; k <= reach; k++) {
    const i = 2 * ((corner + direction * k + n * 2) % n)
    length += Math.hypot(line[i] - lastX, line[i + 1] - lastY)
    lastX = line[i]
    lastY = line[i + 1]
    if (k < first) continue
    const s = length
    const x = lastX - ox
    const y = lastY - oy
    s0 += 1
    s1 += s
    s2 += s * s
    s3 += s * s * s
    s4 += s * s * s * s
    mx0 += x
    mx1 += x * s
    mx2 += x * s * s
    my0 += y
    my1 += y * s
    my2 += y * s * s
    far = s
  }
  if (far === 0) return undefined
  const det = s0 * s2 - s1 * s1
  if (Math.abs(det) < 1e-9) return undefined
  const lineX: [number, number] = [(mx0 * s2 - mx1 * s1) / det, (s0 * mx1 - s1 * mx0) / det]
  const lineY: [number, number] = [(my0 * s2 - my1 * s1) / det, (s0 * my1 - s1 * my0) / det]
  const straight: Side = { x0: ox + lineX[0], x1: lineX[1], x2: 0, y0: oy + lineY[0], y1: lineY[1], y2: 0 }
  if (count < 6) return straight
  const d3 = s0 * (s2 * s4 - s3 * s3) - s1 * (s1 * s4 - s3 * s2) + s2 * (s1 * s3 - s2 * s2)
  if (Math.abs(d3) < 1e-6) return straight
  const solve = (m0: number, m1: number, m2: number): [number, number, number] => [
    (m0 * (s2 * s4 - s3 * s3) - s1 * (m1 * s4 - s3 * m2) + s2 * (m1 * s3 - s2 * m2)) / d3,
    (s0 * (m1 * s4 - m2 * s3) - m0 * (s1 * s4 - s3 * s2) + s2 * (s1 * m2 - m1 * s2)) / d3,
    (s0 * (s2 * m2 - s3 * m1) - s1 * (s1 * m2 - m1 * s2) + m0 * (s1 * s3 - s2 * s2)) / d3,
  ]
  const [ax, bx, cx] = solve(mx0, mx1, mx2)
  const [ay, by, cy] = solve(my0, my1, my2)
  // A bend that stays below what the pixels resolve is a straight side: a line extrapolates better.
  if (Math.hypot(cx, cy) * far * far < 0.12) return straight
  return { x0: ox + ax, x1: bx, x2: cx, y0: oy + ay, y1: by, y2: cy }
}
