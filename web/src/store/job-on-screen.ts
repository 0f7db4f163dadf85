import type { JobDocument } from '@neotaxis/core'
import { lookingAt } from './looked-at.ts'
import { store } from './store.ts'

/** The job on screen, with the workpiece that is looked at; null where none is open. */
export function jobOnScreen(): JobDocument | null {
  const { job, view } = store.getState()
  return job.document && lookingAt(job.document, view.piece ?? undefined)
}
