import type { FrameSize, FramingStep, TreatmentStep } from '@neotaxis/core'

const on = true as const

/** A framing step to begin with. @param size of what it is given, px */
export function newFraming(kind: FramingStep['kind'], { widthPx, heightPx }: FrameSize): FramingStep {
  const inset = (side: number, share: number): number => Math.round(side * share)
  switch (kind) {
    case 'crop':
      return {
        kind,
        on,
        x: inset(widthPx, 0.06),
        y: inset(heightPx, 0.06),
        width: inset(widthPx, 0.88),
        height: inset(heightPx, 0.88),
      }
    case 'straighten': {
      const [x0, y0, x1, y1] = [inset(widthPx, 0.08), inset(heightPx, 0.08), inset(widthPx, 0.92), inset(heightPx, 0.92)]
      return { kind, on, corners: [x0, y0, x1, y0, x1, y1, x0, y1], ratio: 0 }
    }
    case 'turn':
      return { kind, on, degrees: 90 }
    case 'mirror':
      return { kind, on, way: 'left-right' }
  }
}

/** A treatment step to begin with. `clear` needs a mask of its own. */
export function newStep(kind: TreatmentStep['kind'], mask: string): TreatmentStep {
  switch (kind) {
    case 'levels':
      return { kind, on, black: 0, white: 255, gamma: 1, ink: [], paper: [] }
    case 'contrast':
      return { kind, on, brightness: 0, contrast: 15 }
    case 'curve':
      return { kind, on, points: [0, 0, 0.25, 0.3, 0.75, 0.7, 1, 1] }
    case 'invert':
      return { kind, on }
    case 'posterise':
      return { kind, on, levels: 4 }
    case 'ink':
      return { kind, on, ruled: true, from: 0.5 }
    case 'flatten':
      return { kind, on, radiusMm: 8 }
    case 'sharpen':
      return { kind, on, radius: 1.2, amount: 80, threshold: 3 }
    case 'clean':
      return { kind, on, below: 0.04, specksMm2: 0 }
    case 'clear':
      return { kind, on, mask }
  }
}

/** All steps, in the order in which people work: where a step goes when nobody says. */
export const STEP_ORDER: readonly TreatmentStep['kind'][] = [
  'ink',
  'flatten',
  'levels',
  'contrast',
  'curve',
  'sharpen',
  'invert',
  'clean',
  'clear',
  'posterise',
]

/** The place of a new step among those that are there. */
export function placeOf(kind: TreatmentStep['kind'], there: readonly TreatmentStep['kind'][]): number {
  const rank = STEP_ORDER.indexOf(kind)
  const at = there.findIndex((other) => STEP_ORDER.indexOf(other) > rank)
  return at < 0 ? there.length : at
}
