import type { JobDocument } from '@neotaxis/core'
import { startTransition, useEffect, useLayoutEffect, useReducer, useRef } from 'react'
import { jobOnScreen } from '../store/job-on-screen.ts'
import { store } from '../store/store.ts'
import { cancelWork, draw, forecast, measure, onWorkerDeath, progressNow } from './engine.ts'
import {
  AT_REST,
  type Evaluated,
  evaluation,
  isWorkedOutIn,
  nextStep,
  type Result,
  type Said,
  type Step,
  yields,
} from './evaluation-machine.ts'
import { uprightJob } from './upright-job.ts'

const LONG_MS = 500
const PROGRESS_MS = 120
/** Painting takes no longer than this. */
const PAINTING_MS = 100

let state = AT_REST
let running = false
const listeners = new Set<() => void>()

function say(said: Said): void {
  const before = state
  state = evaluation(state, said)
  if (state.shown !== before.shown) for (const listener of listeners) listener()
}

/** On a bench artwork stands upright, however it lies. */
let standsUpright = false

/** Works the job out as a bench shows it, upright, or as it lies. */
export function workUpright(on: boolean): void {
  if (on === standsUpright) return
  standsUpright = on
  takeUp()
}

/** What is worked out first from now on. */
export const workOut = (first: 'outlines' | 'burn'): void => say({ type: 'first', burn: first === 'burn' })

/** What somebody looks at from now on: its outlines are worked out before the others. */
export const lookAt = (nodes: readonly string[]): void => say({ type: 'looked', nodes })

/** Shows an operation that does not run beside those that do. @param operation none any more: undefined */
export function showBeside(operation: string | undefined): void {
  say({ type: 'beside', operation })
  void work()
}

/** Leaves operations out of the forecast, though they run. */
export function hideOperations(operations: readonly string[]): void {
  say({ type: 'hidden', operations })
  void work()
}

/** Whether all that is shown belongs to this document. */
export const isWorkedOut = (job: JobDocument): boolean => isWorkedOutIn(state.shown, job)

async function done(step: Step): Promise<Result> {
  if (step.kind === 'draw') {
    const drawing = await (step.only ? draw(step.job, step.only) : draw(step.job))
    return drawing && { drawing }
  }
  if (step.kind === 'forecast') return (await forecast(step.job, step.beside, step.hidden)) ? { painted: true } : undefined
  const found = await measure(step.job)
  return found && { measure: found }
}

/** Works through the newest document: outlines, the burn, then times and findings. A change after the outlines starts over. */
async function work(): Promise<void> {
  if (running) return
  running = true
  const started = performance.now()
  const timer = setInterval(() => {
    if (performance.now() - started > LONG_MS) say({ type: 'took so long', progress: progressNow() })
  }, PROGRESS_MS)
  for (let step = nextStep(state); step; step = nextStep(state)) {
    say({ type: 'begun', step })
    try {
      say({ type: 'answered', result: await done(step) })
    } catch (cause) {
      say({ type: 'failed', message: cause instanceof Error ? cause.message : 'The job could not be worked out.' })
      continue
    }
    const { wanted, shown } = state
    if (step.job !== wanted) continue
    if (step.kind === 'draw' && step.only && shown.seen === wanted) await onceShown('outline')
    if (step.kind === 'forecast' && shown.forecast === wanted) await onceShown('burn')
  }
  clearInterval(timer)
  running = false
  say({ type: 'took so long', progress: undefined })
}

/** When the document that is wanted came up, and what of it is on screen. */
let wantedAt = 0
const onScreen = new Set<'outline' | 'burn'>()

/** Writes down how long it took from a change until its outlines or its burn were painted (User Timing, “outline” and “burn”). */
export function painted(what: 'outline' | 'burn', job: JobDocument): void {
  const { wanted, shown } = state
  if (job !== wanted || onScreen.has(what) || (what === 'outline' ? shown.seen : shown.forecast) !== job) return
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
  const { id: jobId } = store.getState().job
  const stored = jobOnScreen()
  const document = stored && standsUpright ? uprightJob(stored) : stored
  const before = state
  say({ type: 'wanted', jobId, document })
  if (state.wanted === before.wanted) return
  wantedAt = performance.now()
  onScreen.clear()
  // What is not wanted any more is not waited for on screen either.
  for (const go of awaiting.splice(0)) go()
  if (!document) return
  if (yields(state)) cancelWork()
  void work()
}

store.subscribe(takeUp)

// What a dead worker had made is gone with it: it is made again for whoever looks.
onWorkerDeath(() => {
  say({ type: 'died' })
  void work()
})

/** What is computed of the job on screen by now. */
export const evaluatedNow = (): Evaluated => state.shown

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
  const value = pick(state.shown)
  const [, again] = useReducer((n: number) => n + 1, 0)
  const seen = useRef({ value, pick })
  useLayoutEffect(() => {
    seen.current = { value, pick }
    // Something came while this was rendered.
    if (!Object.is(pick(state.shown), value)) startTransition(again)
  })
  useEffect(() => {
    const look = (): void => {
      if (!Object.is(seen.current.pick(state.shown), seen.current.value)) startTransition(again)
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
  say({ type: 'resumed' })
  void work()
}
