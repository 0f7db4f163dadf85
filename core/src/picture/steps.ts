/**
 * The steps between “here is a picture” and its dots, as a job keeps them. Framing belongs to the source: everything
 * made from it follows. Treatment belongs to one prepared picture. Places are source pixels, so that a mask stays on
 * what it was drawn on when the framing is changed later.
 */
interface Switched {
  /** Switched off, a step keeps its values and does nothing. */
  readonly on: boolean
}

/** A part of the picture, in pixels of what the step is given; may have fractions. */
export interface CropStep extends Switched {
  readonly kind: 'crop'
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** A photographed page made rectangular again: its corners from the top left, clockwise, x and y in turn. */
export interface StraightenStep extends Switched {
  readonly kind: 'straighten'
  readonly corners: readonly number[]
  /** Width over height of the real page; 0 takes it from the corners. */
  readonly ratio: number
}

export interface TurnStep extends Switched {
  readonly kind: 'turn'
  /** Clockwise. Quarter turns move pixels; anything else resamples once. */
  readonly degrees: number
}

export interface MirrorStep extends Switched {
  readonly kind: 'mirror'
  /** Left and right change places, or top and bottom. */
  readonly way: 'left-right' | 'top-bottom'
}

export type FramingStep = CropStep | StraightenStep | TurnStep | MirrorStep

/** How much of red, green and blue makes the grey; they are brought to a sum of 1. */
export interface GreyWeights {
  readonly r: number
  readonly g: number
  readonly b: number
}

/** Luma of ITU-R BT.709: what a grey picture is unless it is asked for otherwise. */
export const LUMA: GreyWeights = { r: 0.2126, g: 0.7152, b: 0.0722 }

/** A round patch of the picture whose tone was sampled, source pixels. */
export interface TonePatch {
  readonly x: number
  readonly y: number
  readonly radius: number
}

interface Limited extends Switched {
  /** Id of the mask that the step is limited to. */
  readonly mask?: string
  /** Works where the mask is not. */
  readonly outside?: boolean
}

export interface LevelsStep extends Limited {
  readonly kind: 'levels'
  /** Grey 0–255 that becomes black, and white. Patches, where there are any, decide instead. */
  readonly black: number
  readonly white: number
  /** Above 1 lightens the middle tones. */
  readonly gamma: number
  /** What is ink, and what is paper, shown on the picture itself. */
  readonly ink: readonly TonePatch[]
  readonly paper: readonly TonePatch[]
}

export interface ContrastStep extends Limited {
  readonly kind: 'contrast'
  /** −100 to 100: shifts all tones. */
  readonly brightness: number
  /** −100 to 100: steepens or flattens around the middle. */
  readonly contrast: number
}

export interface CurveStep extends Limited {
  readonly kind: 'curve'
  /** Lightness in and out 0–1 in turn, rising in; a monotone cubic goes through them. */
  readonly points: readonly number[]
}

export interface InvertStep extends Limited {
  readonly kind: 'invert'
}

export interface PosteriseStep extends Limited {
  readonly kind: 'posterise'
  readonly levels: number
}

/** Unevenly lit paper made even: the tone is divided by that of the paper around it. */
export interface FlattenStep extends Limited {
  readonly kind: 'flatten'
  /** Ink is thinner than this, shadows are wider, mm. */
  readonly radiusMm: number
}

/** A page brought to its ink: light evened, ruled lines away, paper to nothing, ink to full. See `ink/ink-only.ts`. */
export interface InkStep extends Limited {
  readonly kind: 'ink'
  /** Whether the lines of ruled paper go. */
  readonly ruled: boolean
  /** Share of the ink's own darkness from which on a place is ink, 0–1. */
  readonly from: number
}

export interface SharpenStep extends Limited {
  readonly kind: 'sharpen'
  /** Dots. */
  readonly radius: number
  /** Percent. */
  readonly amount: number
  /** 0–255: smaller differences stay as they are. */
  readonly threshold: number
}

/** Takes away what would hardly burn: haze of weak marks, and lone specks. */
export interface CleanStep extends Limited {
  readonly kind: 'clean'
  /** Marks weaker than this become none, 0–1. */
  readonly below: number
  /** Marked spots smaller than this go too, mm². */
  readonly specksMm2: number
}

/** Nothing under the mask is burned, whatever comes later. */
export interface ClearStep extends Limited {
  readonly kind: 'clear'
}

export type TreatmentStep =
  | LevelsStep
  | ContrastStep
  | CurveStep
  | InvertStep
  | PosteriseStep
  | FlattenStep
  | InkStep
  | SharpenStep
  | CleanStep
  | ClearStep

/** Part of a mask; source pixels. `add` widens the mask, otherwise it is taken away from it. */
export type MaskPart = { readonly add: boolean } & (
  | { readonly kind: 'rectangle'; readonly x: number; readonly y: number; readonly width: number; readonly height: number }
  /** Corners, x and y in turn. */
  | { readonly kind: 'polygon'; readonly points: readonly number[] }
  /** A closed chain of cubic Béziers: start, then two controls and an end each, x and y in turn. */
  | { readonly kind: 'bezier'; readonly points: readonly number[] }
  /** A stroke of a round brush, x and y in turn. */
  | { readonly kind: 'brush'; readonly radius: number; readonly points: readonly number[] }
  /** Everything of nearly one tone that hangs together with a place; tolerance 0–1. */
  | { readonly kind: 'tone'; readonly x: number; readonly y: number; readonly tolerance: number }
  /** A closed line that follows edges from one anchor to the next, x and y in turn. */
  | { readonly kind: 'edges'; readonly points: readonly number[] }
)

export interface Mask {
  readonly name: string
  /** Width over which it fades, source pixels. */
  readonly feather: number
  readonly parts: Readonly<Record<string, MaskPart>>
  readonly order: readonly string[]
}

/** How tones become dots. */
export interface Dots {
  readonly kernel: Kernel
  /** Rows of error diffusion go there and back. */
  readonly serpentine: boolean
  /** Of the clustered dot. */
  readonly linesPerInch: number
  readonly angleDeg: number
  /** The material's measured dot gain is made up for. */
  readonly gain: boolean
  /** The picture is dots already: one pixel, one dot, never resampled, no steps. */
  readonly asPrepared: boolean
}

/** Ways from tones to dots. `none` keeps grey as power. */
export type Kernel =
  | 'threshold'
  | 'floyd-steinberg'
  | 'jarvis-judice-ninke'
  | 'stucki'
  | 'burkes'
  | 'sierra'
  | 'sierra-two-row'
  | 'sierra-lite'
  | 'atkinson'
  | 'bayer-4'
  | 'bayer-8'
  | 'clustered'
  | 'blue-noise'
  | 'none'

export const KERNELS: readonly Kernel[] = [
  'threshold',
  'floyd-steinberg',
  'jarvis-judice-ninke',
  'stucki',
  'burkes',
  'sierra',
  'sierra-two-row',
  'sierra-lite',
  'atkinson',
  'bayer-4',
  'bayer-8',
  'clustered',
  'blue-noise',
  'none',
]

export const PLAIN_DOTS: Dots = {
  kernel: 'floyd-steinberg',
  serpentine: true,
  linesPerInch: 45,
  angleDeg: 45,
  gain: false,
  asPrepared: false,
}

/** All that makes a prepared picture of a framed one, in order. */
export interface Treatment {
  /** Weights of the grey; absent: luma. */
  readonly grey?: GreyWeights
  readonly steps: Readonly<Record<string, TreatmentStep>>
  readonly order: readonly string[]
  readonly masks: Readonly<Record<string, Mask>>
}

export const NO_TREATMENT: Treatment = { steps: {}, order: [], masks: {} }

/** The steps that do something, in order. */
export const activeSteps = ({ steps, order }: Treatment): TreatmentStep[] =>
  order.flatMap((id) => (steps[id]?.on ? [steps[id]] : []))
