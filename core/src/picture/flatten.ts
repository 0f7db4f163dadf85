import { gaussian } from './blur.ts'
import { type Plane, WHITE } from './plane.ts'

/** Cells across one radius. */
const FINE = 4
/** Share of a cell's pixels that are darker than its paper. */
const PAPER = 0.9

/**
 * Evens out the light on photographed paper: divides by an estimate of the paper. In cells of a quarter radius the light
 * end of the tones is taken for paper; a grey closing (P. Soille, Morphological Image Analysis, 2nd ed., 4.3) bridges what
 * is all ink; a Gaussian makes it as smooth as light falls.
 * @param radius dots: ink is thinner, shadows are wider @param darker share of a cell's pixels that are darker than its paper
 */
export function flatten(plane: Plane, radius: number, darker = PAPER): Uint16Array {
  const { width, height, tone, alpha } = plane
  const cell = Math.max(1, radius / FINE)
  const columns = Math.max(1, Math.ceil(width / cell))
  const rows = Math.max(1, Math.ceil(height / cell))
  const paper = new Float32Array(columns * rows)
  const counts = new Uint32Array(256)
  for (let r = 0; r < rows; r++) {
    const y0 = Math.floor((r * height) / rows)
    const y1 = Math.max(y0 + 1, Math.floor(((r + 1) * height) / rows))
    for (let c = 0; c < columns; c++) {
      const x0 = Math.floor((c * width) / columns)
      const x1 = Math.max(x0 + 1, Math.floor(((c + 1) * width) / columns))
      counts.fill(0)
      let n = 0
      for (let y = y0; y < y1; y++) {
        for (let i = y * width + x0; i < y * width + x1; i++) {
          if (alpha && alpha[i] < 128) continue
          counts[tone[i] >> 8]++
          n++
        }
      }
      paper[r * columns + c] = n === 0 ? 0 : lightEnd(counts, n, darker)
    }
  }
  const closed = closing(paper, columns, rows, FINE)
  gaussian(closed, columns, rows, FINE / 2)
  const out = new Uint16Array(tone.length)
  const light = new Float32Array(columns + 1)
  const cellOf = new Int32Array(width)
  const shareOf = new Float32Array(width)
  for (let x = 0; x < width; x++) {
    const fx = Math.min(columns - 1, Math.max(0, ((x + 0.5) * columns) / width - 0.5))
    cellOf[x] = Math.floor(fx)
    shareOf[x] = fx - cellOf[x]
  }
  for (let y = 0; y < height; y++) {
    const fy = Math.min(rows - 1, Math.max(0, ((y + 0.5) * rows) / height - 0.5))
    const above = Math.floor(fy) * columns
    const below = Math.min(rows - 1, Math.floor(fy) + 1) * columns
    const v = fy - Math.floor(fy)
    for (let c = 0; c < columns; c++) light[c] = closed[above + c] * (1 - v) + closed[below + c] * v
    light[columns] = light[columns - 1]
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const c = cellOf[x]
      const paper = light[c] + (light[c + 1] - light[c]) * shareOf[x]
      const even = paper > 0 ? (tone[i] / paper) * WHITE : tone[i]
      out[i] = even > WHITE ? WHITE : even + 0.5
    }
  }
  return out
}

/** A grey closing. Beyond its borders the light goes on as it came: borders are mirrored through their points. */
function closing(paper: Float32Array, columns: number, rows: number, reach: number): Float32Array {
  const w = columns + 2 * reach
  const h = rows + 2 * reach
  const at = (c: number, r: number): number => paper[r * columns + c]
  const wide = new Float32Array(w * h)
  const beyond = (k: number, n: number): readonly [inside: number, border: number, out: boolean] =>
    k < 0 ? [Math.min(n - 1, -k), 0, true] : k >= n ? [Math.max(0, 2 * n - 2 - k), n - 1, true] : [k, k, false]
  for (let y = 0; y < h; y++) {
    const [r, edgeR, outR] = beyond(y - reach, rows)
    for (let x = 0; x < w; x++) {
      const [c, edgeC, outC] = beyond(x - reach, columns)
      const v = outR || outC ? 2 * at(edgeC, edgeR) - at(outC ? c : edgeC, outR ? r : edgeR) : at(c, r)
      wide[y * w + x] = v
    }
  }
  const closed = narrowed(widened(wide, w, h, reach), w, h, reach)
  const out = new Float32Array(columns * rows)
  for (let r = 0; r < rows; r++) out.set(closed.subarray((r + reach) * w + reach, (r + reach) * w + reach + columns), r * columns)
  return out
}

/** The tone that a share of all is darker than, 0–65535. */
function lightEnd(counts: Uint32Array, n: number, darker: number): number {
  let sum = 0
  for (let v = 0; v < 256; v++) {
    sum += counts[v]
    if (sum >= darker * n) return v * 257
  }
  return WHITE
}

const extreme =
  (pick: (a: number, b: number) => number) =>
  (from: Float32Array, columns: number, rows: number, reach: number): Float32Array => {
    const across = new Float32Array(from.length)
    for (let r = 0; r < rows; r++) {
      for (let c = 0; c < columns; c++) {
        let v = from[r * columns + c]
        for (let k = Math.max(0, c - reach); k <= Math.min(columns - 1, c + reach); k++) v = pick(v, from[r * columns + k])
        across[r * columns + c] = v
      }
    }
    const out = new Float32Array(from.length)
    for (let r = 0; r < rows; r++) {
      for (let c = 0; c < columns; c++) {
        let v = across[r * columns + c]
        for (let k = Math.max(0, r - reach); k <= Math.min(rows - 1, r + reach); k++) v = pick(v, across[k * columns + c])
        out[r * columns + c] = v
      }
    }
    return out
  }

const widened = extreme(Math.max)
const narrowed = extreme(Math.min)
