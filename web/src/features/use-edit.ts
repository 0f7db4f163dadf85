import type { JobDocument } from '@neotaxis/core'
import { useCallback } from 'react'
import { useDispatch, useSelector } from '../store/hooks.ts'
import { jobOnScreen } from '../store/job-on-screen.ts'
import { abandoned, changing, edited } from '../store/job-slice.ts'
import { asKept, lookingAt } from '../store/looked-at.ts'
import { store } from '../store/store.ts'

/**
 * The job without the change in progress: what does not show that change need not be drawn again while it is dragged.
 * @param job what is on screen, where nothing else is there
 */
export const useRested = (job: JobDocument): JobDocument => {
  const base = useSelector((state) => state.job.base)
  return base ? lookingAt(base, job.lookedAt) : job
}

/** A change of the job as a function of what is there. */
export type Change = (job: JobDocument) => JobDocument

/** Makes one named edit of the job. */
export function useEdit(): (name: string, change: Change) => void {
  const dispatch = useDispatch()
  return useCallback(
    (name, change) => {
      const document = jobOnScreen()
      if (document) dispatch(edited(name, asKept(change(document))))
    },
    [dispatch],
  )
}

/** Shows a change in progress, from the last finished state; `useEdit` or `finish` ends it, `giveUp` takes it back. */
export function useChange(): { show: (change: Change) => void; finish: (name: string) => void; giveUp: () => void } {
  const dispatch = useDispatch()
  const show = useCallback(
    (change: Change) => {
      const { job, view } = store.getState()
      if (job.base) dispatch(changing(asKept(change(lookingAt(job.base, view.piece ?? undefined)))))
    },
    [dispatch],
  )
  const finish = useCallback((name: string) => void dispatch(edited(name)), [dispatch])
  const giveUp = useCallback(() => void dispatch(abandoned()), [dispatch])
  return { show, finish, giveUp }
}
