import { pathFromRing } from './path.ts'
import { nearestOn } from './pieces.ts'
import { type Ring, ringLength } from './ring.ts'

/** The part of a path between two ways from its start; beyond the length of one that closes it goes around once more. @returns polyline */
export function stretchOf(points: Ring, closed: boolean, from: number, to: number): Ring {
  const n = points.length / 2
  const out: number[] = []
  const sides = closed ? 2 * n : n - 1
  let far = 0
  for (let i = 0; i < sides; i++) {
    const [a, b] = [2 * (i % n), 2 * ((i + 1) % n)]
    const [x0, y0, x1, y1] = [points[a], points[a + 1], points[b], points[b + 1]]
    const long = Math.hypot(x1 - x0, y1 - y0)
    const end = far + long
    const at = (way: number): void => {
      const share = long > 0 ? (way - far) / long : 0
      out.push(x0 + (x1 - x0) * share, y0 + (y1 - y0) * share)
    }
    if (out.length === 0 && from < end) at(Math.max(from, far))
    if (out.length > 0) {
      if (to <= end) {
        at(to)
        break
      }
      out.push(x1, y1)
    }
    far = end
  }
  return Float64Array.from(out)
}

/** A place at which rings are left open, and how wide, mm. */
export interface Gap {
  readonly x: number
  readonly y: number
  readonly wideMm: number
}

/**
 * Rings left open where a gap is nearest to one of them: what is left of each as lines; rings without a gap stay whole.
 * @param rings mm
 */
export function leftOpen(rings: readonly Ring[], gaps: readonly Gap[]): { readonly rings: Ring[]; readonly lines: Ring[] } {
  const paths = rings.map(pathFromRing)
  const open = new Map<number, [number, number][]>()
  for (const { x, y, wideMm } of gaps) {
    const found = nearestOn(paths, x, y)
    if (!found) continue
    const ring = rings[found.path]
    const at = wayTo(ring, found.piece, found.t)
    open.set(found.path, [...(open.get(found.path) ?? []), [at - wideMm / 2, at + wideMm / 2]])
  }
  return {
    rings: rings.filter((_, i) => !open.has(i)),
    lines: [...open].flatMap(([i, spans]) => between(rings[i], spans)),
  }
}

/** How far along a ring a place of one of its sides lies. */
function wayTo(ring: Ring, side: number, share: number): number {
  const n = ring.length / 2
  let far = 0
  for (let i = 0; i <= side; i++) {
    const [a, b] = [2 * (i % n), 2 * ((i + 1) % n)]
    far += Math.hypot(ring[b] - ring[a], ring[b + 1] - ring[a + 1]) * (i === side ? share : 1)
  }
  return far
}

/** What lies between spans of a ring, once around. */
function between(ring: Ring, spans: readonly [number, number][]): Ring[] {
  const long = ringLength(ring)
  const sorted = spans.map(([from, to]): [number, number] => {
    const turn = Math.floor(from / long) * long
    return [from - turn, to - turn]
  })
  sorted.sort((a, b) => a[0] - b[0])
  return sorted.flatMap(([, to], i) => {
    const next = i + 1 < sorted.length ? sorted[i + 1][0] : sorted[0][0] + long
    if (next - to < 1e-3) return []
    const turn = Math.floor(to / long) * long
    return [stretchOf(ring, true, to - turn, next - turn)]
  })
}
