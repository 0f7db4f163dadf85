import type { Ring } from './ring.ts'
import type { View } from './view.ts'

/** Pixels near to lines. */
export interface NearPixels {
  /** Row by row: y · width + x. */
  readonly at: Int32Array
  /** How far the middle of each is from the nearest line, squared, px². */
  readonly squared: Float32Array
}

/** Squared distances of a window, Infinity between calls; the newest size is kept. */
let field = new Float32Array(0)

/**
 * The pixels that are near to the lines of closed rings, and how near. Lines of any width come from it by one comparison a
 * pixel, and lie over each other without getting darker; the work grows with the length of what is in the window, not with how
 * tangled it is. @param rings mm @param reach px
 */
export function lineDistance(rings: readonly Ring[], view: View, reach: number): NearPixels {
  const { x, y, pxPerMm, widthPx, heightPx } = view
  if (field.length !== widthPx * heightPx) field = new Float32Array(widthPx * heightPx).fill(Infinity)
  const near = { at: new Int32Array(1 << 14), count: 0 }
  for (const ring of rings) {
    const n = ring.length
    if (n === 0) continue
    // Pixels, with the middle of the first one at 0.
    let ax = (ring[n - 2] - x) * pxPerMm - 0.5
    let ay = (ring[n - 1] - y) * pxPerMm - 0.5
    for (let i = 0; i < n; i += 2) {
      const bx = (ring[i] - x) * pxPerMm - 0.5
      const by = (ring[i + 1] - y) * pxPerMm - 0.5
      nearLine(near, widthPx, heightPx, ax, ay, bx, by, reach)
      ax = bx
      ay = by
    }
  }
  const at = near.at.subarray(0, near.count)
  const squared = new Float32Array(at.length)
  for (let i = 0; i < at.length; i++) {
    squared[i] = field[at[i]]
    field[at[i]] = Infinity
  }
  return { at, squared }
}

function nearLine(
  near: { at: Int32Array; count: number },
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
    if (to < from) continue
    if (near.count + to - from >= near.at.length) {
      const more = new Int32Array(2 * near.at.length + to - from)
      more.set(near.at)
      near.at = more
    }
    const v = y - ay
    for (let x = from, i = y * width + from; x <= to; x++, i++) {
      const u = x - ax
      let t = (u * dx + v * dy) * over
      t = t < 0 ? 0 : t > 1 ? 1 : t
      const ex = u - t * dx
      const ey = v - t * dy
      const d2 = ex * ex + ey * ey
      if (d2 > reach2) continue
      const known = field[i]
      if (d2 >= known) continue
      if (known === Infinity) near.at[near.count++] = i
      field[i] = d2
    }
  }
}
