import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'

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
  for (const id of burnOrder(job)) operations[id] = { ...job.operations[id], ...changes[id] } as Operation
  const changed = { ...job, operations: { ...job.operations, ...operations } }
  return only ? onlySteps(changed, new Set(only)) : changed
}

/** The job with only some of its operations in its order, each with what is asked right before it; set-ups stay where they count. */
export function onlySteps(job: JobDocument, only: ReadonlySet<string>): JobDocument {
  const order: string[] = []
  let waiting: string[] = []
  for (const id of job.order) {
    const step = job.steps[id]
    if (step.kind !== 'burn') {
      waiting.push(id)
      continue
    }
    if (step.off) continue
    if (only.has(step.operation)) order.push(...waiting, id)
    // What was asked for something else is not asked; how workpieces lie since then still counts.
    waiting = only.has(step.operation)
      ? []
      : waiting.filter((each) => {
          const { kind, poses } = job.steps[each] as { kind: string; poses?: object }
          return kind === 'set-up' && poses !== undefined
        })
  }
  const steps = Object.fromEntries(order.map((id) => [id, job.steps[id]]))
  return { ...job, steps, order }
}
