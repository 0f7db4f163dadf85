import { combine, growLines } from '../../geometry/clip.ts'
import { CUBIC, flattenPath, LINE, type Path } from '../../geometry/path.ts'
import { type Ring, ringArea } from '../../geometry/ring.ts'
import { pathThrough } from '../../outline/trace.ts'
import { respaced } from './edge-walk.ts'
import type { SeenBlank } from './seen-blank.ts'

/** Chords of an edge while it is painted, and how far apart the places are that the new edge goes through, mm. */
const CHORD_MM = 0.02
const ALONG_MM = 0.5
/** The new edge lies off the painted one by at most so much, mm. */
const FIT_MM = 0.06
/** Crumbs and pinholes that are left over are none, mm². */
const LEAST_MM2 = 4
/** Handles of a bend that takes the place of two are at most so many times as long. */
const MOST_LONGER = 3

/**
 * A blank with something painted to it, or away: what the hand went over belongs to it, or does not.
 * @param line where the hand went, mm of the bed @returns undefined where nothing of it would be left
 */
export function painted(blank: SeenBlank, line: Ring, halfMm: number, how: 'add' | 'take'): SeenBlank | undefined {
  const before = [blank.edge, ...blank.holes].map((path) => flattenPath(path, CHORD_MM))
  const rings = combine(how === 'add' ? 'union' : 'subtract', before, growLines([line], halfMm))
  const outer = rings.reduce<Ring | undefined>(
    (best, ring) => (ringArea(ring) > (best ? ringArea(best) : 0) ? ring : best),
    undefined,
  )
  if (!outer || ringArea(outer) < LEAST_MM2) return undefined
  // What was parted from it goes with the parts that are smaller.
  const inner = combine('intersect', rings, [outer]).filter((ring) => ringArea(ring) < -LEAST_MM2)
  const smooth = (ring: Ring): Path => pathThrough(respaced(ring, ALONG_MM), ALONG_MM, FIT_MM / ALONG_MM)
  return sized({ ...blank, edge: smooth(outer), holes: inner.map(smooth) })
}

/** A blank as large as its edges say. */
export function sized(blank: SeenBlank): SeenBlank {
  const area = (path: Path): number => Math.abs(ringArea(flattenPath(path, CHORD_MM)))
  return { ...blank, areaMm2: area(blank.edge) - blank.holes.reduce((sum, hole) => sum + area(hole), 0) }
}

/** Where the nodes of a closed path begin in its points, and what kind of segment leads to each. */
function nodesAt({ kinds }: Path): number[] {
  const at: number[] = []
  let p = 0
  for (const kind of kinds) {
    at.push(p)
    p += kind === LINE ? 2 : 6
  }
  return at
}

/** The nodes of a closed edge, mm. */
export const edgeNodes = (edge: Path): (readonly [number, number])[] =>
  nodesAt(edge).map((p) => [edge.points[p], edge.points[p + 1]] as const)

/** An edge with one of its nodes moved: the bends beside it go along. */
export function nodeMoved(edge: Path, node: number, dx: number, dy: number): Path {
  const { kinds } = edge
  const at = nodesAt(edge)
  const points = edge.points.slice()
  const move = (p: number): void => {
    points[p] += dx
    points[p + 1] += dy
  }
  const n = kinds.length
  move(at[node])
  // The first node is the last one, too.
  if (node === 0) move(points.length - 2)
  if (kinds[node] === CUBIC) move(at[node] + 2)
  const before = (node + n - 1) % n
  // The second handle of the segment that ends here.
  if (kinds[before] === CUBIC) move(at[before] + 4)
  return { ...edge, points }
}

/** An edge without one of its nodes: what was on both sides of it is one bend. Three nodes are left at least. */
export function nodeGone(edge: Path, node: number): Path {
  const n = edge.kinds.length
  if (n <= 3) return edge
  const at = nodesAt(edge)
  const { points } = edge
  const end = (k: number): readonly [number, number] => {
    const p = k + 1 < n ? at[k + 1] : points.length - 2
    return [points[p], points[p + 1]]
  }
  const before = (node + n - 1) % n
  const kinds: number[] = []
  const out: number[] = []
  // Begins at a node that stays.
  const first = node === 0 ? 1 : 0
  out.push(points[at[first]], points[at[first] + 1])
  for (let i = 0; i < n; i++) {
    const k = (first + i) % n
    if (k === node) continue
    if (k !== before) {
      kinds.push(edge.kinds[k])
      out.push(...points.slice(at[k] + 2, at[k] + (edge.kinds[k] === LINE ? 4 : 8)))
      continue
    }
    const [straight, next] = [edge.kinds[before] === LINE && edge.kinds[node] === LINE, end(node)]
    if (straight) {
      kinds.push(LINE)
      out.push(...next)
      continue
    }
    const from = [points[at[before]], points[at[before] + 1]]
    const gone = [points[at[node]], points[at[node] + 1]]
    const a = edge.kinds[before] === CUBIC ? [points[at[before] + 2], points[at[before] + 3]] : gone
    const b = edge.kinds[node] === CUBIC ? [points[at[node] + 4], points[at[node] + 5]] : gone
    // As where one bend was parted there (P. de Casteljau): each handle is its share of the whole one.
    const [l1, l2] = [Math.hypot(gone[0] - from[0], gone[1] - from[1]), Math.hypot(next[0] - gone[0], next[1] - gone[1])]
    const [sa, sb] = [l1, l2].map((l) => Math.min(MOST_LONGER, (l1 + l2) / Math.max(1e-9, l)))
    kinds.push(CUBIC)
    out.push(from[0] + sa * (a[0] - from[0]), from[1] + sa * (a[1] - from[1]))
    out.push(next[0] + sb * (b[0] - next[0]), next[1] + sb * (b[1] - next[1]), ...next)
  }
  return { closed: true, kinds: Uint8Array.from(kinds), points: Float64Array.from(out) }
}
