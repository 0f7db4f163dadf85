import { chained, type Homography } from '../geometry/homography.ts'
import { type Affine, composed, inverseOf, moving, quarterTurns, scaling, turning } from '../space/affine.ts'
import type { Size } from '../space/pose.ts'
import { type Framed, quarterFrame } from './framing.ts'

/** How a turned picture is sampled: straight from its pixels to the dots of the field that it is burned in. */
export interface Turned {
  /** The picture as it stands upright. */
  readonly of: Framed
  /** Its dots when it stands upright: what masks are made on. */
  readonly columns: number
  readonly rows: number
  /** From dots of the field, corners on whole numbers, to pixels of the upright window, and to its dots. */
  readonly toPixels: Affine
  readonly toUpright: Affine
  /** Where it is bent too: a place among the dots of the field as it would lie if it were not. */
  readonly unbent?: (u: number, v: number) => readonly [number, number]
}

/**
 * A framed picture turned about its middle in a field of dots. Quarter turns move pixels and change none; any other angle
 * is a map that is used once, where the picture is sampled.
 * @param size of the picture as it stands upright, mm @param field how it is turned, degrees, and the dots around it
 */
export function turnedFrame(
  framed: Framed,
  { widthMm, heightMm }: Size,
  {
    deg,
    columns,
    rows,
    pitch,
  }: { readonly deg: number; readonly columns: number; readonly rows: number; readonly pitch: number },
): Framed {
  const quarter = quarterTurns(deg)
  if (quarter !== undefined) return quarterFrame(framed, quarter)
  // Dots from the field's middle, back to upright, as mm from the picture's corner.
  const toMm = [moving(-columns / 2, -rows / 2), scaling(pitch, pitch), turning(-deg), moving(widthMm / 2, heightMm / 2)].reduce(
    composed,
  )
  return bentFrame(framed, { widthMm, heightMm }, { columns, rows, pitch }, toMm, undefined)
}

/**
 * A framed picture in a field of dots, wherever its map leads.
 * @param toMm from the dots of the field to mm from the picture's corner @param unbent what comes before that, see {@link Turned}
 */
export function bentFrame(
  framed: Framed,
  { widthMm, heightMm }: Size,
  { columns, rows, pitch }: { readonly columns: number; readonly rows: number; readonly pitch: number },
  toMm: Affine,
  unbent: Turned['unbent'],
): Framed {
  const { window } = framed
  const [uprightColumns, uprightRows] = [widthMm, heightMm].map((mm) => Math.max(1, Math.round(mm / pitch)))
  const toPixels = composed(toMm, scaling(window.width / widthMm, window.height / heightMm))
  const toUpright = composed(toMm, scaling(uprightColumns / widthMm, uprightRows / heightMm))
  return {
    picture: framed.picture,
    window: { x: 0, y: 0, width: columns, height: rows },
    toFrame: chained(framed.toFrame, homographyOf(inverseOf(toPixels))),
    turned: { of: framed, columns: uprightColumns, rows: uprightRows, toPixels, toUpright, ...(unbent && { unbent }) },
  }
}

const homographyOf = ([a, b, c, d, e, f]: Affine): Homography => [a, c, e, b, d, f, 0, 0, 1]

/** Marks of a turned picture and how much of each dot it covers, 0–1. */
export interface TurnedMarks {
  readonly marks: Float32Array
  readonly seen: Float32Array
}

/** Dots are looked at in so many places a side at most. */
const MOST_SIDE = 12

const sinc = (x: number): number => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x))
const lanczos3 = (x: number): number => (x > -3 && x < 3 ? sinc(x) * sinc(x / 3) : 0)

/** Lanczos-3 weights for places between pixels, in steps of 1/64. */
const LANCZOS = Float32Array.from({ length: 65 * 6 }, (_, i) => lanczos3((i % 6) - 2 - Math.floor(i / 6) / 64))

/**
 * A turned picture's marks at dot pitch, sampled once: where a dot covers more than a pixel, the mean over the dot's own
 * turned square; where it covers less, Lanczos-3 (C. Duchon, J. Appl. Meteorology 18, 1979).
 * @param table sample → mark 0–1
 */
export function sampleTurned(
  { of, toPixels, unbent }: Turned,
  table: Float32Array,
  columns: number,
  rows: number,
  progress?: (done: number) => void,
): TurnedMarks {
  const [a, b, c, d, e, f] = toPixels
  const side = Math.max(Math.hypot(a, b), Math.hypot(c, d))
  const marks = new Float32Array(columns * rows)
  const seen = new Float32Array(columns * rows)
  const fine = side <= 1
  const places = fine ? 1 : Math.min(MOST_SIDE, Math.max(2, Math.ceil(side)))
  // Half a pixel inside its edge the picture is whole; edges are as soft as a dot, or a pixel where that is larger.
  const soft = 1 / Math.max(1, fine ? side : side / places)
  const { window } = of
  const right = window.width
  const bottom = window.height
  for (let y = 0, i = 0; y < rows; y++) {
    if (progress && (y & 31) === 0) progress(y / rows)
    for (let x = 0; x < columns; x++, i++) {
      let sum = 0
      let cover = 0
      for (let q = 0; q < places; q++) {
        const v0 = y + (q + 0.5) / places
        for (let p = 0; p < places; p++) {
          let u0 = x + (p + 0.5) / places
          let w0 = v0
          if (unbent) [u0, w0] = unbent(u0, v0)
          const u = e + a * u0 + c * w0
          const v = f + d * w0 + b * u0
          const inside = within(u, right, soft) * within(v, bottom, soft)
          if (inside <= 0) continue
          const alpha = fine ? lanczosAt(of, table, u, v) : linearAt(of, table, u, v)
          sum += inside * alpha * OUT.mark
          cover += inside * alpha
        }
      }
      const n = places * places
      marks[i] = sum / n
      seen[i] = cover / n
    }
  }
  return { marks, seen }
}

/** How much of a place lies within a length, by its distance from both ends. */
const within = (at: number, length: number, soft: number): number =>
  Math.max(0, Math.min(1, at * soft + 0.5, (length - at) * soft + 0.5))

/** The mark that was read last, of what is opaque there. */
const OUT = { mark: 0 }

/** Mark between four pixels, in {@link OUT}. @returns its opacity 0–1 */
function linearAt({ picture, window }: Framed, table: Float32Array, u: number, v: number): number {
  const { widthPx: w, heightPx: h, samples, alpha } = picture
  const fx = u + window.x - 0.5
  const fy = v + window.y - 0.5
  const x0 = Math.floor(fx)
  const y0 = Math.floor(fy)
  const tx = fx - x0
  const ty = fy - y0
  const xa = x0 < 0 ? 0 : x0 >= w ? w - 1 : x0
  const xb = x0 + 1 < 0 ? 0 : x0 + 1 >= w ? w - 1 : x0 + 1
  const ya = (y0 < 0 ? 0 : y0 >= h ? h - 1 : y0) * w
  const yb = (y0 + 1 < 0 ? 0 : y0 + 1 >= h ? h - 1 : y0 + 1) * w
  const w00 = (1 - tx) * (1 - ty)
  const w10 = tx * (1 - ty)
  const w01 = (1 - tx) * ty
  const w11 = tx * ty
  if (!alpha) {
    OUT.mark =
      w00 * table[samples[ya + xa]] +
      w10 * table[samples[ya + xb]] +
      w01 * table[samples[yb + xa]] +
      w11 * table[samples[yb + xb]]
    return 1
  }
  const a00 = (w00 * alpha[ya + xa]) / 255
  const a10 = (w10 * alpha[ya + xb]) / 255
  const a01 = (w01 * alpha[yb + xa]) / 255
  const a11 = (w11 * alpha[yb + xb]) / 255
  const through = a00 + a10 + a01 + a11
  const sum =
    a00 * table[samples[ya + xa]] + a10 * table[samples[ya + xb]] + a01 * table[samples[yb + xa]] + a11 * table[samples[yb + xb]]
  OUT.mark = through > 0 ? sum / through : 0
  return through
}

/** Mark among six by six pixels, in {@link OUT}. @returns its opacity 0–1 */
function lanczosAt({ picture, window }: Framed, table: Float32Array, u: number, v: number): number {
  const { widthPx: w, heightPx: h, samples, alpha } = picture
  const fx = u + window.x - 0.5
  const fy = v + window.y - 0.5
  const x0 = Math.floor(fx)
  const y0 = Math.floor(fy)
  const wx = 6 * Math.round((fx - x0) * 64)
  const wy = 6 * Math.round((fy - y0) * 64)
  let sum = 0
  let through = 0
  let all = 0
  for (let k = 0; k < 6; k++) {
    const sy = y0 - 2 + k
    if (sy < 0 || sy >= h) continue
    const weightY = LANCZOS[wy + k]
    const row = sy * w
    for (let j = 0; j < 6; j++) {
      const sx = x0 - 2 + j
      if (sx < 0 || sx >= w) continue
      const weight = weightY * LANCZOS[wx + j]
      const opacity = alpha ? (weight * alpha[row + sx]) / 255 : weight
      sum += opacity * table[samples[row + sx]]
      through += opacity
      all += weight
    }
  }
  if (!(all > 0) || !(through > 0)) {
    OUT.mark = 0
    return 0
  }
  OUT.mark = Math.min(1, Math.max(0, sum / through))
  return Math.min(1, through / all)
}

/** A plane of the upright picture at dot pitch, such as a mask, in the dots of the field: between four of its dots. */
export function turnedPlane(
  { columns, rows, toUpright, unbent }: Turned,
  plane: Uint8Array,
  width: number,
  height: number,
): Uint8Array {
  const [a, b, c, d, e, f] = toUpright
  const out = new Uint8Array(width * height)
  const at = (x: number, y: number): number => (x < 0 || y < 0 || x >= columns || y >= rows ? 0 : plane[y * columns + x])
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const [u0, v0] = unbent ? unbent(x + 0.5, y + 0.5) : [x + 0.5, y + 0.5]
      const u = e + a * u0 + c * v0 - 0.5
      const v = f + d * v0 + b * u0 - 0.5
      const x0 = Math.floor(u)
      const y0 = Math.floor(v)
      if (x0 < -1 || y0 < -1 || x0 >= columns || y0 >= rows) continue
      const tx = u - x0
      const ty = v - y0
      const top = at(x0, y0) * (1 - tx) + at(x0 + 1, y0) * tx
      const low = at(x0, y0 + 1) * (1 - tx) + at(x0 + 1, y0 + 1) * tx
      out[i] = top * (1 - ty) + low * ty + 0.5
    }
  }
  return out
}
