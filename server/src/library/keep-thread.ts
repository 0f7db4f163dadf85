// Runs in a worker thread: looks at an asset again, and paints the small picture of the library.
import { parentPort, workerData } from 'node:worker_threads'
import { PictureError } from '@neotaxis/core'
import { artworkPicture, takeIn } from '@neotaxis/intake'

try {
  const { bytes, ...facts } = await takeIn(workerData.data as Uint8Array)
  parentPort!.postMessage({ facts, picture: facts.font ? undefined : artworkPicture(bytes) })
} catch (cause) {
  if (!(cause instanceof PictureError)) throw cause
  parentPort!.postMessage({ refused: cause.message })
}
