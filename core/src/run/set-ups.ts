import type { JobDocument } from '../job/document/document.ts'
import { poseAt } from '../job/document/pieces.ts'
import { burns, partsPrograms } from '../job/document/steps.ts'

/** Ids of the operations of each set-up, in the order in which they burn: a step that parts programs begins the next one. */
export function setUps(job: JobDocument): string[][] {
  const parts: string[][] = [[]]
  for (const id of job.order) {
    const step = job.steps[id]
    if (partsPrograms(step) && parts[parts.length - 1].length > 0) parts.push([])
    if (burns(step)) parts[parts.length - 1].push(step.operation)
  }
  return parts.length > 1 && parts[parts.length - 1].length === 0 ? parts.slice(0, -1) : parts
}

/** The job for one set-up: what is asked before its first operation happens between the programs, not in one. */
export function withoutFirstPause(job: JobDocument, only: readonly string[]): JobDocument {
  const first = job.order.findIndex((id) => {
    const step = job.steps[id]
    return step.kind === 'burn' && step.operation === only[0]
  })
  if (first < 0) return job
  let from = first
  while (from > 0 && !burns(job.steps[job.order[from - 1]])) from--
  const asked = new Set(job.order.slice(from, first))
  // Between the programs workpieces may be laid anew: this one begins with them as they lie then.
  const workpieces = Object.fromEntries(
    Object.entries(job.workpieces).map(([id, piece]) => [id, { ...piece, pose: poseAt(job, id, only[0]) }]),
  )
  const order = job.order.filter((id) => !asked.has(id))
  return { ...job, workpieces, order, steps: Object.fromEntries(order.map((id) => [id, job.steps[id]])) }
}
