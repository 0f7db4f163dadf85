import type { Path } from '../../geometry/path.ts'
import { type Piece, pathOf, piecesOf, turned } from '../../geometry/pieces.ts'
import { fitLine } from '../centreline/fit-line.ts'
import { type ColourPicture, labelled, NOTHING, type PaletteColour } from './palette.ts'

/** An edge between two colours, from one place where more than two meet to the next, or all round. */
export interface SharedEdge {
  /** Labels on its left and its right; NOTHING for what is transparent or beside the picture. */
  readonly left: number
  readonly right: number
  readonly closed: boolean
  /** Corners where it begins and ends, as numbers of the grid. */
  readonly from: number
  readonly to: number
  readonly pieces: readonly Piece[]
}

/** Edges are never fitted closer than this, px. */
const LEAST_TOLERANCE = 0.2
/** Moves of a crack along its normal that pixels can tell, px. */
const MOST_SHIFT = 0.75

/**
 * The edges between the colours of a palette, each found and fitted once, so that neighbours share it exactly.
 * @param tolerance px @returns edges in pixels of the picture
 */
export function sharedEdges(
  picture: ColourPicture,
  colours: readonly PaletteColour[],
  tolerance: number,
  progress?: (done: number) => void,
): SharedEdge[] {
  const { widthPx: w, heightPx: h } = picture
  const labels = labelled(picture, colours)
  const label = (x: number, y: number): number => (x < 0 || y < 0 || x >= w || y >= h ? NOTHING : labels[y * w + x])
  // Cracks: 0 right of a corner, 1 below it.
  const across = (x: number, y: number): boolean => x < w && label(x, y - 1) !== label(x, y)
  const down = (x: number, y: number): boolean => y < h && label(x - 1, y) !== label(x, y)
  const stride = w + 1
  const seen = new Uint8Array(stride * (h + 1))
  const degree = (x: number, y: number): number =>
    (across(x, y) ? 1 : 0) + (x > 0 && across(x - 1, y) ? 1 : 0) + (down(x, y) ? 1 : 0) + (y > 0 && down(x, y - 1) ? 1 : 0)
  // Where the picture has corners its border turns: those stay sharp.
  const isJunction = (x: number, y: number): boolean => degree(x, y) > 2 || ((x === 0 || x === w) && (y === 0 || y === h))
  const edges: SharedEdge[] = []
  const take = (x: number, y: number, way: 0 | 1 | 2 | 3): void => {
    const chain = follow(x, y, way)
    if (chain) edges.push(fitted(chain))
  }
  interface Chain {
    readonly left: number
    readonly right: number
    readonly closed: boolean
    readonly corners: readonly number[]
  }
  /** Ways: 0 right, 1 down, 2 left, 3 up. */
  const open = (x: number, y: number, way: number): boolean => {
    if (way === 0) return across(x, y) && (seen[y * stride + x] & 1) === 0
    if (way === 1) return down(x, y) && (seen[y * stride + x] & 2) === 0
    if (way === 2) return x > 0 && across(x - 1, y) && (seen[y * stride + x - 1] & 1) === 0
    return y > 0 && down(x, y - 1) && (seen[(y - 1) * stride + x] & 2) === 0
  }
  const mark = (x: number, y: number, way: number): void => {
    if (way === 0) seen[y * stride + x] |= 1
    else if (way === 1) seen[y * stride + x] |= 2
    else if (way === 2) seen[y * stride + x - 1] |= 1
    else seen[(y - 1) * stride + x] |= 2
  }
  const sides = (x: number, y: number, way: number): readonly [number, number] =>
    way === 0
      ? [label(x, y - 1), label(x, y)]
      : way === 1
        ? [label(x, y), label(x - 1, y)]
        : way === 2
          ? [label(x - 1, y), label(x - 1, y - 1)]
          : [label(x - 1, y - 1), label(x, y - 1)]
  const follow = (sx: number, sy: number, start: number): Chain | undefined => {
    if (!open(sx, sy, start)) return undefined
    const [left, right] = sides(sx, sy, start)
    const corners = [sy * stride + sx]
    let [x, y, way] = [sx, sy, start]
    for (;;) {
      mark(x, y, way)
      x += way === 0 ? 1 : way === 2 ? -1 : 0
      y += way === 1 ? 1 : way === 3 ? -1 : 0
      corners.push(y * stride + x)
      if (x === sx && y === sy) return { left, right, closed: !isJunction(x, y), corners }
      if (isJunction(x, y)) return { left, right, closed: false, corners }
      const next = [0, 1, 2, 3].find((each) => open(x, y, each))
      if (next === undefined) return { left, right, closed: false, corners }
      way = next
    }
  }
  const fitted = ({ left, right, closed, corners }: Chain): SharedEdge => {
    const n = corners.length - 1
    const cx = (k: number): number => corners[k] % stride
    const cy = (k: number): number => Math.floor(corners[k] / stride)
    let xs: number[] = []
    let ys: number[] = []
    for (let k = 0; k < n; k++) {
      const [ax, ay, bx, by] = [cx(k), cy(k), cx(k + 1), cy(k + 1)]
      // From the left pixel to the right one.
      const [nx, ny] = [-(by - ay), bx - ax]
      const [mx, my] = [(ax + bx) / 2, (ay + by) / 2]
      const shift = shiftOf(
        Math.floor(mx - nx / 2),
        Math.floor(my - ny / 2),
        Math.floor(mx + nx / 2),
        Math.floor(my + ny / 2),
        left,
        right,
      )
      xs.push(mx + nx * shift)
      ys.push(my + ny * shift)
    }
    // Steps of pixels without soft edges are evened out; ends stay.
    for (let round = 0; round < 2; round++) {
      xs = evened(xs, closed)
      ys = evened(ys, closed)
    }
    if (!closed) {
      xs = [cx(0), ...xs, cx(n)]
      ys = [cy(0), ...ys, cy(n)]
    }
    const border = left === NOTHING || right === NOTHING
    const straight =
      border && new Set(corners.map((_, k) => cx(k))).size === 1
        ? true
        : border && new Set(corners.map((_, k) => cy(k))).size === 1
    const path = straight
      ? pathOf([[cx(0), cy(0), cx(n), cy(n)]], false)
      : closed && xs.length < 3
        ? pathOf([[xs[0], ys[0], xs[0], ys[0]]], true)
        : fitLine(xs, ys, closed, Math.max(LEAST_TOLERANCE, tolerance))
    return { left, right, closed, from: corners[0], to: corners[n], pieces: piecesOf(path) }
  }
  /** How far the edge lies from the crack into the right pixel, by how much of either colour both pixels have. */
  const shiftOf = (ax: number, ay: number, bx: number, by: number, left: number, right: number): number => {
    if (left === NOTHING || right === NOTHING) return 0
    const [lr, lg, lb] = colours[left].rgb
    const [rr, rg, rb] = colours[right].rgb
    const [dr, dg, db] = [rr - lr, rg - lg, rb - lb]
    const whole = dr * dr + dg * dg + db * db
    if (whole === 0) return 0
    const share = (x: number, y: number): number => {
      const i = y * w + x
      const t = ((picture.red[i] - lr) * dr + (picture.green[i] - lg) * dg + (picture.blue[i] - lb) * db) / whole
      return Math.min(1, Math.max(0, t))
    }
    return Math.min(MOST_SHIFT, Math.max(-MOST_SHIFT, 1 - share(bx, by) - share(ax, ay)))
  }
  for (let y = 0; y <= h; y++) {
    if ((y & 63) === 0) progress?.((0.5 * y) / h)
    for (let x = 0; x <= w; x++) if (isJunction(x, y)) for (const way of [0, 1, 2, 3] as const) take(x, y, way)
  }
  for (let y = 0; y <= h; y++) {
    if ((y & 63) === 0) progress?.(0.5 + (0.5 * y) / h)
    for (let x = 0; x <= w; x++) for (const way of [0, 1] as const) take(x, y, way)
  }
  return edges
}

function evened(values: readonly number[], closed: boolean): number[] {
  const n = values.length
  if (n < 3) return [...values]
  return values.map((v, i) => {
    if (!closed && (i === 0 || i === n - 1)) return v
    return (values[(i + n - 1) % n] + 2 * v + values[(i + 1) % n]) / 4
  })
}

/**
 * The outlines of some colours together: the edges that have one of them on one side only. Filled by even-odd.
 * @param chosen labels
 */
export function outlinesOf(edges: readonly SharedEdge[], chosen: ReadonlySet<number>): Path[] {
  const paths: Path[] = []
  const starts = new Map<number, { readonly edge: SharedEdge; readonly back: boolean }[]>()
  for (const edge of edges) {
    const left = chosen.has(edge.left)
    if (left === chosen.has(edge.right)) continue
    // The chosen ones always on the right: outer outlines run clockwise on a screen, as those of a trace do.
    const back = left
    if (edge.closed) {
      paths.push(pathOf(back ? edge.pieces.map(turned).reverse() : edge.pieces, true))
      continue
    }
    const start = back ? edge.to : edge.from
    const list = starts.get(start)
    if (list) list.push({ edge, back })
    else starts.set(start, [{ edge, back }])
  }
  for (const [start, list] of starts)
    while (list.length > 0) {
      const pieces: Piece[] = []
      let at = start
      for (;;) {
        const next = starts.get(at)?.pop()
        if (!next) break
        const { edge, back } = next
        for (const piece of back ? edge.pieces.map(turned).reverse() : edge.pieces) pieces.push(piece)
        at = back ? edge.from : edge.to
        if (at === start) break
      }
      if (pieces.length > 0) paths.push(pathOf(pieces, true))
    }
  return paths
}
