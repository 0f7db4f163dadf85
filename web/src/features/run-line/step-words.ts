import { askedBy, type Step } from '@neotaxis/core'

export type StopKind = Exclude<Step['kind'], 'burn'>
export type Stop = Exclude<Step, { kind: 'burn' }>

/** The kinds of steps at which the machine waits: what each is called, and what it is for. */
export const STOP_WORDS: Readonly<Record<StopKind, { readonly name: string; readonly hint: string; readonly first: Stop }>> = {
  pause: {
    name: 'Pause',
    hint: 'The machine waits, and goes on with the same program.',
    first: { kind: 'pause', text: 'Wipe the piece clean' },
  },
  'by-hand': {
    name: 'Work by hand',
    hint: 'Cleaning, masking, filling: so many minutes of somebody, while the machine waits.',
    first: { kind: 'by-hand', text: 'Clean the piece', minutes: 5 },
  },
  elsewhere: {
    name: 'Cut elsewhere',
    hint: 'Another tool cuts: the piece leaves the machine, and the next program is a file of its own.',
    first: { kind: 'elsewhere', text: 'Cut the contour', tool: 'router', toolMm: 3 },
  },
  'set-up': {
    name: 'Another set-up',
    hint: 'The piece is laid or prepared anew: a program file of its own, with its own list before the start.',
    first: { kind: 'set-up', name: 'Turn the piece over' },
  },
}

/** What stands on its block: as short as can be. */
export const shortly = (step: Stop): string => {
  if (step.kind === 'by-hand') return `${step.minutes} min`
  if (step.kind === 'elsewhere') return step.tool || 'elsewhere'
  return step.kind === 'pause' ? 'pause' : 'set-up'
}

/** A step in other words. */
export const worded = (step: Stop, text: string): Stop => (step.kind === 'set-up' ? { ...step, name: text } : { ...step, text })

/** The same said by another kind of step. */
export function asKind(step: Stop, kind: StopKind): Stop {
  const words = askedBy(step) ?? ''
  const first = STOP_WORDS[kind].first
  return kind === step.kind ? step : worded(first, words)
}
