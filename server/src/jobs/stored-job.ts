import { checkJob, JOB_VERSION, type JobDocument, JobError } from '@neotaxis/core'
import type { Job } from '../models/index.ts'
import { Refusal } from '../refusal.ts'

/**
 * A document as it is stored, brought up to this version. What is of this version was checked when it was stored.
 * @throws Refusal where it cannot be brought up: it stays as it is, and can be saved as a file
 */
export function storedJob({ document }: Pick<Job, 'document'>): JobDocument {
  const job = JSON.parse(document) as JobDocument
  if (job.version === JOB_VERSION) return job
  try {
    return checkJob(job)
  } catch (cause) {
    if (!(cause instanceof JobError)) throw cause
    throw new Refusal(422, 'not-brought-up', `${cause.message} It stays as it was: save it as a file from the board.`)
  }
}
