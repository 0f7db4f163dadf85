import type { GreyPicture } from './picture.ts'
import { encodedFromLinear, linearFromEncoded } from './tone.ts'

export interface ResampleOptions {
  /** The rectangle of the source that is used, in source pixels; may have fractions. Default: all. */
  readonly crop?: { readonly x: number; readonly y: number; readonly width: number; readonly height: number }
  /** Sample → encoded lightness 0–1 (see `toneTable`). Default: as it is. */
  readonly table?: Float32Array
  /** Average light, not code values. Default true. */
  readonly linear?: boolean
  /** Called now and then with the share done 0–1; may throw to cancel. */
  readonly progress?: (done: number) => void
}

/** Receives row `y` of the result: encoded lightness 0–1 a dot. The array is reused for the next row. */
export type RowSink = (y: number, row: Float32Array) => void

/** The rows of source pixels that one result row is made of, with their weights. */
interface Taps {
  readonly start: Int32Array
  readonly count: Int32Array
  readonly weights: Float32Array
  readonly width: number
}

/**
 * A picture at another pitch, row by row, so that a full bed never stands in memory twice.
 * Shrinking averages the area of each dot; enlarging uses Lanczos-3 (C. Duchon, J. Appl. Meteorology 18, 1979).
 * Transparent pixels count as paper white.
 * @param columns dots across @param rows dots down
 */
export function resampleRows(
  source: GreyPicture,
  columns: number,
  rows: number,
  sink: RowSink,
  options: ResampleOptions = {},
): void {
  if (!(columns >= 1 && rows >= 1)) throw new RangeError(`A picture needs at least one dot each way, not ${columns} × ${rows}.`)
  const { crop = { x: 0, y: 0, width: source.widthPx, height: source.heightPx }, linear = true } = options
  const light = lightTable(source.full, options.table, linear)
  const across = taps(columns, crop.x, crop.width, source.widthPx)
  const down = taps(rows, crop.y, crop.height, source.heightPx)
  const encode = linear ? encodeTable() : undefined
  // Each source row is brought to the columns wanted once, and kept for as long as result rows need it.
  const kept = new Map<number, Float32Array>()
  const spare: Float32Array[] = []
  const wide = new Float32Array(source.widthPx)
  const out = new Float32Array(columns)
  const horizontal = (sy: number): Float32Array => {
    const known = kept.get(sy)
    if (known) return known
    const row = spare.pop() ?? new Float32Array(columns)
    readRow(source, sy, light, wide)
    stretch(wide, across, row)
    kept.set(sy, row)
    return row
  }
  for (let y = 0; y < rows; y++) {
    const first = down.start[y]
    const count = down.count[y]
    out.fill(0)
    for (let k = 0; k < count; k++) {
      const row = horizontal(first + k)
      const weight = down.weights[y * down.width + k]
      for (let x = 0; x < columns; x++) out[x] += row[x] * weight
    }
    const nextFirst = y + 1 < rows ? down.start[y + 1] : Infinity
    for (const [sy, row] of kept) {
      if (sy >= nextFirst) break
      kept.delete(sy)
      spare.push(row)
    }
    if (encode) {
      for (let x = 0; x < columns; x++) {
        const v = out[x]
        out[x] = v <= 0 ? 0 : v >= 1 ? 1 : encode[(v * ENCODE_STEPS + 0.5) | 0]
      }
    } else for (let x = 0; x < columns; x++) out[x] = out[x] < 0 ? 0 : out[x] > 1 ? 1 : out[x]
    sink(y, out)
    if (options.progress && (y & 63) === 0) options.progress(y / rows)
  }
}

const ENCODE_STEPS = 1 << 14
let encodeCache: Float32Array | undefined
function encodeTable(): Float32Array {
  if (!encodeCache) {
    encodeCache = new Float32Array(ENCODE_STEPS + 1)
    for (let i = 0; i <= ENCODE_STEPS; i++) encodeCache[i] = encodedFromLinear(i / ENCODE_STEPS)
  }
  return encodeCache
}

function lightTable(full: number, table: Float32Array | undefined, linear: boolean): Float32Array {
  const out = new Float32Array(full + 1)
  for (let i = 0; i <= full; i++) {
    const v = table ? table[i] : i / full
    out[i] = linear ? linearFromEncoded(v) : v
  }
  return out
}

function readRow(source: GreyPicture, y: number, light: Float32Array, wide: Float32Array): void {
  const { widthPx, samples, alpha } = source
  const base = y * widthPx
  if (!alpha) {
    for (let x = 0; x < widthPx; x++) wide[x] = light[samples[base + x]]
    return
  }
  for (let x = 0; x < widthPx; x++) {
    const a = alpha[base + x] / 255
    wide[x] = light[samples[base + x]] * a + 1 - a
  }
}

function stretch(wide: Float32Array, { start, count, weights, width }: Taps, row: Float32Array): void {
  for (let x = 0; x < row.length; x++) {
    let sum = 0
    const s = start[x]
    const w = x * width
    for (let k = 0; k < count[x]; k++) sum += wide[s + k] * weights[w + k]
    row[x] = sum
  }
}

const sinc = (x: number): number => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x))
const lanczos3 = (x: number): number => (Math.abs(x) < 3 ? sinc(x) * sinc(x / 3) : 0)

function taps(n: number, from: number, span: number, size: number): Taps {
  const scale = span / n
  const shrink = scale >= 1
  const width = shrink ? Math.ceil(scale) + 1 : 6
  const start = new Int32Array(n)
  const count = new Int32Array(n)
  const weights = new Float32Array(n * width)
  for (let i = 0; i < n; i++) {
    const a = from + i * scale
    let lo: number
    let hi: number
    if (shrink) {
      lo = Math.max(0, Math.floor(a + 1e-9))
      hi = Math.min(size, Math.ceil(a + scale - 1e-9))
    } else {
      const centre = a + scale / 2 - 0.5
      lo = Math.max(0, Math.floor(centre) - 2)
      hi = Math.min(size, Math.floor(centre) + 4)
    }
    if (hi <= lo) {
      lo = Math.min(Math.max(0, lo), size - 1)
      hi = lo + 1
    }
    start[i] = lo
    count[i] = hi - lo
    let sum = 0
    for (let k = 0; k < hi - lo; k++) {
      const weight = shrink
        ? Math.max(0, Math.min(a + scale, lo + k + 1) - Math.max(a, lo + k))
        : lanczos3(lo + k + 0.5 - (a + scale / 2))
      weights[i * width + k] = weight
      sum += weight
    }
    if (sum === 0) weights[i * width] = sum = 1
    for (let k = 0; k < hi - lo; k++) weights[i * width + k] /= sum
  }
  return { start, count, weights, width }
}
