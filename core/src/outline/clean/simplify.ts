import { flattenPath, type Path } from '../../geometry/path.ts'
import { directionAt, type Piece, pathOf, piecesOf } from '../../geometry/pieces.ts'
import { closedLine } from '../../geometry/ring.ts'
import { fitLine } from '../centreline/fit-line.ts'

/** Turns above this stay corners. */
const CORNER = Math.cos((30 * Math.PI) / 180)

/**
 * Fewer nodes within a tolerance: between corners, straight where a line does, else cubics fitted anew.
 * @param paths mm @param tolerance mm @returns the paths, and how far they lie off at most, mm
 */
export function simplified(paths: readonly Path[], tolerance: number): { readonly paths: Path[]; readonly off: number } {
  let worst = 0
  const out = paths.map((path) => {
    const made = simplifiedPath(path, tolerance)
    if (made.path.kinds.length >= path.kinds.length) return path
    worst = Math.max(worst, made.off)
    return made.path
  })
  return { paths: out, off: worst }
}

function simplifiedPath(path: Path, tolerance: number): { readonly path: Path; readonly off: number } {
  const pieces = piecesOf(path)
  const n = pieces.length
  const corner = (i: number): boolean => {
    const [ax, ay] = directionAt(pieces[(i + n - 1) % n], 1)
    const [bx, by] = directionAt(pieces[i % n], 0)
    return ax * bx + ay * by < CORNER
  }
  const corners = Array.from({ length: n }, (_, i) => i).filter((i) => (i > 0 || path.closed) && corner(i))
  if (path.closed && corners.length === 0) {
    const flat = dense(path, tolerance)
    const made = fitLine(...columns(flat), true, tolerance / 2)
    const ring = flattenPath(made, tolerance / 8)
    return { path: made, off: farthestOff(flat, closedLine(ring)) }
  }
  const out: Piece[] = []
  let off = 0
  const starts = path.closed ? corners : [0, ...corners]
  starts.forEach((from, k) => {
    const to = k + 1 < starts.length ? starts[k + 1] : path.closed ? starts[0] + n : n
    const run = Array.from({ length: to - from }, (_, i) => pieces[(from + i) % n])
    const flat = dense(pathOf(run, false), tolerance)
    const line: Piece = [flat[0], flat[1], flat[flat.length - 2], flat[flat.length - 1]]
    const straight = farthestOff(flat, Float64Array.from(line))
    if (straight <= tolerance) {
      off = Math.max(off, straight)
      out.push(line)
      return
    }
    const made = fitLine(...columns(flat), false, tolerance / 2)
    off = Math.max(off, farthestOff(flat, flattenPath(made, tolerance / 8)))
    for (const piece of piecesOf(made)) out.push(piece)
  })
  return { path: pathOf(out, path.closed), off }
}

/** Points along a path close enough for a fit. */
function dense(path: Path, tolerance: number): Float64Array {
  const flat = flattenPath(path, tolerance / 8)
  const out: number[] = [flat[0], flat[1]]
  for (let i = 2; i < flat.length; i += 2) {
    const [x0, y0] = [flat[i - 2], flat[i - 1]]
    // Long lines of a polygon hold no points of their own.
    const parts = Math.min(50, Math.max(1, Math.ceil(Math.hypot(flat[i] - x0, flat[i + 1] - y0) / (8 * tolerance))))
    for (let k = 1; k <= parts; k++) out.push(x0 + ((flat[i] - x0) * k) / parts, y0 + ((flat[i + 1] - y0) * k) / parts)
  }
  return Float64Array.from(out)
}

const columns = (flat: Float64Array): [Float64Array, Float64Array] => {
  const n = flat.length / 2
  return [Float64Array.from({ length: n }, (_, i) => flat[2 * i]), Float64Array.from({ length: n }, (_, i) => flat[2 * i + 1])]
}

/** Segments ahead and behind that a point is compared with: both lines run the same way. */
const AHEAD = 60
const BEHIND = 12

/** How far points in order lie off a line that follows them, at most. */
export function farthestOff(points: Float64Array, line: Float64Array): number {
  const segments = line.length / 2 - 1
  let at = 0
  let worst = 0
  for (let i = 0; i < points.length; i += 2) {
    let best = Infinity
    let bestAt = at
    for (let j = Math.max(0, at - BEHIND); j < Math.min(segments, at + AHEAD); j++) {
      const dx = line[2 * j + 2] - line[2 * j]
      const dy = line[2 * j + 3] - line[2 * j + 1]
      const whole = dx * dx + dy * dy
      const t =
        whole > 0
          ? Math.min(1, Math.max(0, ((points[i] - line[2 * j]) * dx + (points[i + 1] - line[2 * j + 1]) * dy) / whole))
          : 0
      const d = Math.hypot(line[2 * j] + t * dx - points[i], line[2 * j + 1] + t * dy - points[i + 1])
      if (d < best) {
        best = d
        bestAt = j
      }
    }
    at = bestAt
    worst = Math.max(worst, best)
  }
  return worst
}
