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

/** Darker photos show nothing that can be trusted; flatter ones show what is right before the lens. Shares of white. */
const LEAST_LIGHT = 0.06
const LEAST_SPREAD = 0.025
/** So many pixels are looked at, to tell how light a photo is. */
const SAMPLES = 20_000

/** Why nothing can be seen in a photo, as a sentence; undefined where something can. */
export function unseeable({ samples, full }: GreyPicture): string | undefined {
  const step = Math.max(1, Math.floor(samples.length / SAMPLES))
  let [n, sum, squares] = [0, 0, 0]
  for (let i = 0; i < samples.length; i += step) {
    const v = samples[i] / full
    n++
    sum += v
    squares += v * v
  }
  const mean = sum / n
  if (mean < LEAST_LIGHT) return 'The photo is dark: switch the light on, or open the lid.'
  if (Math.sqrt(Math.max(0, squares / n - mean * mean)) < LEAST_SPREAD)
    return 'The photo shows nothing: something is right before the camera.'
  return undefined
}
