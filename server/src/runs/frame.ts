import { assetsOf, type FrameShape, type framePath, type JobDocument } from '@neotaxis/core'
import { assetBytes } from '../assets/store.ts'
import { inThread } from '../thread.ts'

const FRAME_SECONDS = 60

/** The way around what a job burns, machine mm; worked out beside the server's own work. */
export async function frameWays(
  job: JobDocument,
  shape: FrameShape,
  only: readonly string[] | undefined,
): Promise<ReturnType<typeof framePath>> {
  const assets: Record<string, Uint8Array> = {}
  for (const name of assetsOf(job)) assets[name] = await assetBytes(name)
  return inThread(new URL('./frame-thread.ts', import.meta.url), { job, shape, only, assets }, FRAME_SECONDS)
}
