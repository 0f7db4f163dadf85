import type { JobDocument } from '@neotaxis/core'

/** Files that were dropped together and wait for their turn. */
export interface DropQueue {
  readonly waiting: readonly File[]
  /** How many there were; 0 where nothing was dropped. */
  readonly all: number
  /** Whether all of them become one job. */
  readonly together: boolean
  /** That job as far as it is. */
  readonly made: JobDocument | null
}

export const NO_DROPS: DropQueue = { waiting: [], all: 0, together: false, made: null }

export const dropped = (queue: DropQueue, files: readonly File[]): DropQueue => ({
  ...queue,
  waiting: [...queue.waiting, ...files],
  all: queue.all + files.length,
})

/** The next file's turn; where none is left the queue ends with the job that was made of all of them, if there is one. */
export function nextTurn(queue: DropQueue): { readonly queue: DropQueue; readonly file?: File; readonly ready?: JobDocument } {
  const [file, ...waiting] = queue.waiting
  if (file) return { queue: { ...queue, waiting }, file }
  return { queue: NO_DROPS, ...(queue.made ? { ready: queue.made } : {}) }
}

/** “2 of 5”; nothing where it is alone. */
export const placeIn = ({ waiting, all }: DropQueue): string | undefined =>
  all > 1 ? `${all - waiting.length} of ${all}` : undefined
