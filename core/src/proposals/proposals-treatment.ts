import type { Burning } from '../forecast/burned-sample.ts'
import { type ToneResponse, toneResponse } from '../forecast/tone-response.ts'
import { FINISH_STARTS } from '../material/finish.ts'
import { levelsGrade } from '../picture/grade.ts'
import { histogram } from '../picture/histogram.ts'
import type { Judgement } from '../picture/judge.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { type Dots, type FramingStep, PLAIN_DOTS, type Treatment, type TreatmentStep } from '../picture/steps.ts'
import { type Tuned, tunedClean, tunedContrast, tunedSharpening } from '../tuning/tuned-detail.ts'
import { bestGamma } from '../tuning/tuned-tones.ts'

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

/** The gamma that the forecast asks for, and what it saw. */
function middleTones({ shares, full }: ToneResponse, inverted: boolean): { gamma: number; why: string } {
  if (full === 0)
    return { gamma: 1, why: 'The forecast shows no mark with this power and speed: middle tones are left as they are.' }
  const gamma = Math.round(20 * bestGamma(shares, inverted)) / 20
  const seen = `In the forecast half of all dots make a tone of ${Math.round(100 * shares[shares.length >> 1])} %`
  return gamma === 1
    ? { gamma, why: `${seen}: middle tones need no help.` }
    : { gamma, why: `${seen}: a gamma of ${gamma} makes up for it.` }
}

/**
 * Start values by what the picture is and what the surface is. A photo gets its levels from its own tones; gamma, contrast,
 * sharpening and clean-up from what the forecast shows with this kernel, material, machine and setting. What has only two
 * tones keeps them; both are inverted and mirrored where the finish needs it.
 */
export function startTreatment(picture: GreyPicture, judged: Judgement, burning: Burning): Start {
  const { material } = burning
  const finish = FINISH_STARTS[material.finish ?? 'bare-wood']
  const dots = { ...PLAIN_DOTS, ...(judged.photo ? finish.dots : {}) }
  const steps: Record<string, TreatmentStep> = {}
  const why: Record<string, string> = {}
  const take = (kind: TreatmentStep['kind'], { step, why: reason }: Tuned<TreatmentStep>): void => {
    if (step) steps[kind] = step
    if (reason) why[kind] = step ? reason : `None. ${reason}`
  }
  // A surface that is marked light needs it whatever the picture is; the rest is for photos.
  const invert = finish.invert && (judged.photo || material.finish) ? finish.invert : undefined
  if (judged.photo) {
    const { black, white } = tails(picture)
    const response = toneResponse(burning, dots)
    const middle = middleTones(response, invert !== undefined)
    const levels = { kind: 'levels', on: true, black, white, gamma: middle.gamma, ink: [], paper: [] } as const
    take('levels', {
      step: levels,
      why: `From the picture: its darkest and its lightest tones become full and none. ${middle.why}`,
    })
    take('contrast', tunedContrast(picture, levelsGrade(levels), burning, response))
    take('sharpen', tunedSharpening(burning, dots, finish.crisp))
  }
  if (invert) take('invert', { step: { kind: 'invert', on: true }, why: invert })
  if (judged.photo) {
    take('clean', tunedClean(burning, dots, finish.calm))
    why.dots = finish.dotsWhy
  }
  return {
    framing: material.finish ? finish.framing.map(({ step }) => step) : [],
    treatment: { steps, order: Object.keys(steps), masks: {} },
    dots,
    why,
  }
}
