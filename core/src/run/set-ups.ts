import type { JobDocument, Operation } from '../job/document.ts'

/** Ids of the operations of each set-up, in run order: a pause for another set-up begins the next one. */
export function setUps(job: JobDocument): string[][] {
  const parts: string[][] = [[]]
  for (const id of job.runOrder) {
    if (job.operations[id].pauseBefore?.newSetUp && parts[parts.length - 1].length > 0) parts.push([])
    parts[parts.length - 1].push(id)
  }
  return parts
}

/** The job for one set-up: the pause that begins it happens between the programs, not in one. */
export function withoutFirstPause(job: JobDocument, only: readonly string[]): JobDocument {
  const first = job.operations[only[0]]
  if (!first?.pauseBefore) return job
  const { pauseBefore: _between, ...rest } = first
  return { ...job, operations: { ...job.operations, [only[0]]: rest as Operation } }
}
