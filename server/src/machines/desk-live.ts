import type { RunLive } from '@neotaxis/contract'
import type { RunNow } from '@neotaxis/link'
import { instructionAt, type Prepared, partAt, timeAt } from '../runs/prepared.ts'

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
