import { FINISH_STARTS } from '../material/finish.ts'
import type { Material } from '../material/material.ts'
import { histogram } from '../picture/histogram.ts'
import type { Judgement } from '../picture/judge.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { type Dots, type FramingStep, PLAIN_DOTS, type Treatment, type TreatmentStep } from '../picture/steps.ts'

/** How a picture begins on a material. */
export interface Start {
  readonly framing: readonly FramingStep[]
  readonly treatment: Treatment
  readonly dots: Dots
  /** Why, step by step: step id → reason; `dots` for the dots. */
  readonly why: Readonly<Record<string, string>>
}

/** Share of pixels that levels leave behind at each end. */
const TAIL = 0.005

/** The greys that one in two hundred pixels lies beyond. */
function tails(picture: GreyPicture): { black: number; white: number } {
  const counts = histogram(picture)
  const all = counts.reduce((sum, n) => sum + n, 0)
  let black = 0
  let white = 255
  for (let sum = counts[0]; black < 254 && sum < TAIL * all; sum += counts[black]) black++
  for (let sum = counts[255]; white > black + 1 && sum < TAIL * all; sum += counts[white]) white--
  return { black, white: Math.max(black + 1, white) }
}

/**
 * Start values by what the picture is and what the surface is: a photo gets its levels and what the finish asks for; what
 * has only two tones keeps them; both are inverted and mirrored where the finish needs it.
 */
export function startTreatment(picture: GreyPicture, judged: Judgement, material: Material): Start {
  const finish = FINISH_STARTS[material.finish ?? 'bare-wood']
  const steps: Record<string, TreatmentStep> = {}
  const why: Record<string, string> = {}
  const framing = material.finish ? finish.framing.map(({ step }) => step) : []
  if (judged.photo) {
    const { black, white } = tails(picture)
    steps.levels = { kind: 'levels', on: true, black, white, gamma: 1, ink: [], paper: [] }
    why.levels = 'From the picture: its darkest and its lightest tones become full and none.'
  }
  for (const { step, why: reason } of finish.steps) {
    // A surface that is marked light needs it whatever the picture is; the rest is for photos.
    if (!judged.photo && !(step.kind === 'invert' && material.finish)) continue
    if (step.kind === 'levels') {
      steps.levels = { ...(steps.levels as typeof step), gamma: step.gamma }
      why.levels = `${why.levels} ${reason}`
    } else {
      steps[step.kind] = step
      why[step.kind] = reason
    }
  }
  if (judged.photo) why.dots = finish.dotsWhy
  return {
    framing,
    treatment: { steps, order: Object.keys(steps), masks: {} },
    dots: { ...PLAIN_DOTS, ...(judged.photo ? finish.dots : {}) },
    why,
  }
}
