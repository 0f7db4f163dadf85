import { CUBIC, LINE, type Path } from '../geometry/path.ts'
import { ringArea } from '../geometry/ring.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { findCorners, placeCorner } from './corners.ts'
import { type FitTolerance, fitStretch, type PieceSink, tangentAt } from './fit.ts'
import { type Channel, inkField } from './ink.ts'
import { type Isoline, isolines } from './isoline.ts'

export interface TraceOptions {
  /** Lightness 0–1 below which a pixel is ink; for alpha, opacity above which it counts. */
  readonly threshold: number
  readonly channel: Channel
  /** Largest distance of the outline from the isoline, px; also its RMS limit is a third of it. */
  readonly tolerancePx: number
  /** A line that turns more than this within a few pixels has a corner. */
  readonly cornerDeg: number
  /** Specks and holes smaller than this are dropped, px². */
  readonly minAreaPx: number
  /** Called now and then with the share done 0–1; may throw to cancel. */
  readonly progress?: (done: number) => void
}

export const DEFAULT_TOLERANCE_PX = 0.25
export const DEFAULT_CORNER_DEG = 32

/**
 * Picture → outlines of its dark (or opaque) areas, as closed paths of lines and cubics in source pixels.
 * Filled by even-odd; outer paths run clockwise on a screen, holes against it.
 */
export function trace(picture: GreyPicture, options: TraceOptions): Path[] {
  const { threshold, channel, minAreaPx, cornerDeg, tolerancePx, progress } = options
  if (!(threshold >= 0 && threshold <= 1)) throw new RangeError(`The threshold lies between 0 and 1, not ${threshold}.`)
  const level = Math.min(254.5, Math.max(0.5, channel === 'alpha' ? threshold * 255 : (1 - threshold) * 255))
  const lines = isolines(inkField(picture, channel), level, progress && ((done) => progress(done * 0.3)))
  const paths: Path[] = []
  for (let i = 0; i < lines.length; i++) {
    if (progress && (i & 255) === 0) progress(0.3 + (0.7 * i) / lines.length)
    const line = lines[i]
    if (line.length < 6 || Math.abs(ringArea(line)) < minAreaPx) continue
    paths.push(outlineOf(line, tolerancePx, cornerDeg))
  }
  return paths
}

/** One isoline as a closed path. */
export function outlineOf(line: Isoline, tolerancePx: number, cornerDeg: number): Path {
  const n = line.length / 2
  const tolerance = toleranceFor(line, tolerancePx)
  const kinds: number[] = []
  const points: number[] = []
  const sink: PieceSink = {
    line(x, y) {
      kinds.push(LINE)
      points.push(x, y)
    },
    cubic(x1, y1, x2, y2, x, y) {
      kinds.push(CUBIC)
      points.push(x1, y1, x2, y2, x, y)
    },
  }
  const corners = findCorners(line, cornerDeg)
  if (corners.length === 0) {
    // A smooth line: opened where it is straightest, with the same tangent on both sides.
    const seam = straightest(line, n)
    const loop = rotated(line, n, seam, n + 1)
    const tangent = seamTangent(line, n, seam)
    points.push(loop[0], loop[1])
    fitStretch(loop, 0, n, tangent, tangent && [-tangent[0], -tangent[1]], tolerance, sink)
  } else {
    const m = corners.length
    const places = corners.map((c, k) => {
      const before = m === 1 ? n : (c - corners[(k + m - 1) % m] + n) % n
      const after = m === 1 ? n : (corners[(k + 1) % m] - c + n) % n
      return placeCorner(line, c, before, after)
    })
    points.push(places[0][0], places[0][1])
    for (let k = 0; k < m; k++) {
      const from = corners[k]
      const to = corners[(k + 1) % m]
      const span = m === 1 ? n : (to - from + n) % n
      const stretch = between(line, n, from, span, places[k], places[(k + 1) % m])
      fitStretch(stretch, 0, stretch.length / 2 - 1, undefined, undefined, tolerance, sink)
    }
  }
  return { closed: true, kinds: Uint8Array.from(kinds), points: Float64Array.from(points) }
}

/** The points between two corners, with the corners' true places as ends and without the points they round off. */
function between(line: Isoline, n: number, from: number, span: number, a: [number, number], b: [number, number]): Float64Array {
  const out: number[] = [a[0], a[1]]
  const clear = span > 6 ? 1.2 : 0.4
  for (let k = 0; k <= span; k++) {
    const i = 2 * ((from + k) % n)
    const x = line[i]
    const y = line[i + 1]
    if (k < 4 && Math.hypot(x - a[0], y - a[1]) < clear) continue
    if (span - k < 4 && Math.hypot(x - b[0], y - b[1]) < clear) continue
    if (k === 0 || k === span) continue
    out.push(x, y)
  }
  out.push(b[0], b[1])
  return Float64Array.from(out)
}

function rotated(line: Isoline, n: number, start: number, count: number): Float64Array {
  const out = new Float64Array(count * 2)
  for (let k = 0; k < count; k++) {
    const i = 2 * ((start + k) % n)
    out[2 * k] = line[i]
    out[2 * k + 1] = line[i + 1]
  }
  return out
}

function straightest(line: Isoline, n: number): number {
  const w = Math.max(1, Math.min(6, n >> 3))
  let best = Infinity
  let at = 0
  for (let i = 0; i < n; i += Math.max(1, n >> 8)) {
    const a = 2 * ((i - w + n) % n)
    const c = 2 * ((i + w) % n)
    const bend = Math.hypot(line[a] + line[c] - 2 * line[2 * i], line[a + 1] + line[c + 1] - 2 * line[2 * i + 1])
    if (bend < best) {
      best = bend
      at = i
    }
  }
  return at
}

function seamTangent(line: Isoline, n: number, seam: number) {
  const reach = Math.min(6, (n - 1) >> 1)
  const around = rotated(line, n, (seam - reach + n) % n, 2 * reach + 1)
  return tangentAt(around, 0, 2 * reach, reach, 1)
}

/**
 * The tolerance asked for, but never below what the line's own noise allows. Noise is the median of third
 * differences, which no smooth curve has; √20 is their gain for independent errors.
 */
function toleranceFor(line: Isoline, tolerancePx: number): FitTolerance {
  const n = line.length / 2
  let noise = 0
  if (n >= 24) {
    const picks = Math.min(200, n)
    const found = new Float64Array(picks)
    for (let k = 0; k < picks; k++) {
      const i = Math.floor((k * n) / picks)
      const a = 2 * i
      const b = 2 * ((i + 1) % n)
      const c = 2 * ((i + 2) % n)
      const d = 2 * ((i + 3) % n)
      const x = line[d] - 3 * line[c] + 3 * line[b] - line[a]
      const y = line[d + 1] - 3 * line[c + 1] + 3 * line[b + 1] - line[a + 1]
      const tx = line[d] - line[a]
      const ty = line[d + 1] - line[a + 1]
      const length = Math.hypot(tx, ty)
      found[k] = length > 0 ? Math.abs(x * ty - y * tx) / length : 0
    }
    found.sort()
    noise = found[picks >> 1] / 0.6745 / Math.sqrt(20)
  }
  return { max: Math.max(tolerancePx, noise * 4), rms: Math.max(tolerancePx / 3, noise * 1.3) }
}
