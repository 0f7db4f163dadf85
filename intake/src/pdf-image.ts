import type { RawPicture } from '@neotaxis/core'

/** A picture as the reader hands it over. */
export interface Image {
  readonly width: number
  readonly height: number
  /** 1: grey of 1 bit, 2: RGB, 3: RGBA. */
  readonly kind: number
  readonly data?: Uint8Array | Uint8ClampedArray
}

/** The pixels of a picture; undefined where it is kept in a way that is not known. */
export function rawOf({ width, height, kind, data }: Image): RawPicture | undefined {
  if (!data || !(width > 0 && height > 0)) return undefined
  const n = width * height
  if (kind === 2 && data.length >= 3 * n)
    return { widthPx: width, heightPx: height, channels: 3, samples: Uint8Array.from(data.subarray(0, 3 * n)), full: 255 }
  if (kind === 3 && data.length >= 4 * n)
    return { widthPx: width, heightPx: height, channels: 4, samples: Uint8Array.from(data.subarray(0, 4 * n)), full: 255 }
  if (kind !== 1) return undefined
  const stride = (width + 7) >> 3
  const samples = Uint8Array.from({ length: n }, (_, i) =>
    (data[Math.floor(i / width) * stride + ((i % width) >> 3)] >> (7 - ((i % width) & 7))) & 1 ? 255 : 0,
  )
  return { widthPx: width, heightPx: height, channels: 1, samples, full: 255 }
}
