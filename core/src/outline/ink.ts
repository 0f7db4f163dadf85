import type { GreyPicture } from '../picture/picture.ts'

/** Which part of the picture is traced: its darkness, or its opacity. */
export type Channel = 'grey' | 'alpha'

/**
 * How much ink every pixel holds, 0 paper to 255 ink, with a border of one empty pixel all around, so that nothing
 * needs to look where the picture ends. Transparent pixels hold no ink.
 */
export interface InkField {
  /** Width and height with the border. */
  readonly width: number
  readonly height: number
  readonly ink: Uint8Array
}

/** @param channel 'alpha' takes opacity as ink (a picture without transparency is ink all over) */
export function inkField(picture: GreyPicture, channel: Channel): InkField {
  const { widthPx, heightPx, samples, alpha, full } = picture
  const width = widthPx + 2
  const height = heightPx + 2
  const ink = new Uint8Array(width * height)
  const shift = full === 255 ? 0 : 8
  for (let y = 0; y < heightPx; y++) {
    const from = y * widthPx
    const to = (y + 1) * width + 1
    if (channel === 'alpha') {
      if (alpha) ink.set(alpha.subarray(from, from + widthPx), to)
      else ink.fill(255, to, to + widthPx)
    } else if (alpha) {
      for (let x = 0; x < widthPx; x++) ink[to + x] = ((255 - (samples[from + x] >> shift)) * alpha[from + x] + 127) / 255
    } else if (shift === 0) {
      for (let x = 0; x < widthPx; x++) ink[to + x] = 255 - samples[from + x]
    } else {
      for (let x = 0; x < widthPx; x++) ink[to + x] = 255 - (samples[from + x] >> 8)
    }
  }
  return { width, height, ink }
}
