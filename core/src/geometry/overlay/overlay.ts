import type { Ring } from '../ring.ts'
import { type Arrangement, arrange, edgesAgain, edgesOf } from './arrangement.ts'
import { type HalfEdges, halfEdges, targetOf } from './half-edges.ts'
import { type Windings, windings } from './windings.ts'

/** What is filled, by how often the first and the second shape wind around it. */
export type Filled = (first: number, second: number) => boolean

/**
 * The edges of what two shapes make together: all edges are split where they meet, and those stay that have something filled
 * on one side only. Work grows with edges and crossings, however wide the shapes are.
 * @param first rings of whole numbers, together with `second` not wider than `WIDEST` @param progress called with the share
 * done 0–1; may throw to cancel
 * @returns simple rings that do not cross, filled on their left: outer rings have positive area
 */
export function overlay(
  first: readonly Ring[],
  second: readonly Ring[],
  filled: Filled,
  progress?: (done: number) => void,
): Ring[] {
  let edges = edgesOf([first, second])
  for (let i = 0; i < TRIES && edges.count > 0; i++) {
    const arrangement = arrange(edges, progress)
    progress?.(0.7)
    const half = halfEdges(arrangement)
    progress?.(0.8)
    const around = windings(arrangement, half)
    progress?.(0.9)
    if (around) return ringsOf(arrangement, half, around, filled)
    // Where vertices lie as close as whole numbers, bent edges may cross once more.
    edges = edgesAgain(arrangement)
  }
  if (edges.count > 0) throw new Error('These outlines cross each other in too many places at once.')
  return []
}

/** So often edges are arranged before the work is given up: once is enough but for errors of rounding. */
const TRIES = 8

function ringsOf(arrangement: Arrangement, { starts, around, place }: HalfEdges, winding: Windings, filled: Filled): Ring[] {
  const { x, y, from, to } = arrangement
  const isFilled = (h: number): boolean => filled(winding.first[h], winding.second[h])
  const kept = new Uint8Array(around.length)
  for (let h = 0; h < around.length; h++) kept[h] = isFilled(h) && !isFilled(h ^ 1) ? 1 : 0
  const rings: Ring[] = []
  /** Where a vertex stands in the walk at hand. */
  const stand = new Int32Array(x.length).fill(-1)
  const walked = new Uint8Array(around.length)
  for (let begin = 0; begin < around.length; begin++) {
    if (!kept[begin] || walked[begin]) continue
    const walk: number[] = []
    let h = begin
    do {
      walked[h] = 1
      const v = h & 1 ? to[h >> 1] : from[h >> 1]
      // Back at a vertex: what was walked since is a ring of its own.
      if (stand[v] >= 0) close(walk.splice(stand[v]))
      stand[v] = walk.length
      walk.push(v)
      h = following(h)
    } while (h !== begin)
    close(walk)
  }
  return rings

  /** The next edge of the same filled face: the first to the right of the way back. */
  function following(h: number): number {
    const target = targetOf(arrangement, h)
    const begin = starts[target]
    const degree = starts[target + 1] - begin
    let next = h ^ 1
    do next = around[begin + ((place[next] - begin + degree - 1) % degree)]
    while (!kept[next])
    return next
  }

  function close(walk: readonly number[]): void {
    for (const v of walk) stand[v] = -1
    const ring = straightened(walk)
    if (ring.length >= 6) rings.push(ring)
  }

  /** Without vertices in the middle of a straight edge. */
  function straightened(walk: readonly number[]): Ring {
    const out: number[] = []
    const n = walk.length
    for (let i = 0; i < n; i++) {
      const a = walk[i === 0 ? n - 1 : i - 1]
      const v = walk[i]
      const b = walk[i + 1 === n ? 0 : i + 1]
      if ((x[v] - x[a]) * (y[b] - y[v]) !== (y[v] - y[a]) * (x[b] - x[v])) out.push(x[v], y[v])
    }
    return Float64Array.from(out)
  }
}
