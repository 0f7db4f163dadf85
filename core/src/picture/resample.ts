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

/** What of a line of samples one result is made of: a stretch from `start`, with its weights. */
interface Taps {
  readonly start: Int32Array
  readonly count: Int32Array
  /** `width` weights for every result, unused ones 0. */
  readonly weights: Float32Array
  readonly width: number
}

/**
 * A picture at another pitch, row by row, so that a full bed never stands in memory twice.
 * Shrinking averages the area of each dot; enlarging uses Lanczos-3 (C. Duchon, J. Appl. Meteorology 18, 1979); each
 * way on its own. Transparent pixels count as paper white.
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
  const encode = linear ? encodeTable() : undefined
  const out = new Float32Array(columns)
  const give = (y: number): void => {
    if (encode) for (let x = 0; x < columns; x++) out[x] = encode[(Math.min(1, Math.max(0, out[x])) * ENCODE_STEPS + 0.5) | 0]
    else for (let x = 0; x < columns; x++) out[x] = out[x] < 0 ? 0 : out[x] > 1 ? 1 : out[x]
    sink(y, out)
    if (options.progress && (y & 63) === 0) options.progress(y / rows)
  }
  const across =
    columns <= crop.width
      ? areaAcross(columns, crop.x, crop.width, source.widthPx)
      : lanczosAcross(columns, crop.x, crop.width, source.widthPx)
  if (rows <= crop.height) {
    averageDown(source, light, rows, crop.y, crop.height, (y, wide) => {
      across(wide, out)
      give(y)
    })
    return
  }
  const down = taps(rows, crop.y, crop.height, source.heightPx)
  const kept = new Map<number, Float32Array>()
  const wide = new Float32Array(source.widthPx)
  const narrow = (sy: number): Float32Array => {
    let row = kept.get(sy)
    if (!row) {
      row = new Float32Array(columns)
      wide.fill(0)
      addRow(source, light, sy, 1, wide, undefined, 0)
      across(wide, row)
      kept.set(sy, row)
      if (kept.size > 8) kept.delete(kept.keys().next().value!)
    }
    return row
  }
  for (let y = 0; y < rows; y++) {
    const first = down.start[y]
    const last = first + down.count[y] - 1
    const [r0, r1, r2, r3, r4, r5] = [0, 1, 2, 3, 4, 5].map((k) => narrow(Math.min(last, first + k)))
    const w = y * down.width
    const [w0, w1, w2, w3, w4, w5] = down.weights.subarray(w, w + 6)
    for (let x = 0; x < columns; x++) out[x] = r0[x] * w0 + r1[x] * w1 + r2[x] * w2 + r3[x] * w3 + r4[x] * w4 + r5[x] * w5
    give(y)
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

/**
 * Area average down the columns: every source row is turned to light once, and given to the one or two result rows
 * that share it. @param give takes a finished row, still at the source's width
 */
function averageDown(
  source: GreyPicture,
  light: Float32Array,
  rows: number,
  from: number,
  span: number,
  give: (y: number, wide: Float32Array) => void,
): void {
  const scale = span / rows
  let now = new Float32Array(source.widthPx)
  let next = new Float32Array(source.widthPx)
  let y = 0
  const last = Math.min(source.heightPx, Math.ceil(from + span - 1e-9))
  for (let sy = Math.max(0, Math.floor(from + 1e-9)); sy < last; sy++) {
    const border = y === rows - 1 ? Infinity : from + (y + 1) * scale
    const top = Math.max(sy, from + y * scale)
    const bottom = Math.min(sy + 1, from + span)
    if (bottom < border - 1e-9) {
      addRow(source, light, sy, (bottom - top) / scale, now, undefined, 0)
      continue
    }
    addRow(source, light, sy, (Math.min(bottom, border) - top) / scale, now, next, Math.max(0, bottom - border) / scale)
    give(y++, now)
    const done = now
    now = next
    next = done
  }
  if (y < rows) give(y, now)
}

/** Adds a source row's light to `now`, and begins `next` with it where that is given. */
function addRow(
  source: GreyPicture,
  light: Float32Array,
  sy: number,
  weight: number,
  now: Float32Array,
  next: Float32Array | undefined,
  nextWeight: number,
): void {
  const { widthPx: n, samples, alpha } = source
  const base = sy * n
  if (alpha) {
    if (next) next.fill(0)
    addSeeThrough(samples, alpha, light, base, n, weight, now)
    if (next) addSeeThrough(samples, alpha, light, base, n, nextWeight, next)
  } else if (samples instanceof Uint8Array) {
    if (next) splitRow8(samples, light, base, n, weight, now, nextWeight, next)
    else addRow8(samples, light, base, n, weight, now)
  } else {
    if (next) next.fill(0)
    addRow16(samples, light, base, n, weight, now)
    if (next) addRow16(samples, light, base, n, nextWeight, next)
  }
}

function addSeeThrough(
  samples: Uint8Array | Uint16Array,
  alpha: Uint8Array,
  light: Float32Array,
  base: number,
  n: number,
  weight: number,
  wide: Float32Array,
): void {
  for (let x = 0; x < n; x++) {
    const a = alpha[base + x] / 255
    wide[x] += (light[samples[base + x]] * a + 1 - a) * weight
  }
}

// Loops for one kind of array each, which keeps them quick.
function addRow8(samples: Uint8Array, light: Float32Array, base: number, n: number, weight: number, wide: Float32Array): void {
  for (let x = 0; x < n; x++) wide[x] += light[samples[base + x]] * weight
}

function splitRow8(
  samples: Uint8Array,
  light: Float32Array,
  base: number,
  n: number,
  weight: number,
  now: Float32Array,
  nextWeight: number,
  next: Float32Array,
): void {
  for (let x = 0; x < n; x++) {
    const v = light[samples[base + x]]
    now[x] += v * weight
    next[x] = v * nextWeight
  }
}

function addRow16(samples: Uint16Array, light: Float32Array, base: number, n: number, weight: number, wide: Float32Array): void {
  for (let x = 0; x < n; x++) wide[x] += light[samples[base + x]] * weight
}

type Across = (wide: Float32Array, out: Float32Array) => void

/** Area average along a row by running sums: each result is the difference of the sum at its two borders. */
function areaAcross(columns: number, from: number, span: number, size: number): Across {
  const scale = span / columns
  const cells = new Int32Array(columns + 1)
  const parts = new Float64Array(columns + 1)
  for (let i = 0; i <= columns; i++) {
    const at = Math.min(size, Math.max(0, from + i * scale))
    cells[i] = Math.min(size - 1, Math.floor(at + 1e-9))
    parts[i] = Math.max(0, at - cells[i])
  }
  const share = 1 / scale
  const sums = new Float64Array(size + 1)
  return (wide, out) => {
    let sum = 0
    for (let i = 0; i < size; i++) {
      sum += wide[i]
      sums[i + 1] = sum
    }
    let before = sums[cells[0]] + wide[cells[0]] * parts[0]
    for (let i = 0; i < columns; i++) {
      const cell = cells[i + 1]
      const next = sums[cell] + wide[cell] * parts[i + 1]
      out[i] = (next - before) * share
      before = next
    }
  }
}

function lanczosAcross(columns: number, from: number, span: number, size: number): Across {
  const { start, count, weights } = taps(columns, from, span, size)
  return (wide, out) => {
    for (let x = 0, w = 0; x < columns; x++, w += 6) {
      const s = start[x]
      // At the sides fewer than six are there; the others weigh nothing.
      if (count[x] === 6) {
        out[x] =
          wide[s] * weights[w] +
          wide[s + 1] * weights[w + 1] +
          wide[s + 2] * weights[w + 2] +
          wide[s + 3] * weights[w + 3] +
          wide[s + 4] * weights[w + 4] +
          wide[s + 5] * weights[w + 5]
      } else {
        let sum = 0
        for (let k = 0; k < count[x]; k++) sum += wide[s + k] * weights[w + k]
        out[x] = sum
      }
    }
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
