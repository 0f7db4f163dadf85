import type { Ring } from './ring.ts'
import type { View } from './view.ts'

/**
 * How far the middle of every pixel is from the nearest line of closed rings, squared, px²; Infinity where it is more than
 * `reach`. Lines of any width come from it by one comparison a pixel, and lie over each other without getting darker; the work
 * grows with the length of what is in the window, not with how tangled it is. @param rings mm @param reach px
 */
export function lineDistance(rings: readonly Ring[], window: View, reach: number): Float32Array {
  const { x, y, pxPerMm, widthPx, heightPx } = window
  const field = new Float32Array(widthPx * heightPx).fill(Infinity)
  for (const ring of rings) {
    const n = ring.length
    if (n === 0) continue
    // Pixels, with the middle of the first one at 0.
    let ax = (ring[n - 2] - x) * pxPerMm - 0.5
    let ay = (ring[n - 1] - y) * pxPerMm - 0.5
    for (let i = 0; i < n; i += 2) {
      const bx = (ring[i] - x) * pxPerMm - 0.5
      const by = (ring[i + 1] - y) * pxPerMm - 0.5
      nearLine(field, widthPx, heightPx, ax, ay, bx, by, reach)
      ax = bx
      ay = by
    }
  }
  return field
}

function nearLine(
  field: Float32Array,
  width: number,
  height: number,
  ax: number,
  ay: number,
  bx: number,
  by: number,
  reach: number,
): void {
  const dx = bx - ax
  const dy = by - ay
  const length2 = dx * dx + dy * dy
  const left = (dx < 0 ? bx : ax) - reach
  const right = (dx < 0 ? ax : bx) + reach
  const top = Math.max(0, Math.ceil((dy < 0 ? by : ay) - reach))
  const bottom = Math.min(height - 1, Math.floor((dy < 0 ? ay : by) + reach))
  if (right < 0 || left > width - 1 || top > bottom) return
  const reach2 = reach * reach
  const over = length2 > 0 ? 1 / length2 : 0
  // A long sloping line is near to a few pixels of each row only.
  const steep = Math.abs(dy) > 4 * reach
  const along = steep ? dx / dy : 0
  const wide = steep ? reach * Math.sqrt(1 + along * along) : 0
  for (let y = top; y <= bottom; y++) {
    const middle = ax + (y - ay) * along
    const from = Math.max(0, Math.ceil(steep ? Math.max(left, middle - wide) : left))
    const to = Math.min(width - 1, Math.floor(steep ? Math.min(right, middle + wide) : right))
    const v = y - ay
    for (let x = from, i = y * width + from; x <= to; x++, i++) {
      const u = x - ax
      let t = (u * dx + v * dy) * over
      t = t < 0 ? 0 : t > 1 ? 1 : t
      const ex = u - t * dx
      const ey = v - t * dy
      const d2 = ex * ex + ey * ey
      if (d2 < field[i] && d2 <= reach2) field[i] = d2
    }
  }
}
