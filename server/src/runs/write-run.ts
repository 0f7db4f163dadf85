import type { JobDocument, RunScope } from '@neotaxis/core'
import { briefOf } from '../jobs/job-columns.ts'
import { Run } from '../models/runs.ts'
import type { Prepared } from './prepared.ts'

export interface RunToWrite {
  readonly id: string
  readonly jobId: string
  readonly jobRevision: number
  readonly parentId: string | null
  /** JSON. */
  readonly document: string
  readonly scope: RunScope
  readonly operator: string
  readonly answers: readonly string[]
  readonly phase: string
  readonly startedAt: Date
  readonly prepared: Pick<Prepared, 'lines' | 'seconds' | 'operations' | 'bounds'>
}

/** A run is in the journal from here on: in a thread, because its document may be large. */
export async function writeRun({ document, scope, answers, prepared, ...facts }: RunToWrite): Promise<void> {
  const job = JSON.parse(document) as JobDocument
  const { machine, name } = job
  await Run.create({
    ...facts,
    machineId: machine.id,
    name,
    reason: '',
    document,
    brief: JSON.stringify(briefOf(job)),
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
