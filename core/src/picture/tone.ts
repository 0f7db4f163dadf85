import type { GreyPicture } from './picture.ts'

/** How the grey of a picture becomes the mark wanted. All of it works point by point, so it is one table. */
export interface Tone {
  /** Grey that counts as full mark, 0–255. */
  readonly black: number
  /** Grey that counts as no mark, 0–255. */
  readonly white: number
  /** Above 1 lightens the middle tones. */
  readonly gamma: number
  /** −100 to 100: shifts all tones. */
  readonly brightness: number
  /** −100 to 100: steepens or flattens around the middle. */
  readonly contrast: number
  /** Light is marked, dark stays: for glass, slate and clear plastic. */
  readonly invert: boolean
}

export const NEUTRAL_TONE: Tone = { black: 0, white: 255, gamma: 1, brightness: 0, contrast: 0, invert: false }

/**
 * The table that takes a sample to its lightness after the tone steps, 0 black to 1 white, still encoded.
 * Order: levels (black, white, gamma), brightness, contrast, invert.
 */
export function toneTable(tone: Tone, full: number): Float32Array {
  const { black, white, gamma, brightness, contrast, invert } = tone
  if (!(white > black)) throw new RangeError(`White (${white}) must be lighter than black (${black}).`)
  if (!(gamma > 0)) throw new RangeError(`Gamma must be above 0, not ${gamma}.`)
  const table = new Float32Array(full + 1)
  const steepness = contrast >= 0 ? 1 / Math.max(0.01, 1 - contrast / 100) : 1 + contrast / 100
  for (let i = 0; i <= full; i++) {
    let v = ((i / full) * 255 - black) / (white - black)
    v = v < 0 ? 0 : v > 1 ? 1 : v
    if (gamma !== 1) v = v ** (1 / gamma)
    v += brightness / 100
    v = (v - 0.5) * steepness + 0.5
    v = v < 0 ? 0 : v > 1 ? 1 : v
    table[i] = invert ? 1 - v : v
  }
  return table
}

/** How many pixels have each of 256 greys, fully transparent ones left out. */
export function histogram(picture: GreyPicture): Uint32Array {
  const counts = new Uint32Array(256)
  const shift = picture.full === 255 ? 0 : 8
  const { samples, alpha } = picture
  for (let i = 0; i < samples.length; i++) if (!alpha || alpha[i] > 0) counts[samples[i] >> shift]++
  return counts
}

/** The threshold 0–1 that best parts dark from light (N. Otsu, IEEE Trans. SMC 9(1), 1979). */
export function otsuThreshold(counts: Uint32Array): number {
  let total = 0
  let sum = 0
  for (let i = 0; i < 256; i++) {
    total += counts[i]
    sum += i * counts[i]
  }
  let darkCount = 0
  let darkSum = 0
  let best = -1
  let from = 127
  let to = 127
  for (let i = 0; i < 255; i++) {
    darkCount += counts[i]
    darkSum += i * counts[i]
    if (darkCount === 0 || darkCount === total) continue
    const apart = darkSum / darkCount - (sum - darkSum) / (total - darkCount)
    const between = darkCount * (total - darkCount) * apart * apart
    if (between > best * (1 + 1e-12)) {
      best = between
      from = i
      to = i
    } else if (between >= best * (1 - 1e-12)) to = i
  }
  return ((from + to) / 2 + 0.5) / 255
}
