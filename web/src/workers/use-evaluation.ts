import type { JobDocument } from '@neotaxis/core'
import { useSyncExternalStore } from 'react'
import { store } from '../store/store.ts'
import { cancelWork, draw, measure, progressNow } from './engine.ts'
import type { Drawing, Measure } from './shared.ts'

/** What is computed of the job on screen. Old results stay until new ones are there. */
export interface Evaluated {
  readonly drawing: Drawing | undefined
  readonly measure: Measure | undefined
  /** The document that `drawing` and `measure` belong to. */
  readonly drawn: JobDocument | undefined
  readonly measured: JobDocument | undefined
  /** Work that takes longer than half a second: how far it is, 0–1. */
  readonly progress: number | undefined
  readonly cancelled: boolean
  readonly error: string | undefined
}

const NOTHING: Evaluated = {
  drawing: undefined,
  measure: undefined,
  drawn: undefined,
  measured: undefined,
  progress: undefined,
  cancelled: false,
  error: undefined,
}
const LONG_MS = 500

let state = NOTHING
let jobId: string | null = null
let wanted: JobDocument | null = null
let running = false
let measuring = false
const listeners = new Set<() => void>()

function publish(change: Partial<Evaluated>): void {
  state = { ...state, ...change }
  for (const listener of listeners) listener()
}

/** Works through the newest document: first what is seen, then times and findings. A change while measuring starts over. */
async function work(): Promise<void> {
  if (running) return
  running = true
  const started = performance.now()
  const timer = setInterval(() => {
    if (performance.now() - started > LONG_MS) publish({ progress: progressNow() })
  }, 120)
  try {
    while (wanted && (state.drawn !== wanted || state.measured !== wanted)) {
      const job = wanted
      if (state.drawn !== job) {
        const drawing = await draw(job)
        if (!drawing) return publish({ cancelled: true })
        publish({ drawing, drawn: job, error: undefined, cancelled: false })
        continue
      }
      // A change in progress is only drawn; it is measured when it rests.
      measuring = true
      const found = await measure(job)
      measuring = false
      if (found) publish({ measure: found, measured: job })
      else if (wanted === job) return publish({ cancelled: true })
    }
  } catch (cause) {
    publish({
      error: cause instanceof Error ? cause.message : 'The job could not be worked out.',
      drawn: wanted ?? undefined,
      measured: wanted ?? undefined,
    })
  } finally {
    measuring = false
    clearInterval(timer)
    running = false
    publish({ progress: undefined })
    if (wanted && !state.cancelled && (state.drawn !== wanted || state.measured !== wanted)) void work()
  }
}

store.subscribe(() => {
  const { id, document } = store.getState().job
  if (id !== jobId) {
    jobId = id
    publish(NOTHING)
  }
  if (document === wanted) return
  wanted = document
  if (!wanted) return
  if (state.cancelled) publish({ cancelled: false })
  if (measuring) cancelWork()
  void work()
})

const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/** A part of what is computed of the job on screen, as it comes. @param pick gives the same thing while it is the same */
export const useEvaluation = <T>(pick: (state: Evaluated) => T): T => useSyncExternalStore(subscribe, () => pick(state))

/** Whether all that is shown belongs to this document. */
export const isWorkedOut = (job: JobDocument): boolean => state.drawn === job && state.measured === job

/** Stops the work at hand; the next change starts it again. */
export function stopWork(): void {
  cancelWork()
}

/** Takes up stopped work again. */
export function resumeWork(): void {
  publish({ cancelled: false })
  void work()
}
