import { type Ring, ringContains } from './ring.ts'

/** Whether a place lies within an edge, by even-odd. */
export const liesWithin = (edge: readonly Ring[], x: number, y: number): boolean =>
  edge.reduce((inside, ring) => inside !== ringContains(ring, x, y), false)

/** How far a place lies from an edge, mm. */
export function fromEdge(edge: readonly Ring[], x: number, y: number): number {
  const [u, v] = nearestOnEdge(edge, x, y)
  return Math.hypot(u - x, v - y)
}

/** The place of an edge that is nearest to a place. */
export function nearestOnEdge(edge: readonly Ring[], x: number, y: number): readonly [number, number] {
  let least = Infinity
  let nearest: readonly [number, number] = [x, y]
  for (const ring of edge) {
    const n = ring.length
    for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
      const [ax, ay, dx, dy] = [ring[j], ring[j + 1], ring[i] - ring[j], ring[i + 1] - ring[j + 1]]
      const long = dx * dx + dy * dy
      const t = long > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / long)) : 0
      const away = (x - ax - t * dx) ** 2 + (y - ay - t * dy) ** 2
      if (away >= least) continue
      least = away
      nearest = [ax + t * dx, ay + t * dy]
    }
  }
  return nearest
}
