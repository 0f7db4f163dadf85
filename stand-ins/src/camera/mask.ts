/** Where something lies, in cells of the bed: 255 all of a cell, less at its edge. */
export interface Mask {
  readonly x: number
  readonly y: number
  readonly cell: number
  readonly columns: number
  readonly rows: number
  readonly full: Uint8Array
}

/** Lines in which each row of cells is looked at. */
const LINES = 5

/** A part of the bed, mm. */
export interface Part {
  readonly x0: number
  readonly y0: number
  readonly x1: number
  readonly y1: number
}

/** Outlines filled by even-odd. @param rings mm, x and y after each other @param cell mm @param within no more than this of it */
export function maskOf(rings: readonly ArrayLike<number>[], cell: number, within?: Part): Mask {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const ring of rings)
    for (let i = 0; i < ring.length; i += 2) {
      x0 = Math.min(x0, ring[i])
      x1 = Math.max(x1, ring[i])
      y0 = Math.min(y0, ring[i + 1])
      y1 = Math.max(y1, ring[i + 1])
    }
  if (within) {
    ;[x0, y0] = [Math.max(x0, within.x0), Math.max(y0, within.y0)]
    ;[x1, y1] = [Math.max(x0, Math.min(x1, within.x1)), Math.max(y0, Math.min(y1, within.y1))]
  }
  const [x, y] = [Math.floor(x0 / cell) * cell - cell, Math.floor(y0 / cell) * cell - cell]
  const columns = Math.ceil((x1 - x) / cell) + 2
  const inside = (u: number): number => Math.max(0, Math.min(columns - 1, u))
  const rows = Math.ceil((y1 - y) / cell) + 2
  const full = new Uint8Array(columns * rows)
  const sums = new Float32Array(columns)
  // Edges by the rows that they come to.
  const edges: [number, number, number, number][][] = Array.from({ length: rows }, () => [])
  for (const ring of rings)
    for (let i = 0; i < ring.length; i += 2) {
      const j = (i + 2) % ring.length
      const [ax, ay, bx, by] = [ring[i], ring[i + 1], ring[j], ring[j + 1]].map((v, k) => (v - (k % 2 ? y : x)) / cell)
      if (ay === by) continue
      for (let row = Math.max(0, Math.floor(Math.min(ay, by))); row <= Math.min(rows - 1, Math.floor(Math.max(ay, by))); row++)
        edges[row].push([ax, ay, bx, by])
    }
  for (let row = 0; row < rows; row++) {
    if (edges[row].length === 0) continue
    sums.fill(0)
    for (let line = 0; line < LINES; line++) {
      const at = row + (line + 0.5) / LINES
      const crossed: number[] = []
      for (const [ax, ay, bx, by] of edges[row]) if (ay > at !== by > at) crossed.push(ax + ((at - ay) / (by - ay)) * (bx - ax))
      crossed.sort((a, b) => a - b)
      for (let i = 0; i + 1 < crossed.length; i += 2) fill(sums, inside(crossed[i]), inside(crossed[i + 1]))
    }
    for (let c = 0; c < columns; c++) full[row * columns + c] = Math.min(255, Math.round((255 * sums[c]) / LINES))
  }
  return { x, y, cell, columns, rows, full }
}

function fill(sums: Float32Array, from: number, to: number): void {
  const [first, last] = [Math.floor(from), Math.floor(to)]
  if (first === last) {
    sums[first] += to - from
    return
  }
  sums[first] += first + 1 - from
  for (let c = first + 1; c < last; c++) sums[c]++
  sums[last] += to - last
}

/** How much of something lies at a place, 0–1: read between four cells. */
export function at({ x, y, cell, columns, rows, full }: Mask, px: number, py: number): number {
  const u = (px - x) / cell - 0.5
  const v = (py - y) / cell - 0.5
  if (u < 0 || v < 0 || u >= columns - 1 || v >= rows - 1) return 0
  const [c, r] = [u | 0, v | 0]
  const [fu, fv] = [u - c, v - r]
  const i = r * columns + c
  const top = full[i] + (full[i + 1] - full[i]) * fu
  const low = full[i + columns] + (full[i + columns + 1] - full[i + columns]) * fu
  return (top + (low - top) * fv) / 255
}
