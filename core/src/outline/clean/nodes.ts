import type { Path } from '../../geometry/path.ts'
import {
  directionAt,
  isCubic,
  nearestOn,
  type Piece,
  parted,
  pathOf,
  pieceEnd,
  pieceStart,
  piecesOf,
} from '../../geometry/pieces.ts'
import type { NodeStep } from './steps.ts'

/** A node: the end of one segment (`before`) and the start of the next (`after`), where there are any. */
interface Node {
  readonly path: number
  readonly before: number | undefined
  readonly after: number | undefined
}

function nearestNode(paths: readonly Path[], x: number, y: number): Node | undefined {
  let best: Node | undefined
  let least = Infinity
  paths.forEach(({ kinds, points, closed }, path) => {
    let at = 0
    for (let k = 0; k <= kinds.length - (closed ? 1 : 0); k++) {
      const far = Math.hypot(points[at] - x, points[at + 1] - y)
      if (far < least) {
        least = far
        best = {
          path,
          before: k > 0 ? k - 1 : closed ? kinds.length - 1 : undefined,
          after: k < kinds.length ? k : undefined,
        }
      }
      if (k < kinds.length) at += kinds[k] === 0 ? 2 : 6
    }
  })
  return best
}

const cubic = (piece: Piece): number[] =>
  isCubic(piece)
    ? [...piece]
    : [
        piece[0],
        piece[1],
        piece[0] + (piece[2] - piece[0]) / 3,
        piece[1] + (piece[3] - piece[1]) / 3,
        piece[2] - (piece[2] - piece[0]) / 3,
        piece[3] - (piece[3] - piece[1]) / 3,
        piece[2],
        piece[3],
      ]

/**
 * One node moved, added, removed, or made a corner or smooth; its neighbours stay.
 * @param paths mm @param at mm @param to mm, where it is moved @returns undefined where there is no such node
 */
export function withNodeChanged(
  paths: readonly Path[],
  change: NodeStep['change'],
  [x, y]: readonly [number, number],
  to?: readonly [number, number],
): Path[] | undefined {
  if (change === 'add') {
    const place = nearestOn(paths, x, y)
    if (!place || place.t < 1e-3 || place.t > 1 - 1e-3) return undefined
    const pieces = piecesOf(paths[place.path])
    pieces.splice(place.piece, 1, ...parted(pieces[place.piece], place.t))
    return withPath(paths, place.path, pathOf(pieces, paths[place.path].closed))
  }
  const node = nearestNode(paths, x, y)
  if (!node) return undefined
  const { closed } = paths[node.path]
  const pieces = piecesOf(paths[node.path])
  const { before, after } = node
  if (change === 'remove') {
    if (pieces.length < (closed ? 3 : 2)) return paths.filter((_, i) => i !== node.path)
    if (before === undefined) pieces.shift()
    else if (after === undefined) pieces.pop()
    else {
      pieces[before] = merged(pieces[before], pieces[after])
      pieces.splice(after, 1)
    }
    return withPath(paths, node.path, pathOf(pieces, closed))
  }
  if (change === 'move' && to) {
    const from = before === undefined ? pieceStart(pieces[after!]) : pieceEnd(pieces[before])
    const dx = to[0] - from[0]
    const dy = to[1] - from[1]
    if (before !== undefined) pieces[before] = endMoved(pieces[before], dx, dy)
    if (after !== undefined) pieces[after] = startMoved(pieces[after], dx, dy)
    return withPath(paths, node.path, pathOf(pieces, closed))
  }
  if (before === undefined || after === undefined) return undefined
  if (change === 'corner') {
    // Handles turn to where their segments go.
    pieces[before] = handleAtEnd(pieces[before], 1 / 3)
    pieces[after] = handleAtStart(pieces[after], 1 / 3)
  } else if (change === 'smooth') {
    const [ax, ay] = directionAt(pieces[before], 1)
    const [bx, by] = directionAt(pieces[after], 0)
    const length = Math.hypot(ax + bx, ay + by)
    if (length < 1e-6) return undefined
    const [ux, uy] = [(ax + bx) / length, (ay + by) / length]
    const one = cubic(pieces[before])
    const other = cubic(pieces[after])
    const reach = (piece: readonly number[]): number => Math.hypot(piece[6] - piece[0], piece[7] - piece[1]) / 3
    one[4] = one[6] - ux * reach(one)
    one[5] = one[7] - uy * reach(one)
    other[2] = other[0] + ux * reach(other)
    other[3] = other[1] + uy * reach(other)
    pieces[before] = one
    pieces[after] = other
  }
  return withPath(paths, node.path, pathOf(pieces, closed))
}

const withPath = (paths: readonly Path[], index: number, path: Path): Path[] =>
  paths.map((each, i) => (i === index ? path : each))

/** One segment in the place of two, leaving and arriving as they did. */
function merged(a: Piece, b: Piece): Piece {
  const [x0, y0] = pieceStart(a)
  const [x1, y1] = pieceEnd(b)
  if (!isCubic(a) && !isCubic(b)) return [x0, y0, x1, y1]
  const [ux, uy] = directionAt(a, 0)
  const [vx, vy] = directionAt(b, 1)
  const [mx, my] = pieceEnd(a)
  // As long as the way over the node was.
  const reach = (Math.hypot(mx - x0, my - y0) + Math.hypot(x1 - mx, y1 - my)) / 3
  return [x0, y0, x0 + ux * reach, y0 + uy * reach, x1 - vx * reach, y1 - vy * reach, x1, y1]
}

const endMoved = (piece: Piece, dx: number, dy: number): Piece =>
  piece.map((v, i) => (i >= piece.length - (isCubic(piece) ? 4 : 2) ? v + (i % 2 ? dy : dx) : v))

const startMoved = (piece: Piece, dx: number, dy: number): Piece =>
  piece.map((v, i) => (i < (isCubic(piece) ? 4 : 2) ? v + (i % 2 ? dy : dx) : v))

function handleAtEnd(piece: Piece, share: number): Piece {
  if (!isCubic(piece)) return piece
  const out = [...piece]
  out[4] = piece[6] + (piece[2] - piece[6]) * share
  out[5] = piece[7] + (piece[3] - piece[7]) * share
  return out
}

function handleAtStart(piece: Piece, share: number): Piece {
  if (!isCubic(piece)) return piece
  const out = [...piece]
  out[2] = piece[0] + (piece[4] - piece[0]) * share
  out[3] = piece[1] + (piece[5] - piece[1]) * share
  return out
}

/** A closed outline that begins at the place nearest to a point. @returns undefined where no closed one is there */
export function startingAt(paths: readonly Path[], x: number, y: number): Path[] | undefined {
  const closed = paths.filter((path) => path.closed)
  const place = nearestOn(closed, x, y)
  if (!place) return undefined
  const path = closed[place.path]
  const pieces = piecesOf(path)
  let at = place.piece
  if (place.t > 0.999) at++
  else if (place.t > 1e-3) {
    pieces.splice(at, 1, ...parted(pieces[at], place.t))
    at++
  }
  const made = pathOf([...pieces.slice(at), ...pieces.slice(0, at)], true)
  return paths.map((each) => (each === path ? made : each))
}
