import type { Ring } from '@neotaxis/core'

/** Corners nearer than this on the screen are drawn as one, px. */
const SEEN_PX = 0.4

const made = new WeakMap<readonly Ring[], Map<number, Path2D>>()

/**
 * Rings as one path for the canvas, in job mm, built once for each result and each doubling of the scale: as fine as the screen
 * shows it, so that thousands of outlines are drawn within a frame. @param scale px a mm
 */
export function outlinePath(rings: readonly Ring[], scale: number): Path2D {
  const level = Math.ceil(Math.log2(scale))
  let levels = made.get(rings)
  if (!levels) {
    levels = new Map()
    made.set(rings, levels)
  }
  const known = levels.get(level)
  if (known) return known
  const path = new Path2D()
  const least = (SEEN_PX / 2 ** level) ** 2
  for (const ring of rings) seenOf(path, ring, least)
  levels.set(level, path)
  return path
}

/** Adds a ring without the corners that nobody could tell from the one before. @param least square of their distance, mm² */
function seenOf(path: Path2D, ring: Ring, least: number): void {
  const n = ring.length
  let [x, y] = ring
  path.moveTo(x, y)
  for (let i = 2; i < n; i += 2) {
    const [u, v] = [ring[i], ring[i + 1]]
    if ((u - x) ** 2 + (v - y) ** 2 < least && i < n - 2) continue
    x = u
    y = v
    path.lineTo(x, y)
  }
  path.closePath()
}
