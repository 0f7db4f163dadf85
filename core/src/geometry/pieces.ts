import { CUBIC, LINE, type Path } from './path.ts'

/** One segment of a path with both its ends: x0 y0 x1 y1, or for a cubic x0 y0, two control points, x1 y1. */
export type Piece = readonly number[]

export const isCubic = (piece: Piece): boolean => piece.length === 8
export const pieceStart = (piece: Piece): readonly [number, number] => [piece[0], piece[1]]
export const pieceEnd = (piece: Piece): readonly [number, number] => [piece[piece.length - 2], piece[piece.length - 1]]

/** The segments of a path, in order. */
export function piecesOf({ kinds, points }: Path): Piece[] {
  const pieces: Piece[] = []
  let at = 0
  for (const kind of kinds) {
    const n = kind === LINE ? 4 : 8
    pieces.push(Array.from(points.subarray(at, at + n)))
    at += n - 2
  }
  return pieces
}

/** A path of segments that follow each other. */
export function pathOf(pieces: readonly Piece[], closed: boolean): Path {
  const points = pieces.length > 0 ? [...pieceStart(pieces[0])] : []
  for (const piece of pieces) for (let i = 2; i < piece.length; i++) points.push(piece[i])
  return { closed, kinds: Uint8Array.from(pieces, (piece) => (isCubic(piece) ? CUBIC : LINE)), points: Float64Array.from(points) }
}

/** The same way the other way round. */
export const turned = (piece: Piece): Piece =>
  Array.from({ length: piece.length }, (_, i) => piece[piece.length - 2 - (i & ~1) + (i & 1)])

export const pathTurned = (path: Path): Path => pathOf(piecesOf(path).map(turned).reverse(), path.closed)

/** A place on a segment, t 0–1. */
export function placeOn(piece: Piece, t: number): readonly [number, number] {
  const s = 1 - t
  if (!isCubic(piece)) return [s * piece[0] + t * piece[2], s * piece[1] + t * piece[3]]
  const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t]
  return [a * piece[0] + b * piece[2] + c * piece[4] + d * piece[6], a * piece[1] + b * piece[3] + c * piece[5] + d * piece[7]]
}

/** Direction of a segment at an end, of length 1; a handle of no length does not count. */
export function directionAt(piece: Piece, end: 0 | 1): readonly [number, number] {
  const n = piece.length
  const from = end === 0 ? pieceStart(piece) : pieceEnd(piece)
  for (let k = 1; k < n / 2; k++) {
    const i = end === 0 ? 2 * k : n - 2 - 2 * k
    const dx = (piece[i] - from[0]) * (end === 0 ? 1 : -1)
    const dy = (piece[i + 1] - from[1]) * (end === 0 ? 1 : -1)
    const length = Math.hypot(dx, dy)
    if (length > 1e-9) return [dx / length, dy / length]
  }
  return [0, 0]
}

/** Both parts of a segment that is parted at t (P. de Casteljau). */
export function parted(piece: Piece, t: number): readonly [Piece, Piece] {
  const mix = (i: number, j: number, list: readonly number[]): readonly [number, number] => [
    list[i] + (list[j] - list[i]) * t,
    list[i + 1] + (list[j + 1] - list[i + 1]) * t,
  ]
  if (!isCubic(piece)) {
    const m = mix(0, 2, piece)
    return [
      [piece[0], piece[1], ...m],
      [...m, piece[2], piece[3]],
    ]
  }
  const a = mix(0, 2, piece)
  const b = mix(2, 4, piece)
  const c = mix(4, 6, piece)
  const d = mix(0, 2, [...a, ...b])
  const e = mix(0, 2, [...b, ...c])
  const m = mix(0, 2, [...d, ...e])
  return [
    [piece[0], piece[1], ...a, ...d, ...m],
    [...m, ...e, ...c, piece[6], piece[7]],
  ]
}

/** A place on one of several paths. */
export interface OnPath {
  readonly path: number
  readonly piece: number
  readonly t: number
  readonly distance: number
}

/** The place of the paths that lies nearest to a point; undefined where there are none. */
export function nearestOn(paths: readonly Path[], x: number, y: number): OnPath | undefined {
  let best: OnPath | undefined
  for (let p = 0; p < paths.length; p++) {
    const { kinds, points } = paths[p]
    let at = 0
    for (let k = 0; k < kinds.length; k++) {
      const n = kinds[k] === LINE ? 4 : 8
      const limit = best?.distance ?? Infinity
      // No part of a segment is nearer than the box of its points.
      if (boxDistance(points, at, n, x, y) < limit) {
        const { t, distance } = nearestOnPiece(Array.from(points.subarray(at, at + n)), x, y)
        if (distance < limit) best = { path: p, piece: k, t, distance }
      }
      at += n - 2
    }
  }
  return best
}

function boxDistance(points: Float64Array, at: number, n: number, x: number, y: number): number {
  let x0 = Infinity
  let y0 = Infinity
  let x1 = -Infinity
  let y1 = -Infinity
  for (let i = at; i < at + n; i += 2) {
    x0 = Math.min(x0, points[i])
    x1 = Math.max(x1, points[i])
    y0 = Math.min(y0, points[i + 1])
    y1 = Math.max(y1, points[i + 1])
  }
  return Math.hypot(Math.max(0, x0 - x, x - x1), Math.max(0, y0 - y, y - y1))
}

function nearestOnPiece(piece: Piece, x: number, y: number): { readonly t: number; readonly distance: number } {
  const off = (t: number): number => {
    const [px, py] = placeOn(piece, t)
    return Math.hypot(px - x, py - y)
  }
  if (!isCubic(piece)) {
    const dx = piece[2] - piece[0]
    const dy = piece[3] - piece[1]
    const whole = dx * dx + dy * dy
    const t = whole > 0 ? Math.min(1, Math.max(0, ((x - piece[0]) * dx + (y - piece[1]) * dy) / whole)) : 0
    return { t, distance: off(t) }
  }
  // Looked at coarsely, then narrowed by thirds around every place that is nearer than its neighbours: a curve may come back.
  const STEPS = 24
  const coarse = Array.from({ length: STEPS + 1 }, (_, i) => off(i / STEPS))
  let t = 0
  let distance = Infinity
  for (let i = 0; i <= STEPS; i++) {
    if (coarse[i] > (coarse[i - 1] ?? Infinity) || coarse[i] > (coarse[i + 1] ?? Infinity)) continue
    let low = Math.max(0, (i - 1) / STEPS)
    let high = Math.min(1, (i + 1) / STEPS)
    for (let k = 0; k < 30; k++) {
      const a = low + (high - low) / 3
      const b = high - (high - low) / 3
      if (off(a) < off(b)) high = b
      else low = a
    }
    const here = (low + high) / 2
    const far = off(here)
    if (far < distance) {
      distance = far
      t = here
    }
  }
  return { t, distance }
}
