import type { JobDocument, RunScope } from '@neotaxis/core'
import { Run } from '../models/runs.ts'
import type { Prepared } from './prepare.ts'

export interface RunFacts {
  readonly id: string
  readonly jobId: string
  readonly jobRevision: number
  readonly parentId: string | null
  readonly document: JobDocument
  readonly scope: RunScope
  readonly operator: string
  readonly answers: readonly string[]
  readonly phase: string
  readonly startedAt: Date
}

/** A run is in the journal from here on. */
export function keepRun({ document, scope, answers, ...facts }: RunFacts, prepared: Prepared): Promise<Run> {
  return Run.create({
    ...facts,
    machineId: document.machine.id,
    name: document.name,
    reason: '',
    document: JSON.stringify(document),
    scope: JSON.stringify(scope),
    answers: JSON.stringify(answers),
    place: null,
    lines: prepared.lines,
    estimateSeconds: prepared.seconds,
    seconds: 0,
    operations: JSON.stringify(prepared.operations),
    bounds: prepared.bounds && JSON.stringify(prepared.bounds),
    looks: '{}',
    closing: '[]',
    rating: null,
    note: '',
    photo: null,
    endedAt: facts.phase === 'carried' ? facts.startedAt : null,
  })
}
