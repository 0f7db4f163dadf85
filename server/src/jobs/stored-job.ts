import { checkJob, JOB_VERSION, type JobDocument } from '@neotaxis/core'
import type { Job } from '../models/index.ts'

/** A document as it is stored, brought up to this version. What is of this version was checked when it was stored. */
export function storedJob({ document }: Pick<Job, 'document'>): JobDocument {
  const job = JSON.parse(document) as JobDocument
  return job.version === JOB_VERSION ? job : checkJob(job)
}
