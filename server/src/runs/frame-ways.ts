import { type FrameShape, framePath, jobForRun, type RunScope } from '@neotaxis/core'
import { jobSupply } from '../assets/job-assets.ts'
import { newestJob } from '../jobs/job-text.ts'

/** The way around what a run of a job would burn, machine mm: in a thread. */
export async function frameWays({
  jobId,
  shape,
  scope,
}: {
  jobId: string
  shape: FrameShape
  scope: RunScope
}): Promise<ReturnType<typeof framePath>> {
  const run = jobForRun((await newestJob(jobId)).document, scope)
  return framePath(run, await jobSupply(run), shape)
}
