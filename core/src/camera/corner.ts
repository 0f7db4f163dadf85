import type { Camera } from './camera.ts'
import { lightOf, type Photo } from './photo.ts'
import { rectified } from './rectify.ts'

type Point = readonly [number, number]

/** How fine the place around a corner is looked at. */
const PX_PER_MM = 20
/** Each edge is looked at so far from its corner, and so far to each side of where it is expected, mm. */
const FROM_MM = 1.5
const TO_MM = 10
/** Lines across it, and how much beside each other is taken together, mm. */
const ACROSS = 48
const WIDE_MM = 0.3
/** A step of light counts from this share of the largest on its line. */
const STEP = 0.3
/** An edge is turned by at most this against where it is expected, degrees. */
const MOST_DEG = 4
/** Places nearer than this to a line are on it, mm; a line is an edge where so large a share of the lines has one. */
const ON_MM = 0.08
const LEAST_SHARE = 0.4
/** A line inside the strongest one is the edge where it is so strong against that. */
const AS_STRONG = 0.6
/** Where it is exactly, is seen over so much to each side; places farther off than this are something else, mm. */
const SHARP_MM = 0.1
const STRAY_MM = 0.04
const AGAIN_MM = 0.8

interface Step {
  /** Along the edge from the corner, and across it, outward, mm. */
  readonly along: number
  readonly off: number
  readonly size: number
}

/**
 * A corner of something light or dark that lies on the bed, in a photo of a camera that is near: two straight edges that meet. Each edge is
 * the innermost line along which the light steps; outside it lie its side and its shadow.
 * @param expected where the corner may be, mm @param ways from it along its two edges; the thing lies between them
 * @param reachMm how far off it may be
 * @returns undefined where no two edges are seen
 */
export function cornerSeen(
  photo: Photo,
  camera: Camera,
  expected: Point,
  ways: readonly [Point, Point],
  heightMm: number,
  reachMm = 3.5,
): Point | undefined {
  const about = cornerNear(photo, camera, expected, ways, heightMm, reachMm)
  // Looked at once more from there: nearer to the corner, and no farther off than need be.
  return about && (cornerNear(photo, camera, about, ways, heightMm, AGAIN_MM) ?? about)
}

function cornerNear(
  photo: Photo,
  camera: Camera,
  expected: Point,
  ways: readonly [Point, Point],
  heightMm: number,
  reachMm: number,
): Point | undefined {
  const half = TO_MM + reachMm + 1
  const side = Math.ceil(2 * half * PX_PER_MM)
  const view = { x: expected[0] - half, y: expected[1] - half, pxPerMm: PX_PER_MM, widthPx: side, heightPx: side }
  const rgba = rectified(photo, camera, view, heightMm)
  const { samples } = lightOf({ widthPx: side, heightPx: side, rgba })
  /** Light at a place from the expected corner; not a number where the photo shows nothing. */
  const at = (x: number, y: number): number => {
    const [u, v] = [(x + half) * PX_PER_MM - 0.5, (y + half) * PX_PER_MM - 0.5]
    const [c, r] = [Math.floor(u), Math.floor(v)]
    if (c < 0 || r < 0 || c + 1 >= side || r + 1 >= side) return Number.NaN
    const i = r * side + c
    if (rgba[4 * i + 3] === 0 || rgba[4 * (i + side + 1) + 3] === 0) return Number.NaN
    const [fu, fv] = [u - c, v - r]
    return (
      (samples[i] * (1 - fu) + samples[i + 1] * fu) * (1 - fv) + (samples[i + side] * (1 - fu) + samples[i + side + 1] * fu) * fv
    )
  }
  const lines = ways.map((way, k) => edgeAlong(at, way, ways[1 - k], reachMm))
  const [a, b] = lines
  if (!a || !b) return undefined
  // Where both lines meet.
  const det = a.n[0] * b.n[1] - a.n[1] * b.n[0]
  if (Math.abs(det) < 0.2) return undefined
  return [expected[0] + (a.d * b.n[1] - b.d * a.n[1]) / det, expected[1] + (a.n[0] * b.d - b.n[0] * a.d) / det]
}

interface Line {
  /** All its places p are where n · p = d, mm from the expected corner. */
  readonly n: Point
  readonly d: number
}

/** The edge along one way out of a corner. @param other the way of its other edge: that side is inside */
function edgeAlong(at: (x: number, y: number) => number, way: Point, other: Point, reach: number): Line | undefined {
  const [wx, wy] = way
  const outward: Point = wx * other[1] - wy * other[0] > 0 ? [wy, -wx] : [-wy, wx]
  const across = Array.from({ length: ACROSS }, (_, i) => {
    const along = FROM_MM + reach / 2 + ((TO_MM - FROM_MM - reach / 2) * i) / (ACROSS - 1)
    return { along, light: (off: number) => at(wx * along + outward[0] * off, wy * along + outward[1] * off) }
  })
  const steps = across.map(({ along, light }) => stepsAcross(light, along, { from: 0, reach, wideMm: WIDE_MM }))
  const about = innermost(steps)
  if (!about) return undefined
  const found = sharper(across, about)
  // off = c + m · along, in the corner's own ways.
  const { c, m } = found
  const size = Math.hypot(1, m)
  const n: Point = [(outward[0] - m * wx) / size, (outward[1] - m * wy) / size]
  return { n, d: c / size }
}

interface Across {
  readonly along: number
  readonly light: (off: number) => number
}

/** Where the light steps on a line across an edge. @param from looked at so far around this place, taking so much together */
function stepsAcross(
  light: Across['light'],
  along: number,
  { from, reach, wideMm }: { readonly from: number; readonly reach: number; readonly wideMm: number },
): Step[] {
  const fine = 1 / PX_PER_MM
  const half = Math.round(reach / fine)
  const wide = Math.round(wideMm / fine)
  const values = Array.from({ length: 2 * (half + wide) + 1 }, (_, i) => light(from + (i - half - wide) * fine))
  const slope = Array.from({ length: 2 * half + 1 }, (_, i) => {
    let [out, inside] = [0, 0]
    for (let k = 1; k <= wide; k++) {
      out += values[i + wide + k]
      inside += values[i + wide - k]
    }
    return Math.abs(out - inside) / wide
  })
  if (slope.some(Number.isNaN)) return []
  const most = Math.max(...slope)
  const found: Step[] = []
  for (let i = 1; i + 1 < slope.length; i++) {
    const [a, b, c] = [slope[i - 1], slope[i], slope[i + 1]]
    if (b < STEP * most || b < a || b <= c) continue
    const bend = a - 2 * b + c
    found.push({ along, off: from + (i - half + (bend < 0 ? (0.5 * (a - c)) / bend : 0)) * fine, size: b })
  }
  return found
}

/** The innermost line on which most lines across have a step, about as strong as any. */
function innermost(steps: readonly (readonly Step[])[]): { readonly c: number; readonly m: number } | undefined {
  const most = Math.tan((MOST_DEG * Math.PI) / 180)
  const lines: { c: number; m: number; on: number; size: number; mid: number }[] = []
  const seen = steps.filter(({ length }) => length > 0)
  if (seen.length < LEAST_SHARE * steps.length) return undefined
  // Lines through a step of an early line across and one of a late one.
  const early = seen.slice(0, Math.ceil(seen.length / 4))
  const late = seen.slice(Math.floor((3 * seen.length) / 4))
  for (const from of early)
    for (const to of late)
      for (const p of from)
        for (const q of to) {
          const m = (q.off - p.off) / (q.along - p.along)
          if (Math.abs(m) > most) continue
          const line = fitted(seen, p.off - m * p.along, m)
          if (line && line.on >= LEAST_SHARE * steps.length)
            lines.push({ ...line, mid: line.c + (line.m * (FROM_MM + TO_MM)) / 2 })
        }
  if (lines.length === 0) return undefined
  const strongest = Math.max(...lines.map(({ on, size }) => on * size))
  const edges = lines.filter(({ on, size }) => on * size >= AS_STRONG * strongest).sort((a, b) => a.mid - b.mid)
  // Of those that are about the same one, the one with the most places on it.
  const same = edges.filter(({ mid }) => mid < edges[0].mid + 2 * ON_MM)
  return same.sort((a, b) => b.on - a.on)[0]
}

/** A line where the light steps most sharply beside it. */
function sharper(across: readonly Across[], { c, m }: { readonly c: number; readonly m: number }): { c: number; m: number } {
  const steps = across.map(({ along, light }) =>
    stepsAcross(light, along, { from: c + m * along, reach: 1.5 * ON_MM, wideMm: SHARP_MM })
      .sort((a, b) => b.size - a.size)
      .slice(0, 1),
  )
  return fitted(steps, c, m, STRAY_MM) ?? { c, m }
}

/** A line fitted to the steps that lie on it, least squares, three times. */
function fitted(
  steps: readonly (readonly Step[])[],
  c0: number,
  m0: number,
  strayMm = ON_MM,
): { readonly c: number; readonly m: number; readonly on: number; readonly size: number } | undefined {
  let [c, m, on, size] = [c0, m0, 0, 0]
  for (const near of [ON_MM, strayMm, strayMm]) {
    let [n, sx, sy, sxx, sxy, sum] = [0, 0, 0, 0, 0, 0]
    for (const line of steps) {
      let best: Step | undefined
      for (const step of line) {
        const off = Math.abs(step.off - c - m * step.along)
        if (off < near && (!best || off < Math.abs(best.off - c - m * best.along))) best = step
      }
      if (!best) continue
      n++
      sx += best.along
      sy += best.off
      sxx += best.along * best.along
      sxy += best.along * best.off
      sum += best.size
    }
    const det = n * sxx - sx * sx
    if (n < 4 || det < 1e-9) return undefined
    m = (n * sxy - sx * sy) / det
    c = (sy - m * sx) / n
    ;[on, size] = [n, sum / n]
  }
  return { c, m, on, size }
}
