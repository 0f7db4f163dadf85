import { monotoneCubic } from '../numeric/monotone.ts'
import type { ContrastStep, CurveStep, LevelsStep, TreatmentStep } from './steps.ts'

/** A step that looks at one tone at a time: lightness in 0–1 → lightness out 0–1, still encoded. */
export type Grade = (lightness: number) => number

const bounded = (v: number): number => (v < 0 ? 0 : v > 1 ? 1 : v)

/** Levels: black and white are 0–255. @throws RangeError where white is not lighter than black */
export function levelsGrade({ black, white, gamma }: Pick<LevelsStep, 'black' | 'white' | 'gamma'>): Grade {
  if (!(white > black)) throw new RangeError(`White (${white}) must be lighter than black (${black}).`)
  if (!(gamma > 0)) throw new RangeError(`Gamma must be above 0, not ${gamma}.`)
  const span = white - black
  const power = 1 / gamma
  return (v) => {
    const share = bounded((v * 255 - black) / span)
    return gamma === 1 ? share : share ** power
  }
}

export function contrastGrade({ brightness, contrast }: Pick<ContrastStep, 'brightness' | 'contrast'>): Grade {
  const steepness = contrast >= 0 ? 1 / Math.max(0.01, 1 - contrast / 100) : 1 + contrast / 100
  const shift = brightness / 100
  return (v) => bounded((v + shift - 0.5) * steepness + 0.5)
}

/** A free curve: monotone cubic (F. Fritsch and R. Carlson, SIAM J. Numer. Anal. 17(2), 1980) through its points, flat beyond. */
export function curveGrade({ points }: Pick<CurveStep, 'points'>): Grade {
  const xs: number[] = []
  const ys: number[] = []
  for (let i = 0; i + 1 < points.length; i += 2) {
    xs.push(points[i])
    ys.push(points[i + 1])
  }
  if (xs.length < 2) return (v) => v
  const through = monotoneCubic(xs, ys)
  return (v) => bounded(through(v))
}

/** N tones, evenly apart, ends included. */
export const posteriseGrade = (levels: number): Grade => {
  const top = Math.max(1, Math.round(levels) - 1)
  return (v) => Math.round(v * top) / top
}

/** Marks weaker than `below` become none. */
export const hazeGrade =
  (below: number): Grade =>
  (v) =>
    1 - v < below ? 1 : v

/** What a step does to one tone, or undefined for one that looks around itself. Sampled levels need `sampled`. */
export function gradeOf(step: TreatmentStep, sampled?: { black: number; white: number }): Grade | undefined {
  switch (step.kind) {
    case 'levels':
      return levelsGrade({ ...step, ...sampled })
    case 'contrast':
      return contrastGrade(step)
    case 'curve':
      return curveGrade(step)
    case 'invert':
      return (v) => 1 - v
    case 'posterise':
      return posteriseGrade(step.levels)
    case 'clean':
      return step.specksMm2 > 0 ? undefined : hazeGrade(step.below)
    default:
      return undefined
  }
}
