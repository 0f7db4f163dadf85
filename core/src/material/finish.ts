import type { Dots, FramingStep, TreatmentStep } from '../picture/steps.ts'
import type { Finish } from './material.ts'

/** A step to begin with, and why. */
interface Reasoned<S> {
  readonly step: S
  readonly why: string
}

/** What a photo begins with on a kind of surface. */
export interface FinishStart {
  readonly name: string
  readonly framing: readonly Reasoned<FramingStep>[]
  /** Beside levels, which are taken from the picture. */
  readonly steps: readonly Reasoned<TreatmentStep>[]
  readonly dots: Pick<Dots, 'kernel'>
  readonly dotsWhy: string
  /** The burned side is looked at through the material: the piece is seen mirrored. */
  readonly seenFromBehind: boolean
}

const on = true as const
const invert = (why: string): Reasoned<TreatmentStep> => ({ step: { kind: 'invert', on }, why })
const mirror: Reasoned<FramingStep> = {
  step: { kind: 'mirror', on, way: 'left-right' },
  why: 'It is burned from behind and looked at from the front.',
}
const gamma = (value: number, why: string): Reasoned<TreatmentStep> => ({
  step: { kind: 'levels', on, black: 0, white: 255, gamma: value, ink: [], paper: [] },
  why,
})
const contrast = (value: number, why: string): Reasoned<TreatmentStep> => ({
  step: { kind: 'contrast', on, brightness: 0, contrast: value },
  why,
})
const sharpen = (radius: number, amount: number, why: string): Reasoned<TreatmentStep> => ({
  step: { kind: 'sharpen', on, radius, amount, threshold: 3 },
  why,
})
const clean = (below: number, why: string): Reasoned<TreatmentStep> => ({
  step: { kind: 'clean', on, below, specksMm2: 0 },
  why,
})

/** Start values of photos, chosen for each kind of surface and each with its reason. Levels come from the picture itself. */
export const FINISH_STARTS: Readonly<Record<Finish, FinishStart>> = {
  'bare-wood': {
    name: 'bare wood',
    framing: [],
    steps: [
      gamma(1.25, 'Wood is dark itself: middle tones run together unless they are lightened.'),
      sharpen(1.2, 80, 'Grain swallows fine edges.'),
      clean(0.03, 'Nearly white would burn as lone dots in the clear wood.'),
    ],
    dots: { kernel: 'floyd-steinberg' },
    dotsWhy: 'Its dots stay fine where the grain is coarse.',
    seenFromBehind: false,
  },
  card: {
    name: 'card',
    framing: [],
    steps: [
      gamma(1.1, 'Card darkens early: the middle is lightened a little.'),
      sharpen(1, 60, 'Card holds edges; a little is enough.'),
      clean(0.02, 'Lone dots show on an even surface.'),
    ],
    dots: { kernel: 'stucki' },
    dotsWhy: 'Clean in the lights, where an even surface shows every pattern.',
    seenFromBehind: false,
  },
  'glazed-ceramic': {
    name: 'glazed ceramic',
    framing: [],
    steps: [
      contrast(15, 'The mark is weak on glaze: the range is steepened.'),
      sharpen(1.2, 90, 'Glaze melts edges soft.'),
      clean(0.05, 'Single dots on glaze do not take: they only haze it.'),
    ],
    dots: { kernel: 'jarvis-judice-ninke' },
    dotsWhy: 'Holds together what must be dense to take.',
    seenFromBehind: false,
  },
  'lacquered-behind': {
    name: 'glass lacquered behind',
    framing: [mirror],
    steps: [
      sharpen(1.2, 80, 'Lacquer breaks off in crumbs a little wider than the spot.'),
      invert('Lacquer is lifted where it shall be light.'),
      clean(0.02, 'Pinholes in dark lacquer shine.'),
    ],
    dots: { kernel: 'jarvis-judice-ninke' },
    dotsWhy: 'Even in the darks, where pinholes shine.',
    seenFromBehind: true,
  },
  'coated-metal': {
    name: 'coated metal',
    framing: [],
    steps: [
      contrast(10, 'The coating is either there or gone.'),
      sharpen(0.8, 60, 'The coating lifts with sharp edges: little is needed.'),
      invert('The coating is lifted where it shall be light.'),
      clean(0.02, 'Lone holes in the coating glitter.'),
    ],
    dots: { kernel: 'stucki' },
    dotsWhy: 'Fine, and without worms in the lights.',
    seenFromBehind: false,
  },
  slate: {
    name: 'slate',
    framing: [],
    steps: [
      contrast(25, 'Slate turns grey, not white: the range is steepened.'),
      sharpen(1.5, 110, 'A rough surface swallows fine edges.'),
      invert('Slate turns light where it is burned.'),
      clean(0.04, 'Single dots are lost among its crystals.'),
    ],
    dots: { kernel: 'atkinson' },
    dotsWhy: 'It lets the lights and the darks go clear, which a weak mark needs.',
    seenFromBehind: false,
  },
  leather: {
    name: 'leather',
    framing: [],
    steps: [
      gamma(1.3, 'Leather darkens fast: middle tones are lightened.'),
      sharpen(1, 50, 'It shrinks at edges; too much sharpening burns rims.'),
      clean(0.03, 'Lone dots look like pores.'),
    ],
    dots: { kernel: 'sierra' },
    dotsWhy: 'Soft in the middle tones.',
    seenFromBehind: false,
  },
  'clear-behind': {
    name: 'clear plastic from behind',
    framing: [mirror],
    steps: [
      contrast(12, 'Frosted dots are seen against clear: the range is steepened.'),
      sharpen(1, 70, 'The edge of each dot melts.'),
      invert('What is frosted looks light.'),
      clean(0.03, 'Lone frosted dots look like dust.'),
    ],
    dots: { kernel: 'floyd-steinberg' },
    dotsWhy: 'Fine dots frost evenly.',
    seenFromBehind: true,
  },
}
