import type { RunLive } from '@neotaxis/contract'
import type { RunNow } from '@neotaxis/link'
import { type Prepared, partAt, timeAt, waitAt } from '../runs/prepared.ts'

/** What of a run does not change while it goes on. */
export type RunFacts = Pick<RunLive, 'id' | 'jobId' | 'name' | 'operator' | 'only' | 'startedAt'>

/** A run as it stands now. */
export function runLive(facts: RunFacts, prepared: Prepared, { phase, reason, place, seconds }: RunNow): RunLive {
  const lines = place?.driven ?? 0
  const wait = phase === 'paused' ? waitAt(prepared, lines) : undefined
  return {
    ...facts,
    phase,
    reason,
    instruction: wait?.pause ?? null,
    setUp: wait && wait.list.length > 0 ? wait.list : null,
    place,
    lines: prepared.lines,
    seconds,
    estimateSeconds: prepared.seconds,
    doneSeconds: phase === 'done' ? prepared.seconds : timeAt(prepared, lines),
    operation: partAt(prepared, lines),
  }
}
