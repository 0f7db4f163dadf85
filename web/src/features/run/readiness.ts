import type { DeskLive } from '@neotaxis/contract'
import type { PreflightItem } from '@neotaxis/core'
import { isLinked } from '../live/desk-words.ts'

/** What the start of a run depends on. */
export interface Readiness {
  readonly operator: string
  readonly desk: DeskLive
  readonly stops: readonly string[]
  /** Blocks that run. */
  readonly chosen: readonly string[]
  /** The job is worked out as it is now. */
  readonly measured: boolean
  readonly items: readonly PreflightItem[]
  readonly answers: ReadonlySet<string>
}

/** Conditions of a start in the order in which they are seen to, each with what is missing. */
const CONDITIONS: readonly (readonly [missing: string, holds: (now: Readiness) => boolean])[] = [
  ['say who you are first, at the top', ({ operator }) => operator !== ''],
  ['connect the machine first', ({ desk }) => isLinked(desk)],
  ['first connection: check the machine', ({ desk }) => desk.checked],
  ['it cannot run as it is', ({ stops }) => stops.length === 0],
  ['choose a block below', ({ chosen }) => chosen.length > 0],
  ['the job is being worked out', ({ measured }) => measured],
  ['go through the list first', ({ items, answers }) => items.every(({ kind, id }) => kind !== 'routine' || answers.has(id))],
  [
    'set the focus, or say that it is set',
    ({ items, answers }) => items.every((item) => item.kind !== 'focus' || setsItself(item) || answers.has(item.id)),
  ],
  ['answer what the check asks', ({ items, answers }) => items.every((item) => setsItself(item) || answers.has(item.id))],
  ['close the lid first', ({ desk }) => desk.report?.lidOpen !== true],
  [
    'the machine is busy',
    ({ desk }) => desk.state === 'idle' && (desk.report?.state === 'idle' || desk.report?.state === 'alarm'),
  ],
]

/** What the machine does itself before it starts: it brings its lens to the focus. */
const setsItself = ({ action }: PreflightItem): boolean => action === 'focus'

/** What the machine does first when it is started, without its beam. */
export const whatFirst = ({ desk, items, answers }: Pick<Readiness, 'desk' | 'items' | 'answers'>) => ({
  homes: desk.report?.state === 'alarm',
  focuses: items.some((item) => setsItself(item) && !answers.has(item.id)),
})

/** The same in words; empty where nothing is left to do. */
export function doesFirst(now: Pick<Readiness, 'desk' | 'items' | 'answers'>): string {
  const { homes, focuses } = whatFirst(now)
  return [...(homes ? ['homes'] : []), ...(focuses ? ['sets its focus'] : [])].join(', ')
}

/** What is missing before a run can start; empty where nothing is. */
export const missingBeforeStart = (now: Readiness): string => CONDITIONS.find(([, holds]) => !holds(now))?.[0] ?? ''
