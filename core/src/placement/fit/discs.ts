import { shapeArea } from '../../geometry/clip.ts'
import { fromEdge, liesWithin } from '../../geometry/edge.ts'
import { type Ring, ringLength, ringsBounds } from '../../geometry/ring.ts'

/** Distances from the edge of a filled shape at the corners of a grid, mm: positive within. */
export interface EdgeDistances {
  readonly columns: number
  readonly rows: number
  readonly x0: number
  readonly y0: number
  readonly cell: number
  readonly values: Float32Array
}

/** About how wide a shape is across its narrow way, mm: of a long strip its width. */
export const widthAcross = (rings: readonly Ring[]): number =>
  (2 * shapeArea(rings)) / rings.reduce((sum, ring) => sum + ringLength(ring), 0)

/** @param cell mm */
export function edgeDistances(rings: readonly Ring[], cell: number): EdgeDistances {
  const { x0, y0, x1, y1 } = ringsBounds(rings)
  const columns = Math.ceil((x1 - x0) / cell) + 1
  const rows = Math.ceil((y1 - y0) / cell) + 1
  const values = new Float32Array(columns * rows)
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const [x, y] = [x0 + c * cell, y0 + r * cell]
      values[r * columns + c] = fromEdge(rings, x, y) * (liesWithin(rings, x, y) ? 1 : -1)
    }
  return { columns, rows, x0, y0, cell, values }
}

/** The distance at a place between the corners of the grid; far outside it is outside. */
export function distanceAt({ columns, rows, x0, y0, cell, values }: EdgeDistances, x: number, y: number): number {
  const u = (x - x0) / cell
  const v = (y - y0) / cell
  if (u < 0 || v < 0 || u > columns - 1 || v > rows - 1) return -Infinity
  const c = Math.min(columns - 2, Math.floor(u))
  const r = Math.min(rows - 2, Math.floor(v))
  const at = r * columns + c
  const [fu, fv] = [u - c, v - r]
  const top = values[at] + fu * (values[at + 1] - values[at])
  const below = values[at + columns] + fu * (values[at + columns + 1] - values[at + columns])
  return top + fv * (below - top)
}

/** Discs within a shape: x, y, radius. The largest comes first; together they tell where it reaches. */
export interface Discs {
  readonly count: number
  readonly x: Float64Array
  readonly y: Float64Array
  readonly r: Float64Array
}

const GRID = 40
/** Cells across a narrow shape. */
const ACROSS = 6
const MOST_NODES = 20_000
const ALONG_EDGE = 72
const WITHIN = 24

/** A shape as discs: places along its edge, and the largest discs within that the ones before leave free. */
export function discsOf(rings: readonly Ring[]): Discs {
  const found: [number, number, number][] = []
  const box = ringsBounds(rings)
  const [wide, high] = [box.x1 - box.x0, box.y1 - box.y0]
  const fine = Math.min(Math.max(wide, high) / GRID, widthAcross(rings) / ACROSS)
  const { columns, rows, x0, y0, cell, values } = edgeDistances(rings, Math.max(fine, Math.sqrt((wide * high) / MOST_NODES)))
  const free = Float32Array.from(values)
  for (let k = 0; k < WITHIN; k++) {
    let best = 0
    for (let i = 1; i < free.length; i++) if (free[i] > free[best]) best = i
    const r = free[best]
    if (k > 0 && r <= cell) break
    const [x, y] = [x0 + (best % columns) * cell, y0 + Math.floor(best / columns) * cell]
    found.push([x, y, values[best]])
    for (let row = 0; row < rows; row++)
      for (let column = 0; column < columns; column++) {
        const away = Math.hypot(x0 + column * cell - x, y0 + row * cell - y) - values[best]
        const at = row * columns + column
        // What lies in a disc is told by it; what lies near it is less worth another one.
        free[at] = Math.min(free[at], away)
      }
  }
  const round = rings.reduce((sum, ring) => sum + ringLength(ring), 0)
  for (const ring of rings) {
    const n = ring.length / 2
    for (let i = 0; i < n; i++) {
      const j = (i + 1) % n
      const [dx, dy] = [ring[2 * j] - ring[2 * i], ring[2 * j + 1] - ring[2 * i + 1]]
      const steps = Math.max(1, Math.round((Math.hypot(dx, dy) / round) * ALONG_EDGE))
      for (let k = 0; k < steps; k++) found.push([ring[2 * i] + (dx * k) / steps, ring[2 * i + 1] + (dy * k) / steps, 0])
    }
  }
  const [first, ...rest] = found
  // What reaches far fails first.
  const [cx, cy] = first
  rest.sort((a, b) => Math.hypot(b[0] - cx, b[1] - cy) + b[2] - Math.hypot(a[0] - cx, a[1] - cy) - a[2])
  const all = [first, ...rest]
  return {
    count: all.length,
    x: Float64Array.from(all, ([x]) => x),
    y: Float64Array.from(all, ([, y]) => y),
    r: Float64Array.from(all, ([, , r]) => r),
  }
}
