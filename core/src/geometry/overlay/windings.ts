import type { Arrangement } from './arrangement.ts'
import { type HalfEdges, targetOf } from './half-edges.ts'

/** How often each shape winds around what lies left of every half edge. */
export interface Windings {
  readonly first: Int32Array
  readonly second: Int32Array
}

/**
 * Spreads winding numbers from vertex to vertex, beginning at the leftmost vertex of all that hangs together, whose left side
 * is found by looking along a line.
 * @returns undefined where rounding made a contradiction
 */
export function windings(arrangement: Arrangement, { starts, around, place }: HalfEdges): Windings | undefined {
  const { x, y, from } = arrangement
  const made = { first: new Int32Array(around.length), second: new Int32Array(around.length) }
  const known = new Uint8Array(around.length)
  const seen = new Uint8Array(x.length)
  const aside = lookingLeft(arrangement)
  /** Knows what lies left of a half edge, and so what lies left of all others at its vertex. */
  const spread = (h: number, first: number, second: number): boolean => {
    const v = h & 1 ? arrangement.to[h >> 1] : from[h >> 1]
    const begin = starts[v]
    const degree = starts[v + 1] - begin
    let a = first
    let b = second
    for (let k = 0; k < degree; k++) {
      const at = around[begin + ((place[h] - begin + k) % degree)]
      if (k > 0) {
        a += at & 1 ? -arrangement.first[at >> 1] : arrangement.first[at >> 1]
        b += at & 1 ? -arrangement.second[at >> 1] : arrangement.second[at >> 1]
      }
      if (known[at] && (made.first[at] !== a || made.second[at] !== b)) return false
      known[at] = 1
      made.first[at] = a
      made.second[at] = b
    }
    // Once around, everything is as it was.
    const own = h & 1 ? -1 : 1
    return a + own * arrangement.first[h >> 1] === first && b + own * arrangement.second[h >> 1] === second
  }
  const open = new Int32Array(x.length)
  const reached = new Uint8Array(x.length)
  for (let begin = 0; begin < x.length; begin++) {
    if (seen[begin] || starts[begin] === starts[begin + 1]) continue
    let leftmost = begin
    let size = 1
    open[0] = begin
    seen[begin] = 1
    for (let i = 0; i < size; i++) {
      const v = open[i]
      if (x[v] < x[leftmost] || (x[v] === x[leftmost] && y[v] < y[leftmost])) leftmost = v
      for (let k = starts[v]; k < starts[v + 1]; k++) {
        const next = targetOf(arrangement, around[k])
        if (seen[next]) continue
        seen[next] = 1
        open[size++] = next
      }
    }
    const [a, b] = aside(leftmost)
    if (!spread(around[starts[leftmost + 1] - 1], a, b)) return undefined
    reached[leftmost] = 1
    open[0] = leftmost
    size = 1
    for (let i = 0; i < size; i++) {
      for (let k = starts[open[i]]; k < starts[open[i] + 1]; k++) {
        const h = around[k]
        const next = targetOf(arrangement, h)
        if (reached[next]) continue
        reached[next] = 1
        open[size++] = next
        // What lies right of this half edge lies left of it seen from the other end.
        const own = h & 1 ? -1 : 1
        const a = made.first[h] - own * arrangement.first[h >> 1]
        const b = made.second[h] - own * arrangement.second[h >> 1]
        if (!spread(h ^ 1, a, b)) return undefined
      }
    }
  }
  // Seen from either end, both sides of an edge are the same.
  for (let e = 0; e < from.length; e++) {
    if (made.first[2 * e] - made.first[2 * e + 1] !== arrangement.first[e]) return undefined
    if (made.second[2 * e] - made.second[2 * e + 1] !== arrangement.second[e]) return undefined
  }
  return made
}

/** Windings right beside a vertex, towards smaller x, where no edge leaves the vertex. */
function lookingLeft({ x, y, from, to, first, second }: Arrangement): (v: number) => readonly [number, number] {
  let top = Infinity
  let bottom = -Infinity
  for (const each of y) {
    top = Math.min(top, each)
    bottom = Math.max(bottom, each)
  }
  const bands = Math.max(1, Math.min(4096, from.length >> 3))
  const high = (bottom - top) / bands || 1
  const band = (at: number): number => Math.min(bands - 1, Math.floor((at - top) / high))
  const starts = new Int32Array(bands + 1)
  for (let e = 0; e < from.length; e++) {
    const end = band(Math.max(y[from[e]], y[to[e]]))
    for (let k = band(Math.min(y[from[e]], y[to[e]])); k <= end; k++) starts[k + 1]++
  }
  for (let k = 0; k < bands; k++) starts[k + 1] += starts[k]
  const edges = new Int32Array(starts[bands])
  const fill = starts.slice()
  for (let e = 0; e < from.length; e++) {
    const end = band(Math.max(y[from[e]], y[to[e]]))
    for (let k = band(Math.min(y[from[e]], y[to[e]])); k <= end; k++) edges[fill[k]++] = e
  }
  return (v) => {
    const k = band(y[v])
    let a = 0
    let b = 0
    for (let i = starts[k]; i < starts[k + 1]; i++) {
      const e = edges[i]
      const u = from[e]
      const w = to[e]
      if (y[u] > y[v] === y[w] > y[v]) continue
      // Whether it crosses the line to the left of the vertex.
      const side = (x[w] - x[u]) * (y[v] - y[u]) - (y[w] - y[u]) * (x[v] - x[u])
      const isUp = y[w] > y[u]
      if (isUp ? side >= 0 : side <= 0) continue
      // Left of an edge that runs up lies what is farther left; here we stand on its right.
      a += isUp ? -first[e] : first[e]
      b += isUp ? -second[e] : second[e]
    }
    return [a, b]
  }
}
