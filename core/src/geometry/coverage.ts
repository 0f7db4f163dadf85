import type { Ring } from './ring.ts'

/**
 * How much of every pixel a filled shape covers, exactly (signed-area accumulation: each edge adds its area to the
 * cells it passes and its height to all cells right of them). Rings add by their direction, so holes must turn
 * against their outer ring; overlapping rings of one direction saturate at 1.
 * @param rings in pixels, x right, y down, pixel (0,0) spans 0…1
 * @returns width × height values 0…1
 */
export function coverage(rings: readonly Ring[], width: number, height: number): Float32Array {
  const cells = new Float32Array(width * height + 2)
  for (const ring of rings) {
    const n = ring.length
    for (let i = 0, j = n - 2; i < n; j = i, i += 2) edge(cells, width, height, ring[j], ring[j + 1], ring[i], ring[i + 1])
  }
  for (let y = 0; y < height; y++) {
    let sum = 0
    for (let i = y * width, end = i + width; i < end; i++) {
      sum += cells[i]
      const a = Math.abs(sum)
      cells[i] = a > 1 ? 1 : a < 1e-6 ? 0 : a
    }
  }
  return cells.subarray(0, width * height)
}

function edge(cells: Float32Array, width: number, height: number, xa: number, ya: number, xb: number, yb: number): void {
  if (ya === yb) return
  const sign = ya < yb ? 1 : -1
  let x0 = xa
  let y0 = ya
  let x1 = xb
  let y1 = yb
  if (sign < 0) {
    x0 = xb
    y0 = yb
    x1 = xa
    y1 = ya
  }
  if (y1 <= 0 || y0 >= height) return
  const slope = (x1 - x0) / (y1 - y0)
  if (y0 < 0) {
    x0 -= y0 * slope
    y0 = 0
  }
  if (y1 > height) {
    x1 -= (y1 - height) * slope
    y1 = height
  }
  let x = x0
  for (let row = Math.floor(y0); row < y1; row++) {
    const top = Math.max(y0, row)
    const bottom = Math.min(y1, row + 1)
    const dy = (bottom - top) * sign
    const xNext = x + (bottom - top) * slope
    let left = x < xNext ? x : xNext
    let right = x < xNext ? xNext : x
    x = xNext
    if (left >= width) continue
    if (right <= 0) {
      cells[row * width] += dy
      continue
    }
    // The part beyond a side edge acts like a vertical edge on it.
    if (left < 0 || right > width) {
      const span = right - left
      if (left < 0) {
        cells[row * width] += dy * (-left / span)
        left = 0
      }
      const inside = Math.min(right, width) - left
      accumulate(cells, row * width, width, left, Math.min(right, width), dy * (inside / span))
      continue
    }
    right = Math.min(right, width)
    accumulate(cells, row * width, width, left, right, dy)
  }
}

/** Adds an edge piece inside one row from x = left to right that drops by `dy`. */
function accumulate(cells: Float32Array, base: number, width: number, left: number, right: number, dy: number): void {
  const first = Math.min(Math.floor(left), width - 1)
  const last = Math.min(Math.ceil(right), width)
  if (last <= first + 1) {
    const mid = (left + right) / 2 - first
    cells[base + first] += dy * (1 - mid)
    if (first + 1 < width) cells[base + first + 1] += dy * mid
    return
  }
  const perX = dy / (right - left)
  // Area to the right of the edge within the cells it crosses, as running sums.
  let done = 0
  for (let c = first; c < last; c++) {
    const a = Math.max(left, c)
    const b = Math.min(right, c + 1)
    const part = (b - a) * perX
    const mid = (a + b) / 2 - c
    const covered = part * (1 - mid)
    cells[base + c] += covered + done
    done = part * mid
  }
  if (last < width) cells[base + last] += done
}
