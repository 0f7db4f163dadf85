import type { Burning } from '../forecast/burned-sample.ts'
import { BAR_PERIOD_DOTS, barContrast, toneUnevenness } from '../forecast/detail-response.ts'
import type { ToneResponse } from '../forecast/tone-response.ts'
import type { FinishStart } from '../material/finish.ts'
import type { Rgb } from '../material/material.ts'
import { histogram } from '../picture/histogram.ts'
import type { GreyPicture } from '../picture/picture.ts'
import type { CleanStep, ContrastStep, Dots, SharpenStep } from '../picture/steps.ts'

/** A step as the forecast asks for it, if it does, and what was seen. */
export interface Tuned<S> {
  readonly step?: S
  readonly why: string
}

const MOST_SHARPENING = 150
const percent = (share: number): string => `${Math.round(100 * share)} %`

/**
 * How much sharpening lets fine bars stand out in the forecast as the surface wants it, by halving: more of it never makes
 * them softer.
 */
export function tunedSharpening(burning: Burning, dots: Dots, { times, radius, why }: FinishStart['crisp']): Tuned<SharpenStep> {
  const stepOf = (amount: number): SharpenStep => ({ kind: 'sharpen', on: true, radius, amount, threshold: 3 })
  const plain = barContrast(burning, dots)
  const bars = `bars of ${(burning.burn.intervalMm * (BAR_PERIOD_DOTS / 2)).toFixed(2)} mm`
  if (plain === 0) return { why: 'The forecast shows no mark with this power and speed: nothing is sharpened.' }
  if (plain >= times)
    return { why: `${why} In the forecast ${bars} stand out at ${percent(plain)} without it: this kernel sharpens by itself.` }
  let low = 0
  let high = MOST_SHARPENING
  while (high - low > 5) {
    const amount = 5 * Math.round((low + high) / 10)
    if (barContrast(burning, dots, stepOf(amount)) < times) low = amount
    else high = amount
  }
  const reached = barContrast(burning, dots, stepOf(high))
  return {
    step: stepOf(high),
    why: `${why} In the forecast ${bars} stand out at ${percent(plain)} of their contrast without it, at ${percent(reached)} with it.`,
  }
}

/** Light tones that are tried for specks. */
const LIGHT_TONES = [0.003, 0.005, 0.0075, 0.01, 0.015, 0.02, 0.025, 0.03, 0.04, 0.05, 0.06, 0.08]

/** The tone below which dots in the forecast stand alone, for an eye at reading distance: what is weaker is cleaned away. */
export function tunedClean(burning: Burning, dots: Dots, { uneven, why }: FinishStart['calm']): Tuned<CleanStep> {
  const seen = LIGHT_TONES.map((tone) => toneUnevenness(burning, dots, tone))
  if (seen.every((v) => v === 0)) return { why: `${why} In the forecast this kernel leaves such tones clear by itself.` }
  const alone = LIGHT_TONES.filter((_, i) => seen[i] > uneven)
  const below = alone.at(-1)
  if (below === undefined) return { why: `${why} In the forecast its dots are so fine that they blend: nothing is cleaned away.` }
  return {
    step: { kind: 'clean', on: true, below, specksMm2: 0 },
    why: `${why} In the forecast dots stand alone up to a tone of ${(100 * below).toFixed(1).replace(/\.0$/, '')} %.`,
  }
}

/** Lightness L* (CIE 1976) of a colour. @param rgb sRGB, 0–255 */
export function lightnessOf(rgb: Rgb): number {
  const [r, g, b] = rgb.map((v) => (v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4))
  const y = 0.2126 * r + 0.7152 * g + 0.0722 * b
  return y > 216 / 24389 ? 116 * Math.cbrt(y) - 16 : (24389 / 27) * y
}

/** Steps of lightness between bare and full that a picture needs to look like itself; and the most it is steepened. */
const ENOUGH = 45
const STEEPEST = 1.45
/** Less of it is not worth a step. */
const LEAST_CONTRAST = 4
/** Share of the picture's pixels that may become all dark or all light by it. */
const MAY_CLIP = 0.06

/**
 * How much the picture is steepened where the forecast's full mark is near to the bare surface: as much as it lacks, while
 * few of the picture's tones are lost.
 * @param graded the picture's encoded lightness 0–1 after levels → out
 */
export function tunedContrast(
  picture: GreyPicture,
  graded: (lightness: number) => number,
  { material }: Burning,
  { full }: ToneResponse,
): Tuned<ContrastStep> {
  const { surface, burn } = material.look
  const marked = surface.map((v, c) => v + (burn[c] - v) * full) as unknown as Rgb
  const range = Math.abs(lightnessOf(surface) - lightnessOf(marked))
  if (range >= ENOUGH || full === 0) return { why: '' }
  const counts = histogram(picture)
  const all = counts.reduce((sum, n) => sum + n, 0)
  const clips = (steepness: number): number => {
    const half = 0.5 / steepness
    return counts.reduce((sum, n, grey) => sum + (Math.abs(graded(grey / 255) - 0.5) > half ? n : 0), 0) / all
  }
  const already = clips(1)
  let contrast = Math.round(100 * (1 - 1 / Math.min(STEEPEST, ENOUGH / range)))
  while (contrast > 0 && clips(1 / (1 - contrast / 100)) - already > MAY_CLIP) contrast--
  const seen = `In the forecast a full mark is only ${Math.round(range)} steps of lightness from the bare surface`
  if (contrast < LEAST_CONTRAST) return { why: `${seen}, but this picture has no tones to spare for more contrast.` }
  return { step: { kind: 'contrast', on: true, brightness: 0, contrast }, why: `${seen}: the middle is steepened for it.` }
}
