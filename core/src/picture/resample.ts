import type { Arena, Kernel } from '../kernels/kernel.ts'
import type { GreyPicture } from './picture.ts'
import type { PictureKernel } from './picture-kernel.ts'

export interface ResampleOptions {
  /** The rectangle of the source that is used, in source pixels; may have fractions. Default: all. */
  readonly crop?: { readonly x: number; readonly y: number; readonly width: number; readonly height: number }
  /** Called now and then with the share done 0–1; may throw to cancel. */
  readonly progress?: (done: number) => void
}

/** Receives row `y` of the result: where in the kernel's memory its marks stand (f32, 0–1). They are there until the next row. */
export type RowSink = (y: number, at: number) => void

/** Room on both sides of a row, so that no neighbour of a sample lies outside: bytes. */
const SIDE = 32

/**
 * A picture's marks at another pitch, row by row, so that a full bed never stands in memory twice.
 * Shrinking averages the area of each dot; enlarging uses Lanczos-3 (C. Duchon, J. Appl. Meteorology 18, 1979); each
 * way on its own. What is averaged is the mark, which adds up by area as burned surface does
 * (`docs/decisions/0003-marks-are-averaged.md`). Transparent pixels take no mark.
 * @param table sample → mark 0–1 @param columns dots across @param rows dots down @param arena free memory of the kernel
 */
export function resampleMarks(
  { run, room }: Kernel<PictureKernel>,
  arena: Arena,
  source: GreyPicture,
  table: Float32Array,
  columns: number,
  rows: number,
  sink: RowSink,
  options: ResampleOptions = {},
): void {
  if (!(columns >= 1 && rows >= 1)) throw new RangeError(`A picture needs at least one dot each way, not ${columns} × ${rows}.`)
  const { widthPx, heightPx, samples, alpha } = source
  const { crop = { x: 0, y: 0, width: widthPx, height: heightPx }, progress } = options
  const wide = columns > crop.width
  const tall = rows > crop.height
  const row = (n: number): number => arena.take(4 * n + 2 * SIDE + 16) + SIDE
  const tableAt = arena.take(table.byteLength)
  const samplesAt = arena.take(widthPx * samples.BYTES_PER_ELEMENT)
  const alphaAt = alpha ? arena.take(widthPx) : 0
  const line = row(widthPx)
  const out = row(columns)
  const across = wide ? lanczosTaps(columns, crop.x, crop.width, widthPx) : averageCells(columns, crop.x, crop.width, widthPx)
  const a = arena.take(across.first.byteLength)
  const b = arena.take(across.second.byteLength)
  const sums = wide ? 0 : arena.take(8 * widthPx + 8)
  const kept = tall ? Array.from({ length: 8 }, () => row(columns)) : [row(widthPx), row(widthPx)]
  const six = arena.take(48)
  const memory = room(arena.bytes)
  memory.fill(0, tableAt, arena.bytes)
  memory.set(bytesOf(table), tableAt)
  memory.set(bytesOf(across.first), a)
  memory.set(bytesOf(across.second), b)
  const sampleBytes = bytesOf(samples)
  const deep = samples.BYTES_PER_ELEMENT === 2
  const sampleRow = widthPx * samples.BYTES_PER_ELEMENT

  /** Marks of a source row, at the source's width. */
  const read = (sy: number): void => {
    memory.set(sampleBytes.subarray(sy * sampleRow, (sy + 1) * sampleRow), samplesAt)
    if (alpha) memory.set(alpha.subarray(sy * widthPx, (sy + 1) * widthPx), alphaAt)
    if (deep) run.marks16(samplesAt, alphaAt, widthPx, tableAt, line)
    else run.marks8(samplesAt, alphaAt, widthPx, tableAt, line)
  }
  const narrow = (from: number, to: number): void => {
    if (wide) run.lanczosAcross(from, a, b, columns, to)
    else run.averageAcross(from, widthPx, sums, a, b, columns, columns / crop.width, to)
  }
  const give = (y: number): void => {
    if (progress && (y & 63) === 0) progress(y / rows)
    if (wide || tall) run.clamp(out, columns)
    sink(y, out)
  }
  if (tall) enlargeDown()
  else averageDown()

  /** Area average down the columns: every source row is given to the one or two result rows that share it. */
  function averageDown(): void {
    const scale = crop.height / rows
    let [now, next] = kept
    let y = 0
    const last = Math.min(heightPx, Math.ceil(crop.y + crop.height - 1e-9))
    for (let sy = Math.max(0, Math.floor(crop.y + 1e-9)); sy < last; sy++) {
      const border = y === rows - 1 ? Infinity : crop.y + (y + 1) * scale
      const top = Math.max(sy, crop.y + y * scale)
      const bottom = Math.min(sy + 1, crop.y + crop.height)
      read(sy)
      if (bottom < border - 1e-9) {
        run.addRow(line, widthPx, (bottom - top) / scale, now)
        continue
      }
      run.splitRow(line, widthPx, (Math.min(bottom, border) - top) / scale, now, Math.max(0, bottom - border) / scale, next)
      narrow(now, out)
      give(y++)
      const done = now
      now = next
      next = done
    }
    if (y < rows) {
      narrow(now, out)
      give(y)
    }
  }

  /** Lanczos down the columns: six narrowed source rows weighed for every result row. */
  function enlargeDown(): void {
    const down = lanczosWindow(rows, crop.y, crop.height, heightPx)
    const holds = new Int32Array(kept.length).fill(-1)
    const at = (sy: number): number => {
      const place = kept[sy & 7]
      if (holds[sy & 7] !== sy) {
        read(sy)
        narrow(line, place)
        holds[sy & 7] = sy
      }
      return place
    }
    const view = new DataView(memory.buffer)
    for (let y = 0; y < rows; y++) {
      for (let k = 0; k < 6; k++) {
        const sy = Math.min(down.last[y], down.start[y] + k)
        view.setInt32(six + 4 * k, at(sy), true)
        view.setFloat32(six + 24 + 4 * k, down.weights[6 * y + k], true)
      }
      run.sumSix(six, six + 24, columns, out)
      give(y)
    }
  }
}

const bytesOf = (array: ArrayBufferView): Uint8Array => new Uint8Array(array.buffer, array.byteOffset, array.byteLength)

interface Taps {
  readonly first: Int32Array
  readonly second: Float32Array | Float64Array
}

/** The sample that each of the columns + 1 borders lies in, and how far into it. */
function averageCells(columns: number, from: number, span: number, size: number): Taps {
  const scale = span / columns
  const first = new Int32Array(columns + 1)
  const second = new Float64Array(columns + 1)
  for (let i = 0; i <= columns; i++) {
    const at = Math.min(size, Math.max(0, from + i * scale))
    first[i] = Math.min(size - 1, Math.floor(at + 1e-9))
    second[i] = Math.max(0, at - first[i])
  }
  return { first, second }
}

const sinc = (x: number): number => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x))
const lanczos3 = (x: number): number => (Math.abs(x) < 3 ? sinc(x) * sinc(x / 3) : 0)

/** Which samples each result is made of, start…last (at most six), and how they are weighed; at the sides fewer. */
function lanczosWindow(n: number, from: number, span: number, size: number) {
  const scale = span / n
  const start = new Int32Array(n)
  const last = new Int32Array(n)
  const weights = new Float32Array(6 * n)
  for (let i = 0; i < n; i++) {
    const centre = from + (i + 0.5) * scale - 0.5
    start[i] = Math.min(size - 1, Math.max(0, Math.floor(centre) - 2))
    last[i] = Math.max(start[i], Math.min(size - 1, Math.floor(centre) + 3))
    let sum = 0
    for (let s = start[i]; s <= last[i]; s++) sum += lanczos3(s - centre)
    for (let s = start[i]; s <= last[i]; s++) weights[6 * i + s - start[i]] = sum === 0 ? 1 : lanczos3(s - centre) / sum
  }
  return { start, last, weights }
}

/** The window as the kernel reads it: a byte offset and eight weights a column. */
function lanczosTaps(columns: number, from: number, span: number, size: number): Taps {
  const { start, weights } = lanczosWindow(columns, from, span, size)
  const second = new Float32Array(8 * columns)
  for (let i = 0; i < columns; i++) second.set(weights.subarray(6 * i, 6 * i + 6), 8 * i)
  return { first: start.map((s) => 4 * s), second }
}
