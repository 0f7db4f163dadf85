// Runs in a worker thread: the way around what a job burns.
import { parentPort, workerData } from 'node:worker_threads'
import { type FrameShape, framePath, type JobDocument } from '@neotaxis/core'
import { benchFor } from './bench.ts'

const { job, shape, only, assets } = workerData.data as {
  job: JobDocument
  shape: FrameShape
  only: string[] | undefined
  assets: Record<string, Uint8Array>
}
parentPort!.postMessage(framePath(job, benchFor(assets), shape, only && new Set(only)))
