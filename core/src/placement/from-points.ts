import { crossesItself } from '../geometry/crossing.ts'
import { type Ring, ringArea } from '../geometry/ring.ts'
import { faceOutline, type PieceOutline } from '../job/document/workpiece.ts'
import { micro } from '../numeric/micro.ts'
import type { Pose } from '../space/pose.ts'
import { counted } from '../units/counted.ts'

/** What is touched with the head: opposite corners of a rectangle that lies straight; three corners of one that lies anyhow; places on a round edge; every corner. */
export type TouchedAs = 'rectangle' | 'rectangle askew' | 'circle' | 'corners'

/** How many places are needed before there is a shape. */
export const LEAST_POINTS: Readonly<Record<TouchedAs, number>> = { rectangle: 2, 'rectangle askew': 3, circle: 3, corners: 3 }

type Point = readonly [number, number]

/** An edge, and how the box around it lies on the bed; or why the places give none, a sentence. @property offMm how far places lie from the edge at most */
export type Touched = { readonly outline: PieceOutline; readonly pose: Pose; readonly offMm: number } | { readonly not: string }

/** Smaller than this nothing is a workpiece, mm. */
const LEAST_MM = 1

/** The workpiece whose edge was touched. @param points where, mm of the bed, in the order in which they were taken */
export function pieceFromPoints(as: TouchedAs, points: readonly Point[]): Touched {
  const missing = LEAST_POINTS[as] - points.length
  if (missing > 0) return { not: `${counted(missing, 'place')} more: ${asked(as, points.length)}.` }
  if (as === 'rectangle') return straight(points)
  if (as === 'rectangle askew') return askew(points)
  return as === 'circle' ? round(points) : cornered(points)
}

/** What is touched next, in words. */
export function asked(as: TouchedAs, taken: number): string {
  if (as === 'rectangle') return taken === 0 ? 'one corner' : 'the corner opposite'
  if (as === 'rectangle askew')
    return ['one corner', 'the next corner, along an edge', 'any place on the edge opposite'][Math.min(2, taken)]
  return as === 'circle' ? 'a place on the edge, far from the others' : 'the next corner, around the edge'
}

function straight([[ax, ay], [bx, by]]: readonly Point[]): Touched {
  const [widthMm, heightMm] = [micro(Math.abs(bx - ax)), micro(Math.abs(by - ay))]
  if (widthMm < LEAST_MM || heightMm < LEAST_MM)
    return { not: 'These corners lie on one line: touch two that lie opposite each other.' }
  return {
    outline: { kind: 'rect', widthMm, heightMm },
    pose: { xMm: micro(Math.min(ax, bx)), yMm: micro(Math.min(ay, by)) },
    offMm: 0,
  }
}

function askew([[ax, ay], [bx, by], [px, py]]: readonly Point[]): Touched {
  const widthMm = Math.hypot(bx - ax, by - ay)
  if (widthMm < LEAST_MM) return { not: 'The first two corners are one place: touch the next corner along the edge.' }
  const [ux, uy] = [(bx - ax) / widthMm, (by - ay) / widthMm]
  const across = (px - ax) * -uy + (py - ay) * ux
  const heightMm = Math.abs(across)
  if (heightMm < LEAST_MM) return { not: 'The third place lies on the line of the first two: touch the edge opposite.' }
  const [cx, cy] = [(ax + bx) / 2 - (uy * across) / 2, (ay + by) / 2 + (ux * across) / 2]
  // Turned by no more than a quarter: a rectangle looks the same after half a turn, and width and height change places after a quarter.
  let deg = (Math.atan2(uy, ux) * 180) / Math.PI
  let [w, h] = [widthMm, heightMm]
  deg -= 180 * Math.round(deg / 180)
  if (Math.abs(deg) > 45) {
    deg -= 90 * Math.sign(deg)
    ;[w, h] = [h, w]
  }
  const turned = Math.round(deg * 1000) / 1000
  return {
    outline: { kind: 'rect', widthMm: micro(w), heightMm: micro(h) },
    pose: { xMm: micro(cx - w / 2), yMm: micro(cy - h / 2), ...(turned !== 0 && { deg: turned }) },
    offMm: 0,
  }
}

/**
 * The circle nearest to places on it: algebraic first (I. Kåsa, IEEE Trans. Instrum. Meas. 25, 1976), then by true distances
 * (Gauss–Newton).
 */
function round(points: readonly Point[]): Touched {
  const n = points.length
  const [mx, my] = [points.reduce((sum, [x]) => sum + x, 0) / n, points.reduce((sum, [, y]) => sum + y, 0) / n]
  let [suu, suv, svv, suz, svz] = [0, 0, 0, 0, 0]
  let spread = 0
  for (const [x, y] of points) {
    const [u, v] = [x - mx, y - my]
    const z = u * u + v * v
    suu += u * u
    suv += u * v
    svv += v * v
    suz += u * z
    svz += v * z
    spread = Math.max(spread, z)
  }
  const det = suu * svv - suv * suv
  if (!(det > 1e-6 * spread * spread)) return { not: 'These places lie on one line: touch the edge farther around.' }
  let cx = mx + (suz * svv - svz * suv) / (2 * det)
  let cy = my + (svz * suu - suz * suv) / (2 * det)
  const away = ([x, y]: Point): number => Math.hypot(x - cx, y - cy)
  let radius = points.reduce((sum, point) => sum + away(point), 0) / n
  for (let round = 0; round < 12; round++) {
    let [a, b, c, p, q] = [0, 0, 0, 0, 0]
    const ways = points.map((point) => {
      const long = away(point) || 1
      return [(point[0] - cx) / long, (point[1] - cy) / long, long] as const
    })
    const [ex, ey] = [ways.reduce((sum, [x]) => sum + x, 0) / n, ways.reduce((sum, [, y]) => sum + y, 0) / n]
    const el = ways.reduce((sum, [, , long]) => sum + long, 0) / n
    // The radius is the mean distance: what is left are two equations for the middle.
    for (const [x, y, long] of ways) {
      const [dx, dy, dl] = [x - ex, y - ey, long - el]
      a += dx * dx
      b += dx * dy
      c += dy * dy
      p += dx * dl
      q += dy * dl
    }
    const d = a * c - b * b
    if (Math.abs(d) < 1e-12) break
    cx += (p * c - q * b) / d
    cy += (q * a - p * b) / d
    radius = points.reduce((sum, point) => sum + away(point), 0) / n
  }
  if (radius < LEAST_MM / 2) return { not: 'These places are one: touch the edge farther around.' }
  return {
    outline: { kind: 'circle', diameterMm: micro(2 * radius) },
    pose: { xMm: micro(cx - radius), yMm: micro(cy - radius) },
    offMm: Math.max(...points.map((point) => Math.abs(away(point) - radius))),
  }
}

function cornered(points: readonly Point[]): Touched {
  const ring: Ring = Float64Array.from(points.flat())
  if (crossesItself([ring])) return { not: 'This edge crosses itself: touch its corners one after the other, around it.' }
  if (Math.abs(ringArea(ring)) < LEAST_MM) return { not: 'These places lie on one line: touch the corners all around.' }
  const [x, y] = [Math.min(...points.map(([v]) => v)), Math.min(...points.map(([, v]) => v))]
  return { outline: faceOutline([ring]), pose: { xMm: micro(x), yMm: micro(y) }, offMm: 0 }
}
