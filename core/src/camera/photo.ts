import type { GreyPicture, RawPicture } from '../picture/picture.ts'

/** A photo as its camera took it: red, green, blue and opacity of each pixel. */
export interface Photo {
  readonly widthPx: number
  readonly heightPx: number
  readonly rgba: Uint8Array | Uint8ClampedArray
}

/** A picture of any kind as a photo. */
export function photoOf({ widthPx, heightPx, channels, samples, full }: RawPicture): Photo {
  const n = widthPx * heightPx
  if (channels === 4 && full === 255) return { widthPx, heightPx, rgba: samples as Uint8Array }
  const rgba = new Uint8ClampedArray(4 * n)
  const colours = channels >= 3
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < 3; k++) rgba[4 * i + k] = (samples[i * channels + (colours ? k : 0)] * 255) / full
    rgba[4 * i + 3] = 255
  }
  return { widthPx, heightPx, rgba }
}

/** How light a photo is, by the luma of ITU-R BT.601. */
export function lightOf({ widthPx, heightPx, rgba }: Photo): GreyPicture {
  const samples = new Uint8Array(widthPx * heightPx)
  for (let i = 0; i < samples.length; i++) samples[i] = (77 * rgba[4 * i] + 150 * rgba[4 * i + 1] + 29 * rgba[4 * i + 2]) >> 8
  return { widthPx, heightPx, samples, full: 255 }
}
