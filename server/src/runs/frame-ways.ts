import { type FrameShape, frameLimit, framePath, jobForRun, type RunScope } from '@neotaxis/core'
import { jobSupply } from '../assets/job-assets.ts'
import { newestJob } from '../jobs/job-text.ts'

/** The ways of a frame, machine mm, and how fast it may go at most, mm/s. */
export interface FrameWays {
  readonly ways: ReturnType<typeof framePath>
  readonly mostMmS?: number | undefined
}

/** The way around what a run of a job would burn, machine mm: in a thread. */
export async function frameWays({
  jobId,
  shape,
  scope,
}: {
  jobId: string
  shape: FrameShape
  scope: RunScope
}): Promise<FrameWays> {
  const run = jobForRun((await newestJob(jobId)).document, scope)
  return { ways: framePath(run, await jobSupply(run), shape), mostMmS: frameLimit(run.machine) }
}
