import type { Ring } from './ring.ts'

/** The smallest convex polygon around points (Andrew's monotone chain). @param points x, y pairs @returns x, y pairs */
export function convexHull(points: readonly (readonly [number, number])[]): (readonly [number, number])[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1])
  if (sorted.length < 3) return sorted
  const half = (list: readonly (readonly [number, number])[]): (readonly [number, number])[] => {
    const chain: (readonly [number, number])[] = []
    for (const p of list) {
      while (chain.length > 1) {
        const [ax, ay] = chain[chain.length - 2]
        const [bx, by] = chain[chain.length - 1]
        if ((bx - ax) * (p[1] - ay) - (by - ay) * (p[0] - ax) > 0) break
        chain.pop()
      }
      chain.push(p)
    }
    return chain.slice(0, -1)
  }
  return [...half(sorted), ...half([...sorted].reverse())]
}

/** The hull of polygons as a polygon, its area positive. */
export const hullOf = (rings: readonly Ring[]): Ring =>
  Float64Array.from(
    convexHull(
      rings.flatMap((ring) => Array.from({ length: ring.length / 2 }, (_, i) => [ring[2 * i], ring[2 * i + 1]] as const)),
    ).flat(),
  )
