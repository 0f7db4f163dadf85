import type { JobDocument } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { ServerRefusal } from '../../api/call.ts'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { closed } from '../../store/job-slice.ts'
import { keepSaved, openHere } from '../../store/keep-saved.ts'
import { lookingAt } from '../../store/looked-at.ts'
import { store } from '../../store/store.ts'
import { pieceLookedAt, selected } from '../../store/view-slice.ts'
import { runKey } from '../bar/commands.ts'

export interface Trouble {
  readonly message: string
  /** It is not there at all, so trying again is no use. */
  readonly gone: boolean
}

/** The job that a screen shows now. */
let held: string | null = null

/** Opens a job for a screen, keeps it saved, and closes it when the screen is left. @param screen the last part of its address */
export function useOpenJob(id: string, screen: string): { job: JobDocument | null; trouble: Trouble | null; again: () => void } {
  const dispatch = useDispatch()
  const navigate = useNavigate()
  const { enqueueSnackbar } = useSnackbar()
  const kept = useSelector((state) => (state.job.id === id ? state.job.document : null))
  const piece = useSelector((state) => state.view.piece)
  const job = kept && lookingAt(kept, piece ?? undefined)
  const [trouble, setTrouble] = useState<Trouble | null>(null)
  const [attempt, setAttempt] = useState(0)

  // biome-ignore lint/correctness/useExhaustiveDependencies: another attempt opens it again
  useEffect(() => {
    const wanted = new AbortController()
    const onBranch = ({ id: branch, name }: { id: string; name: string }): void => {
      enqueueSnackbar(`Somebody changed the same things meanwhile. Your version is kept as “${name}”, and this is it.`, {
        variant: 'info',
        autoHideDuration: 12_000,
      })
      void navigate(`/jobs/${branch}/${screen}`)
    }
    const onRefused = (message: string): void => void enqueueSnackbar(message, { variant: 'warning', autoHideDuration: 15_000 })
    setTrouble(null)
    let end: (() => void) | undefined
    held = id
    // At a machine all of a job is burned: it is looked at as a whole.
    if (screen === 'run') dispatch(pieceLookedAt(null))
    // From one screen of a job to another it stays open.
    const open =
      store.getState().job.id === id
        ? Promise.resolve()
        : openHere(id, { onBranch, onRefused, isWanted: () => !wanted.signal.aborted })
    open
      .then(() => {
        if (!wanted.signal.aborted) end = keepSaved(onBranch)
      })
      .catch((cause: unknown) => {
        if (!wanted.signal.aborted)
          setTrouble({
            message: cause instanceof Error ? cause.message : 'The job cannot be opened.',
            gone: cause instanceof ServerRefusal && cause.status === 404,
          })
      })
    return () => {
      wanted.abort()
      end?.()
      held = null
      setTimeout(() => {
        if (held === id) return
        dispatch(closed())
        dispatch(selected(null))
        dispatch(pieceLookedAt(null))
      })
    }
  }, [id, attempt, dispatch, navigate, enqueueSnackbar])

  // One change was not taken: the others are.
  const notDone = useSelector((state) => state.job.notDone)
  useEffect(() => {
    if (notDone) enqueueSnackbar(notDone, { variant: 'warning', autoHideDuration: 12_000 })
  }, [notDone, enqueueSnackbar])

  useEffect(() => {
    window.addEventListener('keydown', runKey)
    return () => window.removeEventListener('keydown', runKey)
  }, [])

  useEffect(() => {
    document.title = job ? `${job.name} · Neotaxis` : 'Neotaxis'
  }, [job])

  return { job, trouble, again: () => setAttempt((n) => n + 1) }
}
