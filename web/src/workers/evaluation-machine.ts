// What is stale, what is under way and what failed, without a page and without an engine.
import { isOutline, type JobDocument } from '@neotaxis/core'
import type { Drawing, Measure } from './shared.ts'

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
  /** Why the document `failed` cannot be worked out; it is not tried again. */
  readonly error: string | undefined
  readonly failed: JobDocument | undefined
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
  failed: undefined,
}

/** One thing that the engine works out. */
export type Step =
  | { readonly kind: 'draw'; readonly job: JobDocument; readonly only?: readonly string[] }
  | {
      readonly kind: 'forecast'
      readonly job: JobDocument
      readonly beside: string | undefined
      readonly hidden: readonly string[]
    }
  | { readonly kind: 'measure'; readonly job: JobDocument }

export interface Evaluation {
  readonly shown: Evaluated
  readonly jobId: string | null
  /** The document on screen. */
  readonly wanted: JobDocument | null
  /** Nodes that somebody looks at: their outlines come before the others. */
  readonly looked: readonly string[]
  /** Nobody looks at outlines: the burn comes first. */
  readonly burnFirst: boolean
  /** An operation that is put aside, and burned in the forecast all the same to be looked at. */
  readonly beside: string | undefined
  /** Operations that the forecast leaves out, because somebody wants to see what lies under them. */
  readonly hidden: readonly string[]
  readonly underWay: Step | undefined
}

export const AT_REST: Evaluation = {
  shown: NOTHING,
  jobId: null,
  wanted: null,
  looked: [],
  burnFirst: false,
  beside: undefined,
  hidden: [],
  underWay: undefined,
}

/** What an engine gives back; `undefined` where the work was called off. */
export type Result = { readonly drawing: Drawing } | { readonly painted: true } | { readonly measure: Measure } | undefined

export type Said =
  | { readonly type: 'wanted'; readonly jobId: string | null; readonly document: JobDocument | null }
  | { readonly type: 'looked'; readonly nodes: readonly string[] }
  | { readonly type: 'first'; readonly burn: boolean }
  | { readonly type: 'beside'; readonly operation: string | undefined }
  | { readonly type: 'hidden'; readonly operations: readonly string[] }
  | { readonly type: 'begun'; readonly step: Step }
  | { readonly type: 'answered'; readonly result: Result }
  | { readonly type: 'failed'; readonly message: string }
  | { readonly type: 'took so long'; readonly progress: number | undefined }
  /** Somebody takes stopped work up again. */
  | { readonly type: 'resumed' }
  /** The engine died, and what it held is gone with it. */
  | { readonly type: 'died' }

/** Whether all that is shown belongs to this document, or nothing more can be. */
export const isWorkedOutIn = ({ drawn, forecast, measured, failed }: Evaluated, job: JobDocument): boolean =>
  failed === job || (drawn === job && forecast === job && measured === job)

/** What is worked out next; undefined: nothing, or something is under way. */
export function nextStep({ shown, wanted: job, looked, burnFirst, beside, hidden, underWay }: Evaluation): Step | undefined {
  if (!job || underWay || shown.cancelled || isWorkedOutIn(shown, job)) return undefined
  if (shown.drawn !== job && !(burnFirst && shown.forecast !== job)) {
    const only = looked.filter((id) => job.nodes[id] && isOutline(job.nodes[id]))
    return only.length > 0 && shown.seen !== job ? { kind: 'draw', job, only } : { kind: 'draw', job }
  }
  return shown.forecast === job ? { kind: 'measure', job } : { kind: 'forecast', job, beside, hidden }
}

/**
 * Whether a newer document calls off what is under way. What is looked at is finished while it is dragged; what takes longer waits
 * until it rests.
 */
export function yields({ underWay, shown, burnFirst }: Evaluation): boolean {
  if (!underWay) return false
  if (underWay.kind === 'draw') return underWay.only === undefined && shown.seen === underWay.job
  return !(underWay.kind === 'forecast' && burnFirst)
}

const showing = (state: Evaluation, change: Partial<Evaluated>): Evaluation => ({
  ...state,
  shown: { ...state.shown, ...change },
})

function answered(state: Evaluation, step: Step, result: Result): Evaluation {
  const now: Evaluation = { ...state, underWay: undefined }
  // What was overtaken goes on with the newer document; what was stopped waits.
  if (!result) return step.job === state.wanted ? showing(now, { cancelled: true }) : now
  const well = { error: undefined, failed: undefined, cancelled: false }
  const { job } = step
  if (step.kind === 'draw' && 'drawing' in result)
    return showing(now, { ...well, drawing: result.drawing, seen: job, ...(!step.only && { drawn: job }) })
  // A burn beside which something else is wanted by now is not it.
  if (step.kind === 'forecast')
    return step.beside === state.beside && step.hidden === state.hidden ? showing(now, { ...well, forecast: job }) : now
  return 'measure' in result ? showing(now, { ...well, measure: result.measure, measured: job }) : now
}

/** The evaluation after something happened. */
export function evaluation(state: Evaluation, said: Said): Evaluation {
  switch (said.type) {
    case 'wanted': {
      const { jobId, document } = said
      const fresh = jobId === state.jobId ? state : { ...state, jobId, shown: NOTHING }
      if (document === state.wanted) return fresh
      const next = { ...fresh, wanted: document }
      return document && next.shown.cancelled ? showing(next, { cancelled: false }) : next
    }
    case 'looked':
      return { ...state, looked: said.nodes }
    case 'first':
      return { ...state, burnFirst: said.burn }
    case 'beside':
      return said.operation === state.beside ? state : showing({ ...state, beside: said.operation }, { forecast: undefined })
    case 'hidden':
      return said.operations === state.hidden ? state : showing({ ...state, hidden: said.operations }, { forecast: undefined })
    case 'begun':
      return { ...state, underWay: said.step }
    case 'answered':
      return state.underWay ? answered(state, state.underWay, said.result) : state
    case 'failed': {
      const { underWay, wanted } = state
      const now: Evaluation = { ...state, underWay: undefined }
      // A document that is not wanted any more may fail as it likes: the newer one is tried.
      if (!underWay || !wanted || underWay.job !== wanted) return now
      return showing(now, { error: said.message, failed: wanted })
    }
    case 'took so long':
      return said.progress === state.shown.progress ? state : showing(state, { progress: said.progress })
    case 'resumed':
      return state.shown.cancelled ? showing(state, { cancelled: false }) : state
    case 'died':
      return showing(state, { seen: undefined, drawn: undefined, forecast: undefined })
  }
}
