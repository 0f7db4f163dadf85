/** How far a place is from the nearest edge, mm. */
export function offEdges(edges: readonly (readonly number[])[], x: number, y: number): number {
  let least = Number.POSITIVE_INFINITY
  for (const ring of edges)
    for (let i = 0; i < ring.length; i += 2) {
      const j = (i + 2) % ring.length
      const [ax, ay, dx, dy] = [ring[i], ring[i + 1], ring[j] - ring[i], ring[j + 1] - ring[i + 1]]
      const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy)))
      least = Math.min(least, Math.hypot(x - ax - t * dx, y - ay - t * dy))
    }
  return least
}
