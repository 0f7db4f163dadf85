import type { Ring } from '../geometry/ring.ts'
import type { GreyPicture } from '../picture/picture.ts'

/** A rectangle, in the units of what it was found in. */
export interface HardPatch {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** The picture is looked at in cells: so many along its longer side. */
const CELLS = 160

/** Sums over rectangles from a grid, by a table of sums. */
function summed(values: Float64Array, w: number, h: number): (x: number, y: number, wide: number, high: number) => number {
  const table = new Float64Array((w + 1) * (h + 1))
  for (let y = 0; y < h; y++) {
    let row = 0
    for (let x = 0; x < w; x++) {
      row += values[y * w + x]
      table[(y + 1) * (w + 1) + x + 1] = table[y * (w + 1) + x + 1] + row
    }
  }
  return (x, y, wide, high) =>
    table[(y + high) * (w + 1) + x + wide] -
    table[y * (w + 1) + x + wide] -
    table[(y + high) * (w + 1) + x] +
    table[y * (w + 1) + x]
}

/** The window of a grid in which a sum is largest: the first such from the top left. */
function largest(values: Float64Array, w: number, h: number, wide: number, high: number): { x: number; y: number } {
  const sum = summed(values, w, h)
  let best = { x: 0, y: 0, sum: -1 }
  for (let y = 0; y + high <= h; y++)
    for (let x = 0; x + wide <= w; x++) {
      const here = sum(x, y, wide, high)
      if (here > best.sum * (1 + 1e-9)) best = { x, y, sum: here }
    }
  return best
}

/**
 * The patch of a picture that is the hardest to burn well: where its tones change most from pixel to pixel, and are neither white nor
 * black: fine detail in the middle tones shows first what settings get wrong.
 * @param width,height of the patch, px @returns its corner, px; the whole picture where that is no larger
 */
export function hardestOfPicture(
  { widthPx: w, heightPx: h, samples, full, alpha }: GreyPicture,
  width: number,
  height: number,
): HardPatch {
  const [pw, ph] = [Math.min(w, Math.max(1, Math.round(width))), Math.min(h, Math.max(1, Math.round(height)))]
  const side = Math.max(1, Math.ceil(Math.max(w, h) / CELLS))
  const [columns, rows] = [Math.ceil(w / side), Math.ceil(h / side)]
  const hard = new Float64Array(columns * rows)
  for (let y = 1; y < h; y++)
    for (let x = 1; x < w; x++) {
      const i = y * w + x
      if (alpha && alpha[i] === 0) continue
      const v = samples[i]
      const change = Math.abs(v - samples[i - 1]) + Math.abs(v - samples[i - w])
      const middle = 1 - Math.abs((2 * v) / full - 1)
      hard[Math.floor(y / side) * columns + Math.floor(x / side)] += (change / full) * (0.4 + middle) + 0.02 * middle
    }
  const [wide, high] = [Math.max(1, Math.floor(pw / side)), Math.max(1, Math.floor(ph / side))]
  const { x, y } = largest(hard, columns, rows, Math.min(wide, columns), Math.min(high, rows))
  return { x: Math.min(w - pw, x * side), y: Math.min(h - ph, y * side), width: pw, height: ph }
}

/** Ways shorter than this turn the beam faster than it likes, mm. */
const FINE_MM = 1

/**
 * The patch of lines and edges that is the hardest to follow: with the most turning on the shortest ways, and the most line.
 * @param lines polylines, x, y in turn, mm @returns undefined where there are none
 */
export function hardestOfLines(lines: readonly Ring[], widthMm: number, heightMm: number): HardPatch | undefined {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const line of lines)
    for (let i = 0; i < line.length; i += 2) {
      x0 = Math.min(x0, line[i])
      x1 = Math.max(x1, line[i])
      y0 = Math.min(y0, line[i + 1])
      y1 = Math.max(y1, line[i + 1])
    }
  if (!(x1 >= x0)) return undefined
  const [wide, high] = [Math.min(widthMm, Math.max(0.1, x1 - x0)), Math.min(heightMm, Math.max(0.1, y1 - y0))]
  const side = Math.max(wide, high) / 20
  const [columns, rows] = [Math.max(1, Math.ceil((x1 - x0) / side)), Math.max(1, Math.ceil((y1 - y0) / side))]
  const hard = new Float64Array(columns * rows)
  const put = (x: number, y: number, amount: number): void => {
    const [c, r] = [Math.min(columns - 1, Math.floor((x - x0) / side)), Math.min(rows - 1, Math.floor((y - y0) / side))]
    hard[r * columns + c] += amount
  }
  for (const line of lines)
    for (let i = 2; i < line.length; i += 2) {
      const [dx, dy] = [line[i] - line[i - 2], line[i + 1] - line[i - 1]]
      const long = Math.hypot(dx, dy)
      const steps = Math.max(1, Math.ceil(long / side))
      for (let k = 0; k < steps; k++)
        put(line[i - 2] + (dx * (k + 0.5)) / steps, line[i - 1] + (dy * (k + 0.5)) / steps, long / steps)
      if (i + 2 >= line.length) continue
      const [ex, ey] = [line[i + 2] - line[i], line[i + 3] - line[i + 1]]
      const turn = Math.abs(Math.atan2(dx * ey - dy * ex, dx * ex + dy * ey))
      const short = FINE_MM / (FINE_MM + Math.min(long, Math.hypot(ex, ey)))
      put(line[i], line[i + 1], 4 * turn * short)
    }
  const { x, y } = largest(hard, columns, rows, Math.min(columns, Math.ceil(wide / side)), Math.min(rows, Math.ceil(high / side)))
  return { x: Math.min(x1 - wide, x0 + x * side), y: Math.min(y1 - high, y0 + y * side), width: wide, height: high }
}
