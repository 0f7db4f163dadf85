import { NumberTable } from './number-table.ts'

/** Straight edges by their ends; whole numbers. */
export interface Edges {
  readonly count: number
  readonly x0: Float64Array
  readonly y0: Float64Array
  readonly x1: Float64Array
  readonly y1: Float64Array
}

/** A grid of square cells as far as edges come into them, and what lies in each. */
export interface Cells {
  readonly count: number
  /** Which edges come into each cell, or within a unit of it: those of cell c from `starts[c]` to `starts[c + 1]`. */
  readonly starts: Int32Array
  readonly edges: Int32Array
  /** The cell of a place on an edge. */
  readonly cellOf: (x: number, y: number) => number
}

/** Smaller cells are tried where edges lie so close that so many pairs for each edge would be looked at … */
const MANY_PAIRS = 40
/** … but not where edges would come into so many cells each. */
const MANY_CELLS = 32
const FINER = 4

/** Parts edges among cells, a few in each. */
export function cellsOf(edges: Edges): Cells {
  const { count, x0, y0, x1, y1 } = edges
  let length = 0
  for (let i = 0; i < count; i++) length += Math.abs(x1[i] - x0[i]) + Math.abs(y1[i] - y0[i])
  let side = Math.max(4, (1.5 * length) / count)
  let made = grid(edges, side)
  while (side > 4 && pairs(made) > MANY_PAIRS * count && length / side < MANY_CELLS * count) {
    side = Math.max(4, side / FINER)
    made = grid(edges, side)
  }
  return made
}

function pairs({ count, starts }: Cells): number {
  let sum = 0
  for (let c = 0; c < count; c++) sum += (starts[c + 1] - starts[c]) ** 2
  return sum / 2
}

function grid({ count, x0, y0, x1, y1 }: Edges, side: number): Cells {
  let left = Infinity
  let top = Infinity
  let right = -Infinity
  for (let i = 0; i < count; i++) {
    left = Math.min(left, x0[i], x1[i])
    right = Math.max(right, x0[i], x1[i])
    top = Math.min(top, y0[i], y1[i])
  }
  // A cell more on either side, for what lies within a unit of the first and the last.
  const columns = Math.ceil((right - left) / side) + 3
  const column = (x: number): number => Math.floor((x - left) / side) + 1
  const row = (y: number): number => Math.floor((y - top) / side) + 1
  const cells = new NumberTable(2 * count)
  let where = new Int32Array(4 * count + 64)
  let which = new Int32Array(where.length)
  let used = 0
  for (let i = 0; i < count; i++) {
    const isUp = y0[i] <= y1[i]
    const ax = isUp ? x0[i] : x1[i]
    const ay = isUp ? y0[i] : y1[i]
    const bx = isUp ? x1[i] : x0[i]
    const by = isUp ? y1[i] : y0[i]
    const last = row(by + 1)
    const slope = by > ay ? (bx - ax) / (by - ay) : 0
    for (let r = row(ay - 1); r <= last; r++) {
      let from = ax
      let to = bx
      if (slope !== 0) {
        const begin = top + (r - 1) * side
        from = ax + slope * (Math.max(ay, Math.min(by, begin - 1)) - ay)
        to = ax + slope * (Math.max(ay, Math.min(by, begin + side + 1)) - ay)
      }
      const end = column(Math.max(from, to) + 1)
      for (let c = column(Math.min(from, to) - 1); c <= end; c++) {
        if (used === where.length) {
          where = longer(where)
          which = longer(which)
        }
        where[used] = cells.numberOf(r * columns + c)
        which[used++] = i
      }
    }
  }
  const starts = new Int32Array(cells.size + 1)
  for (let k = 0; k < used; k++) starts[where[k] + 1]++
  for (let c = 0; c < cells.size; c++) starts[c + 1] += starts[c]
  const fill = starts.slice()
  const sorted = new Int32Array(used)
  for (let k = 0; k < used; k++) sorted[fill[where[k]]++] = which[k]
  return { count: cells.size, starts, edges: sorted, cellOf: (x, y) => cells.numberOf(row(y) * columns + column(x)) }
}

function longer(list: Int32Array): Int32Array<ArrayBuffer> {
  const made = new Int32Array(2 * list.length)
  made.set(list)
  return made
}
