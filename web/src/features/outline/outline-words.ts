import { type CombineNode, formatLength, type LengthUnit, type OutlineStep, type StepReport } from '@neotaxis/core'

export const OUTLINE_STEP_NAMES: Readonly<Record<OutlineStep['kind'], string>> = {
  specks: 'Specks away',
  erase: 'Take away in a box',
  join: 'Join ends',
  fill: 'Fill holes',
  doubles: 'Double lines away',
  simplify: 'Fewer nodes',
  stretch: 'Replace a stretch',
  node: 'One node',
  start: 'Where it begins',
}

/** Steps that are chosen from the menu; the others are made by hand on the stage. */
export const MENU_STEPS = ['specks', 'fill', 'join', 'doubles', 'simplify'] as const

export const STRETCH_WORDS = { straight: 'straight', smooth: 'smooth', refitted: 'fitted anew', gone: 'cut away' } as const

export const NODE_WORDS = { move: 'moved', add: 'added', remove: 'removed', corner: 'a corner', smooth: 'smooth' } as const

export const COMBINED: Readonly<Record<CombineNode['op'], string>> = {
  union: 'both together',
  subtract: 'the other taken off',
  intersect: 'what both share',
  exclude: 'what only one has',
  split: 'parted along the other',
}

/** A step to begin with. */
export function newOutlineStep(kind: (typeof MENU_STEPS)[number]): OutlineStep {
  const on = true as const
  switch (kind) {
    case 'specks':
      return { kind, on, areaMm2: 1 }
    case 'fill':
      return { kind, on, areaMm2: 4 }
    case 'join':
      return { kind, on, gapMm: 0.5 }
    case 'doubles':
      return { kind, on, withinMm: 0.05 }
    case 'simplify':
      return { kind, on, toleranceMm: 0.05 }
  }
}

const number = (v: number, digits = 2): string => String(Number(v.toFixed(digits)))

/** A step in a few words, with what it did. */
export function outlineStepWords(step: OutlineStep, unit: LengthUnit, report: StepReport | undefined): string {
  if (report?.trouble) return report.trouble
  const taken = report ? `${report.removed} gone` : ''
  const fewer = report ? `${report.fewerNodes} nodes fewer` : ''
  const words = ((): string[] => {
    switch (step.kind) {
      case 'specks':
        return [`under ${number(step.areaMm2)} mm²`, taken]
      case 'erase':
        return [step.touched ? 'all it touches' : 'all inside it', taken]
      case 'join':
        return [`up to ${formatLength(step.gapMm, unit)}`, report ? `${report.removed} joined` : '']
      case 'fill':
        return [`up to ${number(step.areaMm2)} mm²`, report ? `${report.removed} filled` : '']
      case 'doubles':
        return [`within ${formatLength(step.withinMm, unit)}`, taken]
      case 'simplify':
        return [fewer, report?.offMm === undefined ? '' : `${number(report.offMm, 3)} mm off`]
      case 'stretch':
        return [STRETCH_WORDS[step.as]]
      case 'node':
        return [NODE_WORDS[step.change]]
      case 'start':
        return ['at this place']
    }
  })()
  return words.filter(Boolean).join(' · ')
}
