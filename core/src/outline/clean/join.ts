import type { Path } from '../../geometry/path.ts'
import { type Piece, pathOf, pieceEnd, pieceStart, piecesOf, turned } from '../../geometry/pieces.ts'

/** Ends nearer than this are one point, mm. */
const SAME_MM = 1e-3

/** An end of an open path: its start (0) or its end (1). */
interface End {
  readonly path: number
  readonly side: 0 | 1
  readonly x: number
  readonly y: number
}

/**
 * Open paths joined where ends lie within a gap, the nearest first; each end is joined once. Gaps are bridged by a straight
 * line, ends that all but touch become one point. @param paths mm @param gapMm mm @returns closed ones, then joined, then open
 */
export function joined(paths: readonly Path[], gapMm: number): Path[] {
  const open = paths.filter(({ closed, kinds }) => !closed && kinds.length > 0)
  const ends = open.flatMap(({ points }, path): End[] => [
    { path, side: 0, x: points[0], y: points[1] },
    { path, side: 1, x: points[points.length - 2], y: points[points.length - 1] },
  ])
  const partner = partners(ends, Math.max(SAME_MM, gapMm))
  const used = open.map(() => false)
  const made: Path[] = []
  const walk = (from: number, side: 0 | 1): void => {
    // Along a chain, leaving each path by its other end.
    const pieces: Piece[] = []
    let at = from
    let enter: 0 | 1 = side
    for (;;) {
      used[at] = true
      const own = piecesOf(open[at])
      append(pieces, enter === 0 ? own : own.map(turned).reverse())
      const next = partner[2 * at + (1 - enter)]
      if (next < 0) return void made.push(pathOf(pieces, false))
      const to = ends[next]
      if (used[to.path]) return void made.push(closedPath(pieces))
      at = to.path
      enter = to.side
    }
  }
  // Chains with free ends first, then what goes round.
  for (let i = 0; i < open.length; i++)
    for (const side of [0, 1] as const) if (!used[i] && partner[2 * i + side] < 0) walk(i, side)
  for (let i = 0; i < open.length; i++) if (!used[i]) walk(i, 0)
  return [...paths.filter(({ closed }) => closed), ...made]
}

/** For each end the one that it is joined to, or −1. */
function partners(ends: readonly End[], gap: number): Int32Array {
  const cells = new Map<string, number[]>()
  const cell = ({ x, y }: End, dx = 0, dy = 0): string => `${Math.floor(x / gap) + dx} ${Math.floor(y / gap) + dy}`
  ends.forEach((end, i) => {
    const list = cells.get(cell(end))
    if (list) list.push(i)
    else cells.set(cell(end), [i])
  })
  const pairs: { readonly a: number; readonly b: number; readonly far: number }[] = []
  ends.forEach((end, a) => {
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (const b of cells.get(cell(end, dx, dy)) ?? []) {
          const far = Math.hypot(ends[b].x - end.x, ends[b].y - end.y)
          if (b > a && far <= gap) pairs.push({ a, b, far })
        }
  })
  pairs.sort((one, other) => one.far - other.far || one.a - other.a || one.b - other.b)
  const partner = new Int32Array(ends.length).fill(-1)
  for (const { a, b } of pairs) {
    if (partner[a] >= 0 || partner[b] >= 0) continue
    partner[a] = b
    partner[b] = a
  }
  return partner
}

function append(pieces: Piece[], more: readonly Piece[]): void {
  const last = pieces.at(-1)
  if (last) {
    const [x, y] = pieceEnd(last)
    const [nx, ny] = pieceStart(more[0])
    if (Math.hypot(nx - x, ny - y) > SAME_MM) pieces.push([x, y, nx, ny])
    else pieces[pieces.length - 1] = [...last.slice(0, -2), nx, ny]
  }
  for (const piece of more) pieces.push(piece)
}

function closedPath(pieces: Piece[]): Path {
  const [x, y] = pieceEnd(pieces[pieces.length - 1])
  const [sx, sy] = pieceStart(pieces[0])
  if (Math.hypot(sx - x, sy - y) > SAME_MM) pieces.push([x, y, sx, sy])
  else pieces[pieces.length - 1] = [...pieces[pieces.length - 1].slice(0, -2), sx, sy]
  return pathOf(pieces, true)
}
