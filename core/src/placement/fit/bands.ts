import type { Edges } from './shape.ts'

/** Edges by the heights at which they lie: of an edge somewhere only those beside it are looked at. */
export interface Bands {
  readonly y0: number
  readonly step: number
  /** Indices of edges, band by band. */
  readonly lists: readonly Int32Array[]
}

/** About so many edges to a band. */
const EDGES = 6
const MOST_BANDS = 2000

const KNOWN = new WeakMap<Edges, Bands>()

export function bandsOf(edges: Edges): Bands {
  const known = KNOWN.get(edges)
  if (known) return known
  const { ay, dy } = edges
  let [low, high] = [Infinity, -Infinity]
  for (let i = 0; i < ay.length; i++) {
    low = Math.min(low, ay[i])
    high = Math.max(high, ay[i])
  }
  const count = Math.max(1, Math.min(MOST_BANDS, Math.floor(ay.length / EDGES)))
  const step = Math.max((high - low) / count, 1e-9)
  const lists: number[][] = Array.from({ length: count }, () => [])
  for (let i = 0; i < ay.length; i++) {
    const [from, to] = spanOf(
      { y0: low, step, lists: { length: count } },
      Math.min(ay[i], ay[i] + dy[i]),
      Math.max(ay[i], ay[i] + dy[i]),
    )
    for (let k = from; k <= to; k++) lists[k].push(i)
  }
  const made = { y0: low, step, lists: lists.map((list) => Int32Array.from(list)) }
  KNOWN.set(edges, made)
  return made
}

/** The first and the last band that heights touch. */
export function spanOf(
  { y0, step, lists }: { readonly y0: number; readonly step: number; readonly lists: { readonly length: number } },
  from: number,
  to: number,
): readonly [number, number] {
  const band = (y: number): number => Math.min(lists.length - 1, Math.max(0, Math.floor((y - y0) / step)))
  return [band(from), band(to)]
}
