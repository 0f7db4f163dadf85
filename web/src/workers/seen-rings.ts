import type { Ring } from '@neotaxis/core'

/** Corners nearer than this on the screen are drawn as one, px. */
const SEEN_PX = 0.8

const made = new WeakMap<readonly Ring[], Map<number, readonly Ring[]>>()

/**
 * Rings as fine as the screen shows them, worked out once for each result and each doubling of the scale, so that thousands
 * of outlines are drawn within a frame. @param scale px a mm
 */
export function seenRings(rings: readonly Ring[], scale: number): readonly Ring[] {
  const level = Math.ceil(Math.log2(scale))
  let levels = made.get(rings)
  if (!levels) {
    levels = new Map()
    made.set(rings, levels)
  }
  const known = levels.get(level)
  if (known) return known
  const least = (SEEN_PX / 2 ** level) ** 2
  const seen = rings.map((ring) => seenOf(ring, least))
  levels.set(level, seen)
  return seen
}

/** A ring without the corners that nobody could tell from the one before. @param least square of their distance, mm² */
function seenOf(ring: Ring, least: number): Ring {
  const n = ring.length
  const kept = new Float64Array(n)
  let [x, y] = ring
  kept[0] = x
  kept[1] = y
  let count = Math.min(2, n)
  for (let i = 2; i < n; i += 2) {
    const [u, v] = [ring[i], ring[i + 1]]
    if ((u - x) ** 2 + (v - y) ** 2 < least && i < n - 2) continue
    x = u
    y = v
    kept[count] = u
    kept[count + 1] = v
    count += 2
  }
  return kept.slice(0, count)
}
