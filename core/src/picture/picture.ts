import { type GreyWeights, LUMA } from './steps.ts'

/**
 * A decoded picture: one grey sample a pixel, row by row, and its transparency where it has any.
 * Grey is encoded lightness (as stored in the file, sRGB-like), 0 black to `full` white.
 */
export interface GreyPicture {
  readonly widthPx: number
  readonly heightPx: number
  readonly samples: Uint8Array | Uint16Array
  /** The sample that means white: 255 or 65535. */
  readonly full: number
  /** Opacity 0–255 a pixel; absent when every pixel is opaque. */
  readonly alpha?: Uint8Array
}

/** Interleaved samples as a decoder gives them: 1 grey, 2 grey + alpha, 3 RGB, 4 RGBA. */
export interface RawPicture {
  readonly widthPx: number
  readonly heightPx: number
  readonly channels: 1 | 2 | 3 | 4
  readonly samples: Uint8Array | Uint16Array
  readonly full: number
}

/**
 * Grey by weights of the encoded values, the luma of ITU-R BT.709 where nothing else is asked. Alpha is kept as 8 bit,
 * dropped where all is opaque.
 */
export function toGrey(raw: RawPicture, weights: GreyWeights = LUMA): GreyPicture {
  const { widthPx, heightPx, channels, samples, full } = raw
  const n = widthPx * heightPx
  if (samples.length < n * channels)
    throw new RangeError(
      `A picture of ${widthPx} × ${heightPx} px with ${channels} channels needs ${n * channels} samples, not ${samples.length}.`,
    )
  const grey = full === 255 ? new Uint8Array(n) : new Uint16Array(n)
  if (channels === 1) grey.set(samples.subarray(0, n))
  else if (channels === 2) for (let i = 0; i < n; i++) grey[i] = samples[2 * i]
  else {
    const sum = weights.r + weights.g + weights.b
    const r = weights.r / sum
    const g = weights.g / sum
    const b = weights.b / sum
    for (let i = 0, s = 0; i < n; i++, s += channels) grey[i] = r * samples[s] + g * samples[s + 1] + b * samples[s + 2] + 0.5
  }
  const alpha = channels === 2 || channels === 4 ? opacity(samples, channels, n, full) : undefined
  return { widthPx, heightPx, samples: grey, full, alpha }
}

function opacity(samples: Uint8Array | Uint16Array, channels: number, n: number, full: number): Uint8Array | undefined {
  const alpha = new Uint8Array(n)
  const shift = full === 255 ? 0 : 8
  let opaque = true
  for (let i = 0, s = channels - 1; i < n; i++, s += channels) {
    const a = samples[s] >> shift
    alpha[i] = a
    if (a !== 255) opaque = false
  }
  return opaque ? undefined : alpha
}

/** One row of a picture turned by a multiple of 90° or mirrored lies elsewhere; see `orient`. EXIF orientation 1–8. */
export function orient(raw: RawPicture, orientation: number): RawPicture {
  if (orientation <= 1 || orientation > 8) return raw
  const { widthPx: w, heightPx: h, channels: c, samples } = raw
  const swap = orientation >= 5
  const W = swap ? h : w
  const H = swap ? w : h
  const out = samples instanceof Uint8Array ? new Uint8Array(samples.length) : new Uint16Array(samples.length)
  for (let y = 0; y < H; y++) {
    for (let x = 0; x < W; x++) {
      const u = swap ? y : x
      const v = swap ? x : y
      const sx = orientation === 2 || orientation === 3 || orientation === 7 || orientation === 8 ? w - 1 - u : u
      const sy = orientation === 3 || orientation === 4 || orientation === 6 || orientation === 7 ? h - 1 - v : v
      const from = (sy * w + sx) * c
      const to = (y * W + x) * c
      for (let k = 0; k < c; k++) out[to + k] = samples[from + k]
    }
  }
  return { ...raw, widthPx: W, heightPx: H, samples: out }
}
