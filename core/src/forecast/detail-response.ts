import { gaussian } from '../picture/blur.ts'
import { type Dots, NO_TREATMENT, type SharpenStep } from '../picture/steps.ts'
import { type Burning, burnedSample } from './burned-sample.ts'

/** Bars and gaps of two and a half dots: the finest that a picture still shows as such. */
export const BAR_PERIOD_DOTS = 5
const BARS = 16
const SIDE = BAR_PERIOD_DOTS * BARS
/** Source pixels a dot: bars begin anywhere in a dot, as edges of pictures do. */
const FINE = 4
const LIGHT = 178
const DARK = 77

/**
 * How much of their contrast fine bars keep in the forecast, beside even patches of the same two tones: the amplitude of
 * the first harmonic (the modulation transfer of a bar target; J. W. Coltman, J. Opt. Soc. Am. 44(6), 1954), across the
 * rows and along them. 1: as in the picture; below: softer.
 */
export function barContrast(burning: Burning, dots: Dots, sharpen?: SharpenStep): number {
  const wide = SIDE * FINE
  const even = (grey: number): number => {
    const samples = new Uint8Array(wide * wide).fill(grey)
    const cover = burnedSample(
      { widthPx: wide, heightPx: wide, samples, full: 255 },
      NO_TREATMENT,
      dots,
      { columns: SIDE, rows: SIDE },
      burning,
    )
    return cover.reduce((sum, v) => sum + v, 0) / cover.length
  }
  const span = even(DARK) - even(LIGHT)
  if (span <= 0) return 0
  const treatment = sharpen ? { steps: { sharpen }, order: ['sharpen'], masks: {} } : NO_TREATMENT
  const kept = [true, false].map((along) => {
    const samples = new Uint8Array(wide * wide)
    // A start between dots.
    const shift = FINE * 0.7
    for (let i = 0, y = 0; y < wide; y++)
      for (let x = 0; x < wide; x++, i++)
        samples[i] = ((along ? x : y) + shift) % (BAR_PERIOD_DOTS * FINE) < (BAR_PERIOD_DOTS * FINE) / 2 ? DARK : LIGHT
    const picture = { widthPx: wide, heightPx: wide, samples, full: 255 }
    const cover = burnedSample(picture, treatment, dots, { columns: SIDE, rows: SIDE }, burning)
    return firstHarmonic(cover, along) / ((2 / Math.PI) * span)
  })
  return (kept[0] + kept[1]) / 2
}

/** Amplitude at the bars' frequency, of the middle of the picture: whole periods. */
function firstHarmonic(cover: Uint8Array, along: boolean): number {
  const from = 3 * BAR_PERIOD_DOTS
  const to = SIDE - 3 * BAR_PERIOD_DOTS
  let re = 0
  let im = 0
  for (let y = from; y < to; y++) {
    for (let x = from; x < to; x++) {
      const turn = (2 * Math.PI * (along ? x : y)) / BAR_PERIOD_DOTS
      re += cover[y * SIDE + x] * Math.cos(turn)
      im += cover[y * SIDE + x] * Math.sin(turn)
    }
  }
  return (2 * Math.hypot(re, im)) / (to - from) ** 2
}

/** At reading distance, 400 mm, an eye blurs about this far (σ): a minute of arc either side of its centre. */
const EYE_MM = 0.12

/**
 * How uneven an even light tone looks in the forecast: the deviation of its darkness against its mean, as an eye at reading
 * distance sees it. Dots that blend give little, dots that stand alone one and more.
 * @param tone mark wanted, 0–1
 */
export function toneUnevenness(burning: Burning, dots: Dots, tone: number): number {
  const side = 160
  const samples = new Uint16Array(side * side).fill(Math.round(65535 * (1 - tone)))
  const cover = burnedSample(
    { widthPx: side, heightPx: side, samples, full: 65535 },
    NO_TREATMENT,
    dots,
    { columns: side, rows: side },
    burning,
  )
  const seen = Float32Array.from(cover)
  gaussian(seen, side, side, EYE_MM / burning.burn.intervalMm)
  let sum = 0
  let squares = 0
  let n = 0
  for (let y = 30; y < side - 8; y++) {
    for (let x = 8; x < side - 8; x++, n++) {
      const v = seen[y * side + x]
      sum += v
      squares += v * v
    }
  }
  if (sum === 0) return 0
  const mean = sum / n
  return Math.sqrt(Math.max(0, squares / n - mean * mean)) / mean
}
