import { type FrameShape, framePath } from '@neotaxis/core'
import { jobSupply } from '../assets/job-assets.ts'
import { newestJob } from '../jobs/job-text.ts'

/** The way around what a job burns, machine mm: in a thread. */
export async function frameWays({
  jobId,
  shape,
  only,
}: {
  jobId: string
  shape: FrameShape
  only: readonly string[] | undefined
}): Promise<ReturnType<typeof framePath>> {
  const { document } = await newestJob(jobId)
  return framePath(document, await jobSupply(document), shape, only && new Set(only))
}
