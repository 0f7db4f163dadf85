import type { Ring } from './ring.ts'

/** How far a place is from the next edge. */
export function distanceTo(rings: readonly Ring[], x: number, y: number): number {
  let least = Infinity
  for (const each of rings)
    for (let i = 0, j = each.length - 2; i < each.length; j = i, i += 2) {
      const [dx, dy] = [each[i] - each[j], each[i + 1] - each[j + 1]]
      const t = Math.max(0, Math.min(1, ((x - each[j]) * dx + (y - each[j + 1]) * dy) / (dx * dx + dy * dy || 1)))
      least = Math.min(least, Math.hypot(x - each[j] - t * dx, y - each[j + 1] - t * dy))
    }
  return least
}
