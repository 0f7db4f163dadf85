// Runs in a worker thread: decoding a large or hostile picture never holds up the server.
import { parentPort, workerData } from 'node:worker_threads'
import { PictureError } from '@neotaxis/core'
import { takeIn } from '@neotaxis/intake'

try {
  parentPort!.postMessage({ intake: await takeIn(workerData.data as Uint8Array) })
} catch (cause) {
  if (!(cause instanceof PictureError)) throw cause
  parentPort!.postMessage({ refused: cause.message })
}
