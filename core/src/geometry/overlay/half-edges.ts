import type { Arrangement } from './arrangement.ts'

/** Edges seen from their vertices: edge e leaves its lower vertex as 2e and its higher one as 2e + 1. */
export interface HalfEdges {
  /** Half edges by the vertex that they leave, turning left from straight back along x: v's from `starts[v]` to `starts[v + 1]`. */
  readonly starts: Int32Array
  readonly around: Int32Array
  /** Where a half edge stands in `around`. */
  readonly place: Int32Array
}

export const targetOf = ({ from, to }: Arrangement, h: number): number => (h & 1 ? from[h >> 1] : to[h >> 1])

export function halfEdges(arrangement: Arrangement): HalfEdges {
  const { x, y, from, to } = arrangement
  const starts = new Int32Array(x.length + 1)
  for (let e = 0; e < from.length; e++) {
    starts[from[e] + 1]++
    starts[to[e] + 1]++
  }
  for (let v = 0; v < x.length; v++) starts[v + 1] += starts[v]
  const fill = starts.slice()
  const around = new Int32Array(2 * from.length)
  for (let e = 0; e < from.length; e++) {
    around[fill[from[e]]++] = 2 * e
    around[fill[to[e]]++] = 2 * e + 1
  }
  /** Whether half edge a comes after b: first what points down or straight ahead, then what points up or straight back. */
  const isAfter = (a: number, b: number, v: number): boolean => {
    const ta = targetOf(arrangement, a)
    const tb = targetOf(arrangement, b)
    const ax = x[ta] - x[v]
    const ay = y[ta] - y[v]
    const bx = x[tb] - x[v]
    const by = y[tb] - y[v]
    const isUp = ay > 0 || (ay === 0 && ax < 0)
    return isUp === (by > 0 || (by === 0 && bx < 0)) ? ay * bx > ax * by : isUp
  }
  for (let v = 0; v < x.length; v++) {
    // Few edges meet in a vertex.
    for (let i = starts[v] + 1; i < starts[v + 1]; i++) {
      const h = around[i]
      let k = i
      for (; k > starts[v] && isAfter(around[k - 1], h, v); k--) around[k] = around[k - 1]
      around[k] = h
    }
  }
  const place = new Int32Array(around.length)
  for (let i = 0; i < around.length; i++) place[around[i]] = i
  return { starts, around, place }
}
