import type { JobDocument } from '@neotaxis/core'

const seen = new WeakMap<JobDocument, Map<string, JobDocument>>()

/** The job as a screen shows it that looks at one of its workpieces: the same value for the same job and workpiece. */
export function lookingAt(job: JobDocument, piece: string | undefined): JobDocument {
  if (piece === undefined || !job.workpieces[piece] || Object.keys(job.workpieces).length < 2) return job
  const known = seen.get(job)?.get(piece)
  if (known) return known
  const made: JobDocument = { ...job, lookedAt: piece }
  const all = seen.get(job) ?? new Map<string, JobDocument>()
  seen.set(job, all)
  all.set(piece, made)
  return made
}

/** The job as it is kept: nobody looks at it. */
export function asKept(job: JobDocument): JobDocument {
  if (job.lookedAt === undefined) return job
  const { lookedAt: _, ...kept } = job
  return kept
}
