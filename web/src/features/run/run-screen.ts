// The run screen without a page: what the operator said so far, why a run cannot start, and what can be pressed.
import type { DeskLive, DeskState, RunLive } from '@neotaxis/contract'
import type { PreflightItem, RunChange, RunScope } from '@neotaxis/core'
import { isBusy, isLinked } from '../live/desk-words.ts'
import { doesFirst, missingBeforeStart } from './readiness.ts'

/** Phases after which nothing more happens. */
const ENDED = ['done', 'stopped', 'refused', 'lost']

/** What of the chosen blocks a run burns, and how. */
export type RunPart = Omit<RunScope, 'only'>

/** What the operator said on this screen. It is of this page alone until it is sent. */
export interface Hand {
  /** Blocks that run, in the order of the job. */
  readonly chosen: readonly string[]
  /** Items of the list that were seen to, for one start. */
  readonly answers: ReadonlySet<string>
  /** What the next run is limited to, and its settings that count for it alone. */
  readonly part: RunPart
  /** What runs again, with its settings for this run only. */
  readonly again: Readonly<Record<string, RunChange>>
  /** The run that was finished here: the screen is free for the next one. */
  readonly left: string | undefined
  /** Finish was pressed while something was open. */
  readonly isSure: boolean
}

export const freshHand = (order: readonly string[]): Hand => ({
  chosen: order,
  answers: new Set(),
  part: {},
  again: {},
  left: undefined,
  isSure: false,
})

export type HandSaid =
  | { readonly type: 'answered'; readonly item: string; readonly yes: boolean }
  | { readonly type: 'all answered'; readonly items: readonly string[] }
  | { readonly type: 'chose'; readonly blocks: readonly string[] }
  /** Operations came or went while the job was edited. */
  | { readonly type: 'order'; readonly order: readonly string[] }
  | { readonly type: 'part'; readonly part: RunPart }
  | { readonly type: 'again'; readonly again: Readonly<Record<string, RunChange>> }
  /** A run was started: what was confirmed was confirmed for it. */
  | { readonly type: 'started' }
  /** It goes on after a pause. */
  | { readonly type: 'went on' }
  | { readonly type: 'sure' }
  | { readonly type: 'finished'; readonly run: string }
  /** The machine does not know any more where its head is. */
  | { readonly type: 'place lost' }

/** What was said after something more was said. */
export function hand(now: Hand, said: HandSaid): Hand {
  switch (said.type) {
    case 'answered': {
      const answers = new Set(now.answers)
      if (said.yes) answers.add(said.item)
      else answers.delete(said.item)
      return { ...now, answers }
    }
    case 'all answered':
      return { ...now, answers: new Set([...now.answers, ...said.items]) }
    case 'chose':
      return { ...now, chosen: said.blocks }
    case 'order':
      return { ...now, chosen: said.order, part: {} }
    case 'part':
      return { ...now, part: said.part }
    case 'again':
      return { ...now, again: said.again }
    case 'started':
      return { ...now, answers: new Set(), again: {}, isSure: false }
    case 'went on':
      return { ...now, answers: new Set() }
    case 'sure':
      return { ...now, isSure: true }
    case 'finished':
      return { ...now, left: said.run, part: {}, again: {}, isSure: false }
    case 'place lost': {
      if (!now.answers.has('focus')) return now
      const answers = new Set(now.answers)
      answers.delete('focus')
      return { ...now, answers }
    }
  }
}

/** Whether the machine knows where its head is: what was set by moving it counts. */
export const knowsPlace = (desk: DeskLive): boolean => isLinked(desk) && desk.report?.state !== 'alarm'

/** What the screen goes by. */
export interface RunFacts {
  readonly jobId: string
  readonly operator: string
  readonly desk: DeskLive
  readonly hand: Hand
  /** Findings that forbid a run of what is chosen. */
  readonly stops: readonly string[]
  readonly items: readonly PreflightItem[]
  /** The job is worked out as it is now. */
  readonly measured: boolean
  /** What of the closing list is open; undefined until it is told what was written down of the run. */
  readonly open: readonly string[] | undefined
  /** Blocks of the job. */
  readonly blocks: number
  readonly frame: { readonly power: number; readonly loop: boolean }
}

export type Pressed = 'frame' | 'start' | 'arm' | 'hold' | 'resume' | 'stop' | 'again' | 'finish' | 'sure'

export interface RunButton {
  readonly does: Pressed
  readonly title: string
  readonly detail: string
  readonly kind: 'plain' | 'main' | 'dark' | 'hot'
  readonly disabled: boolean
}

export interface RunScreen {
  /**
   * before: nothing of this job is on the machine · busy: the machine does something else · active: a run of this job goes on ·
   * over: it ended, and is looked at before the piece is lifted.
   */
  readonly at: 'before' | 'busy' | 'active' | 'over'
  /** The run of this job, while it goes on and until it is finished with. */
  readonly mine: RunLive | null
  /** A run of another job that goes on. */
  readonly others: RunLive | null
  /** What is missing before a start; empty where nothing is. */
  readonly missing: string
  /** The head may be moved, and a frame be driven. */
  readonly isIdle: boolean
  readonly buttons: readonly RunButton[]
}

/** What a stop ends, where nothing of this job is on the machine. */
const ENDS: Readonly<Partial<Record<DeskState, readonly [title: string, detail: string]>>> = {
  framing: ['Stop framing', 'shift the piece by hand meanwhile'],
  pulsing: ['Stop the pulses', 'the lens where the mark is smallest'],
  preparing: ['Stop', 'the program is being made, nothing burns yet'],
  starting: ['Stop', 'its first lines go out'],
  stopping: ['Stop', 'until the machine says that it stands'],
  homing: ['Stop', 'the head looks for its corner'],
  jogging: ['Stop', 'the head moves'],
}

const button = (does: Pressed, title: string, detail: string, kind: RunButton['kind'], disabled = false): RunButton => ({
  does,
  title,
  detail,
  kind,
  disabled,
})

function whileItRuns({ phase, setUp }: RunLive, { items, hand: { answers } }: RunFacts): RunButton[] {
  const stop = button(
    'stop',
    'Stop',
    phase === 'stopping' ? 'until the machine says that it stands' : 'one press, ends here',
    'hot',
  )
  if (phase === 'stopping') return [stop]
  if (phase === 'armed') return [button('hold', 'Press start there', 'armed: the button at the machine', 'dark', true), stop]
  if (phase === 'running') return [button('hold', 'Hold', 'beam off, place kept · Space', 'dark'), stop]
  const how = phase === 'homing' ? 'homes first, then from the same place' : 'from the same place · Space'
  const open = setUp ? items.filter(({ id }) => !answers.has(id)).length : 0
  if (open > 0) return [button('resume', 'Go on', `go through the list of this set-up first: ${open} open`, 'main', true), stop]
  return [button('resume', 'Go on', how, 'main', phase === 'away'), stop]
}

function whenItIsOver({ hand: { again, isSure }, open, blocks }: RunFacts): RunButton[] {
  // Until it is known what was written down, nothing can be added to it.
  const count = open === undefined ? 0 : Object.keys(again).length
  const more = count > 0 ? `${count} of ${blocks} blocks, zero kept` : 'say what is missing first'
  const kind = count > 0 ? 'plain' : 'main'
  const runAgain = button('again', 'Run again', more, count > 0 ? 'main' : 'plain', count === 0)
  if (open === undefined) return [runAgain, button('finish', 'Finish', 'what was written down is not here yet', kind, true)]
  if (open.length === 0) return [runAgain, button('finish', 'Finish', 'write it down, lift the piece', kind)]
  const details = `still open: ${open.join(', ')}`
  return [runAgain, isSure ? button('finish', 'Finish all the same', details, kind) : button('sure', 'Finish', details, kind)]
}

function beforeIt(facts: RunFacts, missing: string, isIdle: boolean): RunButton[] {
  const { frame, hand: said, desk, items } = facts
  const { chosen } = said
  const first = doesFirst({ desk, items, answers: said.answers })
  const rounds = frame.loop ? 'again and again' : 'once'
  return [
    button('frame', 'Frame', `${frame.power > 0 ? 'weak beam' : 'dark'}, ${rounds}`, 'plain', !isIdle || chosen.length === 0),
    button('start', 'Start', missing || (first ? `${first}, then the beam goes on` : 'the beam goes on'), 'main', missing !== ''),
    button('arm', 'Arm', 'start with the button there', 'plain', missing !== ''),
  ]
}

/** What the screen shows and what can be pressed. Whatever the machine does, Stop is there. */
export function runScreen(facts: RunFacts): RunScreen {
  const { jobId, desk, hand: said } = facts
  const { run } = desk
  const mine = run?.jobId === jobId && run.id !== said.left ? run : null
  const others = run && run.jobId !== jobId && !ENDED.includes(run.phase) ? run : null
  const isOver = mine !== null && ENDED.includes(mine.phase)
  const isIdle = desk.state === 'idle' && desk.report?.state === 'idle'
  const missing = missingBeforeStart({ ...facts, chosen: said.chosen, answers: said.answers })
  const common = { mine, others, missing, isIdle }
  if (mine && !isOver) return { ...common, at: 'active', buttons: whileItRuns(mine, facts) }
  if (isBusy(desk)) {
    const [title, detail] = ENDS[desk.state] ?? ['Stop', run ? `${desk.holder} is running “${run.name}”` : 'one press']
    // What was burned is still looked at while somebody moves the head.
    return { ...common, at: mine ? 'over' : 'busy', buttons: [button('stop', title, detail, 'hot')] }
  }
  if (isOver) return { ...common, at: 'over', buttons: whenItIsOver(facts) }
  return { ...common, at: 'before', buttons: beforeIt(facts, missing, isIdle) }
}
