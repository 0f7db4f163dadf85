import { flattenPath, type Path } from '../../geometry/path.ts'
import { directionAt, nearestOn, type Piece, parted, pathOf, pieceEnd, pieceStart, piecesOf } from '../../geometry/pieces.ts'
import { ringLength } from '../../geometry/ring.ts'
import { fitLine } from '../centreline/fit-line.ts'
import type { StretchStep } from './steps.ts'

/** Length of segments in a row. */
const lengthOf = (pieces: readonly Piece[]): number => {
  if (pieces.length === 0) return 0
  const flat = flattenPath(pathOf(pieces, false), 0.02)
  const last = flat.length - 2
  return ringLength(flat) - Math.hypot(flat[last] - flat[0], flat[last + 1] - flat[1])
}

/** Segments parted so that a node is at a place; the index of the segment that begins there. */
function withNode(pieces: Piece[], piece: number, t: number): number {
  if (t < 1e-4) return piece
  if (t > 1 - 1e-4) return piece + 1
  pieces.splice(piece, 1, ...parted(pieces[piece], t))
  return piece + 1
}

/**
 * One stretch of one outline replaced, or cut away. Of a closed outline the shorter way between both places is meant.
 * @param paths mm @param ends x0 y0 x1 y1, mm @returns undefined where both places lie on different outlines, or on one place
 */
export function stretched(
  paths: readonly Path[],
  [x0, y0, x1, y1]: readonly [number, number, number, number],
  as: StretchStep['as'],
): Path[] | undefined {
  const a = nearestOn(paths, x0, y0)
  if (!a) return undefined
  const b = nearestOn([paths[a.path]], x1, y1)
  if (!b) return undefined
  const path = paths[a.path]
  const pieces = piecesOf(path)
  const [first, second] = a.piece < b.piece || (a.piece === b.piece && a.t <= b.t) ? [a, b] : [b, a]
  // The later place first: parting there moves nothing before it.
  const to = withNode(pieces, second.piece, second.t)
  const before = pieces.length
  const from = withNode(pieces, first.piece, first.piece === second.piece ? first.t / Math.max(1e-9, second.t) : first.t)
  const end = to + pieces.length - before
  if (end <= from) return undefined
  let stretch = pieces.slice(from, end)
  let rest: Piece[][]
  if (path.closed) {
    const other = [...pieces.slice(end), ...pieces.slice(0, from)]
    if (other.length > 0 && lengthOf(other) < lengthOf(stretch)) [stretch, rest] = [other, [stretch]]
    else rest = [other]
  } else rest = [pieces.slice(0, from), pieces.slice(end)]
  const made = as === 'gone' ? [] : replaced(stretch, rest[0], path.closed ? rest[0] : rest[1], as)
  const results = path.closed
    ? as === 'gone'
      ? [pathOf(rest[0], false)]
      : [pathOf([...made, ...rest[0]], true)]
    : as === 'gone'
      ? rest.filter(({ length }) => length > 0).map((part) => pathOf(part, false))
      : [pathOf([...rest[0], ...made, ...rest[1]], false)]
  return paths.flatMap((each, i) => (i === a.path ? results.filter(({ kinds }) => kinds.length > 0) : [each]))
}

/** @param before what leads to the stretch @param after what follows it */
function replaced(
  stretch: readonly Piece[],
  before: readonly Piece[],
  after: readonly Piece[],
  as: Exclude<StretchStep['as'], 'gone'>,
): Piece[] {
  const [x0, y0] = pieceStart(stretch[0])
  const [x1, y1] = pieceEnd(stretch[stretch.length - 1])
  if (as === 'straight') return [[x0, y0, x1, y1]]
  if (as === 'smooth') {
    const [ux, uy] = before.length > 0 ? directionAt(before[before.length - 1], 1) : directionAt(stretch[0], 0)
    const [vx, vy] = after.length > 0 ? directionAt(after[0], 0) : directionAt(stretch[stretch.length - 1], 1)
    const reach = Math.hypot(x1 - x0, y1 - y0) / 3
    return [[x0, y0, x0 + ux * reach, y0 + uy * reach, x1 - vx * reach, y1 - vy * reach, x1, y1]]
  }
  // Fitted anew, loosely: a fortieth of its length lets bumps go and keeps its course.
  const flat = flattenPath(pathOf(stretch, false), 0.01)
  const n = flat.length / 2
  const xs = Array.from({ length: n }, (_, i) => flat[2 * i])
  const ys = Array.from({ length: n }, (_, i) => flat[2 * i + 1])
  return piecesOf(fitLine(xs, ys, false, Math.max(0.05, lengthOf(stretch) / 40)))
}
