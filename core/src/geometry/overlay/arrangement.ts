import type { Ring } from '../ring.ts'
import { type Cells, cellsOf, type Edges } from './edge-cells.ts'
import { NumberTable } from './number-table.ts'

/** Coordinates from end to end may not be farther apart than this: products of them stay exact. */
export const WIDEST = 0x3ffffff

/** Edges that meet at vertices only. Each runs from its lower to its higher vertex. */
export interface Arrangement {
  readonly x: Float64Array
  readonly y: Float64Array
  readonly from: Int32Array
  readonly to: Int32Array
  /** How much more often the first and the second shape wind around what lies left of an edge than around what lies right. */
  readonly first: Int32Array
  readonly second: Int32Array
}

/** Edges of two shapes, and how often each belongs to them. */
export interface WeightedEdges extends Edges {
  readonly first: Int32Array
  readonly second: Int32Array
}

/**
 * Splits edges wherever they meet, with all vertices on whole numbers: snap rounding, by which edges bend a little to pass
 * through every vertex they come near, so that none cross any more.
 * Source: J. D. Hobby, Practical segment intersection with finite precision output, Comput. Geom. 13 (1999).
 * @param edges not wider than `WIDEST` in all; as many come to every place as leave it
 */
export function arrange(edges: WeightedEdges, progress?: (done: number) => void): Arrangement {
  const cells = cellsOf(edges)
  progress?.(0.2)
  const splits = splitsOf(edges, cells)
  progress?.(0.5)
  return merged(edges, splits)
}

/** The edges of two shapes. @param shapes rings of whole numbers */
export function edgesOf(shapes: readonly [readonly Ring[], readonly Ring[]]): WeightedEdges {
  const most = shapes.reduce((sum, rings) => rings.reduce((all, ring) => all + ring.length / 2, sum), 0)
  const [x0, y0, x1, y1] = Array.from({ length: 4 }, () => new Float64Array(most))
  const weights = [new Int32Array(most), new Int32Array(most)] as const
  let count = 0
  shapes.forEach((rings, shape) => {
    for (const ring of rings) {
      for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
        if (ring[i] === ring[j] && ring[i + 1] === ring[j + 1]) continue
        x0[count] = ring[j]
        y0[count] = ring[j + 1]
        x1[count] = ring[i]
        y1[count] = ring[i + 1]
        weights[shape][count] = 1
        count++
      }
    }
  })
  return { count, x0, y0, x1, y1, first: weights[0], second: weights[1] }
}

/** The edges of an arrangement, to be arranged once more. */
export function edgesAgain({ x, y, from, to, first, second }: Arrangement): WeightedEdges {
  const at = (list: Float64Array, ends: Int32Array): Float64Array => Float64Array.from(ends, (v) => list[v])
  return { count: from.length, x0: at(x, from), y0: at(y, from), x1: at(x, to), y1: at(y, to), first, second }
}

/** Where edges are split: places in no order, an edge may have the same twice. */
interface Splits {
  readonly edge: number[]
  readonly x: number[]
  readonly y: number[]
}

function splitsOf({ count, x0, y0, x1, y1 }: Edges, cells: Cells): Splits {
  const { starts, edges, cellOf } = cells
  const splits: Splits = { edge: [], x: [], y: [] }
  // Vertices and crossings by cell, as linked lists.
  const first = new Int32Array(cells.count).fill(-1)
  const after: number[] = []
  const px: number[] = []
  const py: number[] = []
  const mark = (cell: number, x: number, y: number): void => {
    after.push(first[cell])
    first[cell] = px.length
    px.push(x)
    py.push(y)
  }
  for (let i = 0; i < count; i++) {
    mark(cellOf(x0[i], y0[i]), x0[i], y0[i])
    // Most edges end where the next one begins.
    if (x1[i] !== x0[i + 1] || y1[i] !== y0[i + 1]) mark(cellOf(x1[i], y1[i]), x1[i], y1[i])
  }
  for (let cell = 0; cell < first.length; cell++) {
    const end = starts[cell + 1]
    for (let a = starts[cell]; a < end; a++) {
      const i = edges[a]
      const left = Math.min(x0[i], x1[i])
      const right = Math.max(x0[i], x1[i])
      const top = Math.min(y0[i], y1[i])
      const bottom = Math.max(y0[i], y1[i])
      const dx = x1[i] - x0[i]
      const dy = y1[i] - y0[i]
      for (let b = a + 1; b < end; b++) {
        const j = edges[b]
        if (x0[j] < left && x1[j] < left) continue
        if (x0[j] > right && x1[j] > right) continue
        if (y0[j] < top && y1[j] < top) continue
        if (y0[j] > bottom && y1[j] > bottom) continue
        const c0 = dx * (y0[j] - y0[i]) - dy * (x0[j] - x0[i])
        const c1 = dx * (y1[j] - y0[i]) - dy * (x1[j] - x0[i])
        if (c0 === 0 || c1 === 0 || c0 > 0 === c1 > 0) continue
        const ex = x1[j] - x0[j]
        const ey = y1[j] - y0[j]
        const d0 = ex * (y0[i] - y0[j]) - ey * (x0[i] - x0[j])
        const d1 = ex * (y1[i] - y0[j]) - ey * (x1[i] - x0[j])
        if (d0 === 0 || d1 === 0 || d0 > 0 === d1 > 0) continue
        const t = c0 / (c0 - c1)
        const x = Math.round(x0[j] + t * ex)
        const y = Math.round(y0[j] + t * ey)
        // Edges that share several cells cross in one of them.
        if (cellOf(x, y) !== cell) continue
        mark(cell, x, y)
        split(i, x, y)
        split(j, x, y)
      }
    }
  }
  for (let cell = 0; cell < first.length; cell++) {
    for (let p = first[cell]; p >= 0; p = after[p]) {
      const x = px[p]
      const y = py[p]
      for (let a = starts[cell]; a < starts[cell + 1]; a++) {
        const i = edges[a]
        if (x < x0[i] - 0.5 && x < x1[i] - 0.5) continue
        if (x > x0[i] + 0.5 && x > x1[i] + 0.5) continue
        if (y < y0[i] - 0.5 && y < y1[i] - 0.5) continue
        if (y > y0[i] + 0.5 && y > y1[i] + 0.5) continue
        const dx = x1[i] - x0[i]
        const dy = y1[i] - y0[i]
        // The line runs through the square of a unit around the vertex, which has its lower left corner but no other.
        const off = 2 * (dx * (y - y0[i]) - dy * (x - x0[i]))
        const most = Math.abs(dx) + Math.abs(dy)
        if (Math.abs(off) < most || (Math.abs(off) === most && dx * dy < 0 && off === dx - dy)) split(i, x, y)
      }
    }
  }
  return splits

  function split(i: number, x: number, y: number): void {
    if ((x === x0[i] && y === y0[i]) || (x === x1[i] && y === y1[i])) return
    splits.edge.push(i)
    splits.x.push(x)
    splits.y.push(y)
  }
}

/** The edges between splits, those with the same ends as one. */
function merged({ count, x0, y0, x1, y1, ...weights }: WeightedEdges, splits: Splits): Arrangement {
  // Splits by edge, those of one edge along it.
  const starts = new Int32Array(count + 1)
  for (const i of splits.edge) starts[i + 1]++
  for (let i = 0; i < count; i++) starts[i + 1] += starts[i]
  const fill = starts.slice()
  const order = new Int32Array(splits.edge.length)
  const far = new Float64Array(splits.edge.length)
  for (let s = 0; s < order.length; s++) {
    const i = splits.edge[s]
    far[s] = (splits.x[s] - x0[i]) * (x1[i] - x0[i]) + (splits.y[s] - y0[i]) * (y1[i] - y0[i])
    let k = fill[i]++
    for (; k > starts[i] && far[order[k - 1]] > far[s]; k--) order[k] = order[k - 1]
    order[k] = s
  }

  let left = Infinity
  let top = Infinity
  for (let i = 0; i < count; i++) {
    left = Math.min(left, x0[i], x1[i])
    top = Math.min(top, y0[i], y1[i])
  }
  const vertices = new NumberTable(count)
  const x: number[] = []
  const y: number[] = []
  const vertexAt = (px: number, py: number): number => {
    const v = vertices.numberOf((px - left) * (WIDEST + 1) + (py - top))
    if (v === x.length) {
      x.push(px)
      y.push(py)
    }
    return v
  }
  let last = -1
  const most = count + order.length
  const pairs = new NumberTable(most)
  const from = new Int32Array(most)
  const to = new Int32Array(most)
  const first = new Int32Array(most)
  const second = new Int32Array(most)
  const add = (u: number, v: number, i: number): void => {
    if (u === v) return
    const low = Math.min(u, v)
    const high = Math.max(u, v)
    const e = pairs.numberOf(low * (WIDEST + 1) + high)
    const way = u < v ? 1 : -1
    from[e] = low
    to[e] = high
    first[e] += way * weights.first[i]
    second[e] += way * weights.second[i]
  }
  for (let i = 0; i < count; i++) {
    // Most edges begin where the one before ended.
    let at = i > 0 && x0[i] === x1[i - 1] && y0[i] === y1[i - 1] ? last : vertexAt(x0[i], y0[i])
    for (let k = starts[i]; k < starts[i + 1]; k++) {
      const v = vertexAt(splits.x[order[k]], splits.y[order[k]])
      add(at, v, i)
      at = v
    }
    last = vertexAt(x1[i], y1[i])
    add(at, last, i)
  }
  // Edges that run back where another came are none.
  let kept = 0
  for (let e = 0; e < pairs.size; e++) {
    if (first[e] === 0 && second[e] === 0) continue
    for (const list of [from, to, first, second]) list[kept] = list[e]
    kept++
  }
  return {
    x: Float64Array.from(x),
    y: Float64Array.from(y),
    from: from.subarray(0, kept),
    to: to.subarray(0, kept),
    first: first.subarray(0, kept),
    second: second.subarray(0, kept),
  }
}
