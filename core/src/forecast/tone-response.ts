import { type Dots, NO_TREATMENT } from '../picture/steps.ts'
import { type Burning, burnedSample } from './burned-sample.ts'

/** Patches of the wedge, from nothing to all. */
const PATCHES = 13
const WIDE = 64
const HIGH = 44
/** Dots at a patch's border that are not looked at: there the kernel still settles. */
const BORDER = 10

export interface ToneResponse {
  /** Darkness relative to that of full, 0–1, for tones 0, 1/12 … 1. */
  readonly shares: Float64Array
  /** Darkness of full against the darkest that the material becomes, 0–1. */
  readonly full: number
}

/**
 * How dark the forecast of an even tone is: a wedge of tones is made into dots and burned as any picture is, and measured.
 * What dot gain, a late beam and a curved material do to tones is all in it.
 */
export function toneResponse(burning: Burning, dots: Dots): ToneResponse {
  const samples = new Uint8Array(WIDE * HIGH * PATCHES)
  for (let p = 0; p < PATCHES; p++)
    samples.fill(255 - Math.round((255 * p) / (PATCHES - 1)), p * WIDE * HIGH, (p + 1) * WIDE * HIGH)
  const rows = HIGH * PATCHES
  const wedge = { widthPx: WIDE, heightPx: rows, samples, full: 255 }
  const cover = burnedSample(wedge, NO_TREATMENT, dots, { columns: WIDE, rows }, burning)
  const means = Float64Array.from({ length: PATCHES }, (_, p) => {
    let sum = 0
    for (let y = BORDER; y < HIGH - BORDER; y++)
      for (let x = BORDER; x < WIDE - BORDER; x++) sum += cover[(p * HIGH + y) * WIDE + x]
    return sum / (255 * (HIGH - 2 * BORDER) * (WIDE - 2 * BORDER))
  })
  const least = means[0]
  const span = means[PATCHES - 1] - least
  return { shares: means.map((mean) => (span > 0 ? (mean - least) / span : 0)), full: means[PATCHES - 1] }
}
