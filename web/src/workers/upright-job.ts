import { type JobDocument, upright } from '@neotaxis/core'

const made = new WeakMap<JobDocument, JobDocument>()

/** A job as a bench shows it, nothing of it turned: the same thing for the same job. */
export function uprightJob(job: JobDocument): JobDocument {
  let it = made.get(job)
  if (!it) {
    it = upright(job)
    made.set(job, it)
  }
  return it
}
