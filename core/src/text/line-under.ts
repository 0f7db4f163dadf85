import { pathData } from '../formats/svg/svg-write.ts'
import { flattenPath, type Path } from '../geometry/path.ts'
import { nearestOn, type Piece, parted, pathOf, pathTurned, piecesOf, placeOn } from '../geometry/pieces.ts'
import { ringLength } from '../geometry/ring.ts'
import type { TextSpec } from './text-spec.ts'

/** Chords by which the length of a bend is told. */
const CHORDS = 48

/** Lengths along a segment at equal steps of its own measure, mm. */
function lengthsOf(piece: Piece): Float64Array {
  const lengths = new Float64Array(CHORDS + 1)
  let [x, y] = placeOn(piece, 0)
  for (let k = 1; k <= CHORDS; k++) {
    const [nx, ny] = placeOn(piece, k / CHORDS)
    lengths[k] = lengths[k - 1] + Math.hypot(nx - x, ny - y)
    ;[x, y] = [nx, ny]
  }
  return lengths
}

/** Where on a segment a length is reached, 0–1. */
function at(lengths: Float64Array, mm: number): number {
  let k = 1
  while (k < CHORDS && lengths[k] < mm) k++
  const step = lengths[k] - lengths[k - 1]
  return (k - 1 + (step > 0 ? Math.min(1, Math.max(0, (mm - lengths[k - 1]) / step)) : 0)) / CHORDS
}

/**
 * The line that a text stands on when it is put at a place of some outlines: the one that is nearest, followed so that the text reads
 * from left to right there, its own middle at that place where the line closes; else at the part of the line that the place is in.
 * @param paths mm @returns path data in mm and how the text is aligned on it; undefined where there is no line
 */
export function lineUnder(
  paths: readonly Path[],
  x: number,
  y: number,
): { readonly data: string; readonly align: TextSpec['align'] } | undefined {
  const found = nearestOn(paths, x, y)
  if (!found) return undefined
  const path = paths[found.path]
  const pieces = piecesOf(path)
  const piece = pieces[found.piece]
  const [ax, ay] = placeOn(piece, Math.max(0, found.t - 0.01))
  const [bx, by] = placeOn(piece, Math.min(1, found.t + 0.01))
  // Straight up reads from below.
  const leftwards = bx - ax < -1e-9 || (Math.abs(bx - ax) <= 1e-9 && by > ay)
  const lengths = pieces.map(lengthsOf)
  const whole = lengths.reduce((sum, each) => sum + each[CHORDS], 0)
  const before = lengths.slice(0, found.piece).reduce((sum, each) => sum + each[CHORDS], 0)
  const own = lengths[found.piece]
  const step = Math.min(CHORDS - 1, Math.floor(found.t * CHORDS))
  const here = before + own[step] + (own[step + 1] - own[step]) * (found.t * CHORDS - step)
  if (!path.closed) {
    const share = leftwards ? 1 - here / whole : here / whole
    const line = leftwards ? pathTurned(path) : path
    return { data: pathData(line), align: share < 1 / 3 ? 'left' : share > 2 / 3 ? 'right' : 'middle' }
  }
  // Begins opposite.
  let rest = (here + whole / 2) % whole
  let first = 0
  while (first < pieces.length - 1 && rest > lengths[first][CHORDS]) {
    rest -= lengths[first][CHORDS]
    first++
  }
  const [head, tail] = parted(pieces[first], at(lengths[first], rest))
  const turnedOn = pathOf([tail, ...pieces.slice(first + 1), ...pieces.slice(0, first), head].filter(isLong), true)
  return { data: pathData(leftwards ? pathTurned(turnedOn) : turnedOn), align: 'middle' }
}

/** Segments of no length are none. */
const isLong = (piece: Piece): boolean => ringLength(flattenPath(pathOf([piece], false), 1)) > 1e-6
