import { bytesBy } from '../../picture/bytes.ts'
import type { GreyPicture } from '../../picture/picture.ts'
import type { GreyWeights } from '../../picture/steps.ts'
import type { ColourPicture } from './palette.ts'

/** Weights that give each channel of a picture as grey. */
export const CHANNELS: readonly GreyWeights[] = [
  { r: 1, g: 0, b: 0 },
  { r: 0, g: 1, b: 0 },
  { r: 0, g: 0, b: 1 },
]

const bytes = ({ samples, full }: GreyPicture): Uint8Array =>
  full === 255 && samples instanceof Uint8Array ? samples : bytesBy(samples.length, (i) => Math.round((255 * samples[i]) / full))

/** A colour picture of its three channels, each as grey. */
export const colourOf = ([red, green, blue]: readonly GreyPicture[]): ColourPicture => ({
  widthPx: red.widthPx,
  heightPx: red.heightPx,
  red: bytes(red),
  green: bytes(green),
  blue: bytes(blue),
  ...(red.alpha ? { alpha: red.alpha } : {}),
})
