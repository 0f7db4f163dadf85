import { type JobDocument, withArtwork } from '@neotaxis/core'
import type { DropQueue } from './drop-queue.ts'

/** What was chosen for one of several files that become one job. @param tag as for `withArtwork` */
export const joined = (queue: DropQueue, made: JobDocument, tag: string): DropQueue => ({
  ...queue,
  made: queue.made ? withArtwork(queue.made, made, tag) : made,
})
