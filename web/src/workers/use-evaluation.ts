import { isOutline, type JobDocument } from '@neotaxis/core'
import { startTransition, useEffect, useLayoutEffect, useReducer, useRef } from 'react'
import { store } from '../store/store.ts'
import { cancelWork, draw, forecast, measure, onWorkerDeath, progressNow } from './engine.ts'
import type { Drawing, Measure } from './shared.ts'
import { uprightJob } from './upright-job.ts'

/** What is computed of the job on screen. Old results stay until new ones are there. */
export interface Evaluated {
  readonly drawing: Drawing | undefined
  readonly measure: Measure | undefined
  /** The document that those outlines of `drawing` belong to which are looked at. */
  readonly seen: JobDocument | undefined
  /** The document that all of `drawing`, the painter's forecast and `measure` belong to. */
  readonly drawn: JobDocument | undefined
  readonly forecast: JobDocument | undefined
  readonly measured: JobDocument | undefined
  /** Work that takes longer than half a second: how far it is, 0–1. */
  readonly progress: number | undefined
  readonly cancelled: boolean
  readonly error: string | undefined
}

const NOTHING: Evaluated = {
  drawing: undefined,
  measure: undefined,
  seen: undefined,
  drawn: undefined,
  forecast: undefined,
  measured: undefined,
  progress: undefined,
  cancelled: false,
  error: undefined,
}
const LONG_MS = 500
/** Painting takes no longer than this. */
const PAINTING_MS = 100

let state = NOTHING
let jobId: string | null = null
let wanted: JobDocument | null = null
let running = false
let beyondOutlines = false
const listeners = new Set<() => void>()

function publish(change: Partial<Evaluated>): void {
  state = { ...state, ...change }
  for (const listener of listeners) listener()
}

/** On the picture bench nobody looks at outlines: the burn comes first. */
let burnFirst = false

/** On a bench artwork stands upright, however it lies. */
let standsUpright = false

/** Works the job out as a bench shows it, upright, or as it lies. */
export function workUpright(on: boolean): void {
  if (on === standsUpright) return
  standsUpright = on
  takeUp()
}

/** What is worked out first from now on. */
export function workOut(first: 'outlines' | 'burn'): void {
  burnFirst = first === 'burn'
}

/** Outlines that are looked at: they are worked out before the others. */
let looked: readonly string[] = []

/** What somebody looks at from now on. */
export function lookAt(nodes: readonly string[]): void {
  looked = nodes
}

/** An operation that is put aside, and burned in the forecast all the same to be looked at. */
let beside: string | undefined

/** Shows an operation that does not run beside those that do. @param operation none any more: undefined */
export function showBeside(operation: string | undefined): void {
  if (operation === beside) return
  beside = operation
  publish({ forecast: undefined })
  if (wanted) void work()
}

/** Whether all that is shown belongs to this document. */
export const isWorkedOut = (job: JobDocument): boolean => state.drawn === job && state.forecast === job && state.measured === job

/** Works through the newest document: outlines, the burn, then times and findings. A change after the outlines starts over. */
async function work(): Promise<void> {
  if (running) return
  running = true
  const started = performance.now()
  const timer = setInterval(() => {
    if (performance.now() - started > LONG_MS) publish({ progress: progressNow() })
  }, 120)
  try {
    while (wanted && !isWorkedOut(wanted)) {
      const job = wanted
      if (state.drawn !== job && !(burnFirst && state.forecast !== job)) {
        const first = looked.filter((id) => job.nodes[id] && isOutline(job.nodes[id]))
        if (first.length > 0 && state.seen !== job) {
          const drawing = await draw(job, first)
          if (drawing) {
            publish({ drawing, seen: job, error: undefined, cancelled: false })
            if (wanted === job) await onceShown('outline')
          } else if (wanted === job) return publish({ cancelled: true })
          continue
        }
        // What nobody looks at waits for what somebody changes.
        beyondOutlines = state.seen === job
        const drawing = await draw(job)
        beyondOutlines = false
        if (drawing) publish({ drawing, seen: job, drawn: job, error: undefined, cancelled: false })
        else if (wanted === job) return publish({ cancelled: true })
        continue
      }
      // A newer change comes first: what takes longer waits until it rests. What is looked at is finished while it is dragged.
      beyondOutlines = !(burnFirst && state.forecast !== job)
      if (state.forecast !== job) {
        const shown = beside
        const made = await forecast(job, shown)
        if (made && shown !== beside) continue
        if (made) {
          publish({ forecast: job })
          if (wanted === job) await onceShown('burn')
        } else if (wanted === job) return publish({ cancelled: true })
      } else {
        const found = await measure(job)
        if (found) publish({ measure: found, measured: job })
        else if (wanted === job) return publish({ cancelled: true })
      }
      beyondOutlines = false
    }
  } catch (cause) {
    publish({
      error: cause instanceof Error ? cause.message : 'The job could not be worked out.',
      seen: wanted ?? undefined,
      drawn: wanted ?? undefined,
      forecast: wanted ?? undefined,
      measured: wanted ?? undefined,
    })
  } finally {
    beyondOutlines = false
    clearInterval(timer)
    running = false
    publish({ progress: undefined })
    if (wanted && !state.cancelled && !isWorkedOut(wanted)) void work()
  }
}

/** When the document that is wanted came up, and what of it is on screen. */
let wantedAt = 0
const onScreen = new Set<'outline' | 'burn'>()

/** Writes down how long it took from a change until its outlines or its burn were painted (User Timing, “outline” and “burn”). */
export function painted(what: 'outline' | 'burn', job: JobDocument): void {
  if (job !== wanted || onScreen.has(what) || (what === 'outline' ? state.seen : state.forecast) !== job) return
  onScreen.add(what)
  performance.measure(what, { start: wantedAt })
  for (const go of awaiting.splice(0)) go()
}

const awaiting: (() => void)[] = []

/** Until a result is on screen, or does not seem to get there: whoever paints it is not held up by what comes next. */
const onceShown = (what: 'outline' | 'burn'): Promise<void> =>
  new Promise((resolve) => {
    if (onScreen.has(what)) return resolve()
    awaiting.push(resolve)
    setTimeout(resolve, PAINTING_MS)
  })

/** Takes up the document that the store has now. */
function takeUp(): void {
  const { id, document: stored } = store.getState().job
  const document = stored && standsUpright ? uprightJob(stored) : stored
  if (id !== jobId) {
    jobId = id
    publish(NOTHING)
  }
  if (document === wanted) return
  wanted = document
  wantedAt = performance.now()
  onScreen.clear()
  // What is not wanted any more is not waited for on screen either.
  for (const go of awaiting.splice(0)) go()
  if (!wanted) return
  if (state.cancelled) publish({ cancelled: false })
  if (beyondOutlines) cancelWork()
  void work()
}

store.subscribe(takeUp)

// What a dead worker had made is gone with it: it is made again for whoever looks.
onWorkerDeath(() => {
  publish({ seen: undefined, drawn: undefined, forecast: undefined })
  if (wanted) void work()
})

/** What is computed of the job on screen by now. */
export const evaluatedNow = (): Evaluated => state

/** Told of everything that is computed. @returns the way to stop listening */
export const onEvaluated = (listener: () => void): (() => void) => {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/**
 * A part of what is computed of the job on screen, as it comes. What shows it is rendered bit by bit, so that a drag that
 * changes much never waits for it. @param pick gives the same thing while it is the same
 */
export function useEvaluation<T>(pick: (state: Evaluated) => T): T {
  // What is computed changes without React: it is read again with every rendering.
  'use no memo'
  const value = pick(state)
  const [, again] = useReducer((n: number) => n + 1, 0)
  const seen = useRef({ value, pick })
  useLayoutEffect(() => {
    seen.current = { value, pick }
    // Something came while this was rendered.
    if (!Object.is(pick(state), value)) startTransition(again)
  })
  useEffect(() => {
    const look = (): void => {
      if (!Object.is(seen.current.pick(state), seen.current.value)) startTransition(again)
    }
    // Something may have come before anybody listened.
    look()
    return onEvaluated(look)
  }, [])
  return value
}

/** Stops the work at hand; the next change starts it again. */
export function stopWork(): void {
  cancelWork()
}

/** Takes up stopped work again. */
export function resumeWork(): void {
  publish({ cancelled: false })
  void work()
}
