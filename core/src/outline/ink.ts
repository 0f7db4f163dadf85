import type { GreyPicture } from '../picture/picture.ts'

/** Which part of the picture is traced: its darkness, or its opacity. */
export type Channel = 'grey' | 'alpha'

/** A picture whose darkness is another one's opacity; ink all over where that has no transparency. */
export function opacityAsInk({ widthPx, heightPx, alpha }: GreyPicture): GreyPicture {
  const samples = alpha ? alpha.map((a) => 255 - a) : new Uint8Array(widthPx * heightPx)
  return { widthPx, heightPx, samples, full: 255 }
}

/** Bytes from one row of a field of `widthPx` pixels to the next: with its border, a multiple of 16. */
export const fieldStride = (widthPx: number): number => (widthPx + 2 + 15) & ~15

/**
 * Writes how light every pixel is, 255 paper to 0 ink, with a border of paper all around, so that nothing needs to
 * look where the picture ends. Transparent pixels hold no ink.
 * @param light `fieldStride × (height + 2)` bytes @param channel 'alpha' takes opacity as ink (a picture without
 * transparency is ink all over)
 */
export function writeLight(picture: GreyPicture, channel: Channel, light: Uint8Array): void {
  const { widthPx, heightPx, samples, alpha, full } = picture
  const stride = fieldStride(widthPx)
  light.fill(255, 0, stride)
  light.fill(255, (heightPx + 1) * stride, (heightPx + 2) * stride)
  const shift = full === 255 ? 0 : 8
  for (let y = 0; y < heightPx; y++) {
    const from = y * widthPx
    const row = (y + 1) * stride
    const to = row + 1
    light[row] = 255
    light.fill(255, to + widthPx, row + stride)
    if (channel === 'alpha') {
      if (alpha) for (let x = 0; x < widthPx; x++) light[to + x] = 255 - alpha[from + x]
      else light.fill(0, to, to + widthPx)
    } else if (alpha) {
      for (let x = 0; x < widthPx; x++) light[to + x] = 255 - ((255 - (samples[from + x] >> shift)) * alpha[from + x] + 127) / 255
    } else if (samples instanceof Uint8Array) {
      light.set(samples.subarray(from, from + widthPx), to)
    } else {
      for (let x = 0; x < widthPx; x++) light[to + x] = samples[from + x] >> 8
    }
  }
}
