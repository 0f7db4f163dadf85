import type { Ring } from '@neotaxis/core'

/** What is drawn may lie so far beside what is meant, and beyond its end, px: less than anybody sees in a line. */
const SEEN_PX = 0.2

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
  const off = SEEN_PX / 2 ** level
  const seen = rings.map((ring) => seenOf(ring, off))
  levels.set(level, seen)
  return seen
}

/**
 * A ring without the corners that nobody could tell from a straight line: from each corner that is kept as far on as all between lie
 * within a tolerance of the way to it (the cone of directions that pass them all is narrowed from place to place), and nothing turns
 * back. @param off how far, mm
 */
function seenOf(ring: Ring, off: number): Ring {
  const n = ring.length
  if (n <= 4) return ring
  const kept = new Float64Array(n)
  kept[0] = ring[0]
  kept[1] = ring[1]
  let count = 2
  let anchor = 0
  // The cone from the anchor: its sides, and how far what it holds reaches.
  let [lx, ly, hx, hy, far] = [0, 0, 0, 0, 0]
  for (let i = 2; i < n; i += 2) {
    let dx = ring[i] - ring[anchor]
    let dy = ring[i + 1] - ring[anchor + 1]
    let d = Math.sqrt(dx * dx + dy * dy)
    const inside = far === 0 || (lx * dy - ly * dx >= 0 && dx * hy - dy * hx >= 0 && lx * dx + ly * dy > 0 && d >= far - off)
    if (!inside) {
      anchor = i - 2
      kept[count++] = ring[anchor]
      kept[count++] = ring[anchor + 1]
      dx = ring[i] - ring[anchor]
      dy = ring[i + 1] - ring[anchor + 1]
      d = Math.sqrt(dx * dx + dy * dy)
      far = 0
    }
    if (d <= off) continue
    // The directions that pass this place within the tolerance.
    const sin = off / d
    const cos = Math.sqrt(1 - sin * sin)
    const [ax, ay] = [dx * cos + dy * sin, dy * cos - dx * sin]
    const [bx, by] = [dx * cos - dy * sin, dy * cos + dx * sin]
    if (far === 0) {
      lx = ax
      ly = ay
      hx = bx
      hy = by
    } else {
      if (lx * ay - ly * ax > 0) {
        lx = ax
        ly = ay
      }
      if (hx * by - hy * bx < 0) {
        hx = bx
        hy = by
      }
    }
    if (d > far) far = d
  }
  kept[count++] = ring[n - 2]
  kept[count++] = ring[n - 1]
  return kept.slice(0, count)
}
