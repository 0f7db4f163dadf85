import type { JobDocument, Operation } from '../job/document.ts'

/** Settings of one operation that count for one run only. */
export interface RunChange {
  readonly power?: number
  readonly speedMmS?: number
  readonly passes?: number
}

/** What a run burns of a job. */
export interface RunScope {
  /** Ids of the operations that run; left out: all. */
  readonly only?: readonly string[]
  readonly changes?: Readonly<Record<string, RunChange>>
}

/** The job as a run burns it: only some of its operations, some of them with other settings. The job stays as it is. */
export function jobForRun(job: JobDocument, { only, changes = {} }: RunScope): JobDocument {
  const operations: Record<string, Operation> = {}
  for (const id of job.runOrder) operations[id] = { ...job.operations[id], ...changes[id] } as Operation
  const runOrder = only ? job.runOrder.filter((id) => only.includes(id)) : job.runOrder
  return { ...job, operations: { ...job.operations, ...operations }, runOrder }
}
