import type { Dots, FramingStep } from '../picture/steps.ts'
import type { Finish } from './material.ts'

/**
 * What a photo needs on a kind of surface, said as what shall be seen: how the settings come out that give it follows from
 * the forecast (`startTreatment`).
 */
export interface FinishStart {
  readonly name: string
  readonly framing: readonly { readonly step: FramingStep; readonly why: string }[]
  /** Why it is inverted; absent: it is not. */
  readonly invert?: string
  /** How much more than in the picture fine bars shall stand out in the forecast, for what the surface takes from them. */
  readonly crisp: { readonly times: number; readonly radius: number; readonly why: string }
  /** How uneven a light tone may look (deviation against mean) before its dots are taken for specks. */
  readonly calm: { readonly uneven: number; readonly why: string }
  readonly dots: Pick<Dots, 'kernel'>
  readonly dotsWhy: string
  /** The burned side is looked at through the material: the piece is seen mirrored. */
  readonly seenFromBehind: boolean
}

const mirror = {
  step: { kind: 'mirror', on: true, way: 'left-right' },
  why: 'It is burned from behind and looked at from the front.',
} as const

/** Each kind of surface with its reasons. */
export const FINISH_STARTS: Readonly<Record<Finish, FinishStart>> = {
  'bare-wood': {
    name: 'bare wood',
    framing: [],
    crisp: { times: 1.5, radius: 1.2, why: 'Grain swallows fine edges.' },
    calm: { uneven: 1.4, why: 'Nearly white would burn as lone dots in the clear wood.' },
    dots: { kernel: 'floyd-steinberg' },
    dotsWhy: 'Its dots stay fine where the grain is coarse.',
    seenFromBehind: false,
  },
  card: {
    name: 'card',
    framing: [],
    crisp: { times: 1.3, radius: 1, why: 'Card holds edges; a little is enough.' },
    calm: { uneven: 1.2, why: 'Lone dots show on an even surface.' },
    dots: { kernel: 'stucki' },
    dotsWhy: 'Clean in the lights, where an even surface shows every pattern.',
    seenFromBehind: false,
  },
  'glazed-ceramic': {
    name: 'glazed ceramic',
    framing: [],
    crisp: { times: 2.1, radius: 1.2, why: 'Glaze melts edges soft.' },
    calm: { uneven: 0.9, why: 'Single dots on glaze do not take: they only haze it.' },
    dots: { kernel: 'jarvis-judice-ninke' },
    dotsWhy: 'Holds together what must be dense to take.',
    seenFromBehind: false,
  },
  'lacquered-behind': {
    name: 'glass lacquered behind',
    framing: [mirror],
    invert: 'Lacquer is lifted where it shall be light.',
    crisp: { times: 1.6, radius: 1.2, why: 'Lacquer breaks off in crumbs a little wider than the spot.' },
    calm: { uneven: 1.5, why: 'Pinholes in dark lacquer shine.' },
    dots: { kernel: 'jarvis-judice-ninke' },
    dotsWhy: 'Even in the darks, where pinholes shine.',
    seenFromBehind: true,
  },
  'coated-metal': {
    name: 'coated metal',
    framing: [],
    invert: 'The coating is lifted where it shall be light.',
    crisp: { times: 1.3, radius: 0.8, why: 'The coating lifts with sharp edges: little is needed.' },
    calm: { uneven: 1.4, why: 'Lone holes in the coating glitter.' },
    dots: { kernel: 'stucki' },
    dotsWhy: 'Fine, and without worms in the lights.',
    seenFromBehind: false,
  },
  slate: {
    name: 'slate',
    framing: [],
    invert: 'Slate turns light where it is burned.',
    crisp: { times: 1.9, radius: 1.5, why: 'A rough surface swallows fine edges.' },
    calm: { uneven: 1.0, why: 'Single dots are lost among its crystals.' },
    dots: { kernel: 'atkinson' },
    dotsWhy: 'It lets the lights and the darks go clear, which a weak mark needs.',
    seenFromBehind: false,
  },
  leather: {
    name: 'leather',
    framing: [],
    crisp: { times: 1.2, radius: 1, why: 'It shrinks at edges; too much sharpening burns rims.' },
    calm: { uneven: 1.4, why: 'Lone dots look like pores.' },
    dots: { kernel: 'sierra' },
    dotsWhy: 'Soft in the middle tones.',
    seenFromBehind: false,
  },
  'clear-behind': {
    name: 'clear plastic from behind',
    framing: [mirror],
    invert: 'What is frosted looks light.',
    crisp: { times: 1.5, radius: 1, why: 'The edge of each dot melts.' },
    calm: { uneven: 1.3, why: 'Lone frosted dots look like dust.' },
    dots: { kernel: 'floyd-steinberg' },
    dotsWhy: 'Fine dots frost evenly.',
    seenFromBehind: true,
  },
}
