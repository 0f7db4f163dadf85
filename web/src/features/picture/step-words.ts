import type { Dots, FramingStep, Kernel, TreatmentStep } from '@neotaxis/core'

export const KERNEL_NAMES: Readonly<Record<Kernel, string>> = {
  threshold: 'Threshold',
  'floyd-steinberg': 'Floyd–Steinberg',
  'jarvis-judice-ninke': 'Jarvis–Judice–Ninke',
  stucki: 'Stucki',
  burkes: 'Burkes',
  sierra: 'Sierra',
  'sierra-two-row': 'Sierra, two rows',
  'sierra-lite': 'Sierra lite',
  atkinson: 'Atkinson',
  'bayer-4': 'Bayer 4 × 4',
  'bayer-8': 'Bayer 8 × 8',
  clustered: 'Clustered dot',
  'blue-noise': 'Blue noise',
  none: 'Grey as power',
}

type AnyStep = FramingStep | TreatmentStep

export const STEP_NAMES: Readonly<Record<AnyStep['kind'], string>> = {
  crop: 'Crop',
  straighten: 'Straighten a page',
  turn: 'Turn',
  mirror: 'Mirror',
  levels: 'Levels',
  contrast: 'Brightness, contrast',
  curve: 'Tone curve',
  invert: 'Invert',
  posterise: 'Posterise',
  flatten: 'Even the paper',
  ink: 'Ink only',
  sharpen: 'Sharpen',
  clean: 'Clean',
  clear: 'Take away',
}

const number = (v: number, digits = 2): string => String(Number(v.toFixed(digits)))

/** A step in a few words, as its card shows it. */
export function stepWords(step: AnyStep): string {
  switch (step.kind) {
    case 'crop':
      return `${number(step.width, 0)} × ${number(step.height, 0)} px kept`
    case 'straighten':
      return step.ratio > 0 ? `four corners, ${number(step.ratio)} : 1` : 'four corners'
    case 'turn':
      return `${number(step.degrees, 1)}° clockwise`
    case 'mirror':
      return step.way === 'left-right' ? 'left and right change places' : 'top and bottom change places'
    case 'levels': {
      const sampled = step.ink.length + step.paper.length
      const ends = `${number(step.black, 0)} to ${number(step.white, 0)}`
      const gamma = step.gamma === 1 ? '' : ` · γ ${number(step.gamma)}`
      return sampled > 0 ? `from ${sampled} ${sampled === 1 ? 'sample' : 'samples'} on the picture${gamma}` : `${ends}${gamma}`
    }
    case 'contrast':
      return `${number(step.brightness, 0)} · ${number(step.contrast, 0)}`
    case 'curve':
      return `${step.points.length / 2} points`
    case 'invert':
      return 'light is burned, dark stays'
    case 'posterise':
      return `${step.levels} tones`
    case 'ink':
      return `${step.ruled ? 'ruled lines away' : 'ruled lines kept'} · from ${number(step.from * 100, 0)} % of its ink`
    case 'flatten':
      return `shadows wider than ${number(step.radiusMm, 1)} mm`
    case 'sharpen':
      return `${number(step.radius)} dots · ${number(step.amount, 0)} % · over ${number(step.threshold, 0)}`
    case 'clean':
      return `marks under ${number(step.below * 100, 1)} %${step.specksMm2 > 0 ? `, specks under ${number(step.specksMm2)} mm²` : ''}`
    case 'clear':
      return step.outside ? 'all but its mask' : 'what its mask covers'
  }
}

/** Dots in a few words. */
export function dotsWords(dots: Dots): string {
  if (dots.asPrepared) return 'as prepared: one pixel, one dot'
  const name = KERNEL_NAMES[dots.kernel]
  if (dots.kernel === 'clustered') return `${name} · ${number(dots.linesPerInch, 0)} lines/in at ${number(dots.angleDeg, 0)}°`
  return name
}
