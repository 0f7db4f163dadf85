import type { Place, Report, RunNow } from '@neotaxis/link'
import { instructionAt, type Prepared, partAt, timeAt } from '../runs/prepared.ts'
import type { DeskState } from './desk-states.ts'

/** A run as pages show it while it goes on. */
export interface RunLive {
  readonly id: string
  readonly jobId: string | null
  readonly name: string
  readonly operator: string
  readonly phase: string
  readonly reason: string
  /** At a planned pause: what is to be done at the machine. */
  readonly instruction: string | null
  readonly place: Place | null
  readonly lines: number
  /** Seconds of the machine's clock, and of the estimate: all of it, and what is done of it. */
  readonly seconds: number
  readonly estimateSeconds: number
  readonly doneSeconds: number
  readonly operation: string | null
  readonly only: readonly string[] | null
  readonly startedAt: number
}

/** What of a run does not change while it goes on. */
export type RunFacts = Pick<RunLive, 'id' | 'jobId' | 'name' | 'operator' | 'only' | 'startedAt'>

/** A run as it stands now. */
export function runLive(facts: RunFacts, prepared: Prepared, { phase, reason, place, seconds }: RunNow): RunLive {
  const lines = place?.driven ?? 0
  return {
    ...facts,
    phase,
    reason,
    instruction: phase === 'paused' ? instructionAt(prepared, lines) : null,
    place,
    lines: prepared.lines,
    seconds,
    estimateSeconds: prepared.seconds,
    doneSeconds: phase === 'done' ? prepared.seconds : timeAt(prepared, lines),
    operation: partAt(prepared, lines),
  }
}

/** How a machine stands, for every open page. */
export interface DeskLive {
  readonly machine: string
  readonly state: DeskState
  readonly trouble: string
  readonly address: string
  readonly simulated: boolean
  /** The first connection was gone through. */
  readonly checked: boolean
  readonly report: Report | null
  readonly silent: boolean
  /** So much nonsense came of late that the cable should be looked at. */
  readonly noisy: boolean
  /** Who is at it, while it does something. */
  readonly holder: string | null
  readonly run: RunLive | null
  /** The address of the server that has the machine, where it is another one. */
  readonly server: string | null
}
