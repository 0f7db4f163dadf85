import type { PreflightItem, RunScope } from '@neotaxis/core'
import Joi from 'joi'
import { count, id, text, whole } from './words.ts'

/** A place in a program: so many lines are driven, and the head is here in the next one. Machine mm. */
export interface Place {
  readonly driven: number
  readonly x: number
  readonly y: number
  readonly z: number
}

const mm = Joi.number()
const placeKeys = { driven: count, x: mm, y: mm, z: mm }
export const place = whole(placeKeys)

/** What a machine says of itself. */
export interface RunReport extends Place {
  readonly state: string
  readonly speedMmS: number
  readonly beam: number
  readonly speedShare: number
  readonly powerShare: number
  readonly lidOpen: boolean
  readonly air: boolean
}

export const report = whole({
  ...placeKeys,
  state: text,
  speedMmS: Joi.number(),
  beam: Joi.number(),
  speedShare: Joi.number(),
  powerShare: Joi.number(),
  lidOpen: Joi.boolean(),
  air: Joi.boolean(),
}).unknown(true)

/** A run while it goes on. */
export interface RunLive {
  readonly id: string
  readonly jobId: string | null
  readonly name: string
  readonly operator: string
  readonly phase: string
  readonly reason: string
  /** At a planned pause: what is to be done. */
  readonly instruction: string | null
  /** At a planned pause that begins a set-up: the list that is gone through first. */
  readonly setUp?: readonly PreflightItem[] | null
  readonly place: Place | null
  readonly lines: number
  /** Seconds of the machine's clock, and of the estimate: all of it, and what is done of it. */
  readonly seconds: number
  readonly estimateSeconds: number
  readonly doneSeconds: number
  readonly operation: string | null
  readonly only: readonly string[] | null
  /** What it burns of the job. */
  readonly scope?: RunScope
  readonly startedAt: number
}

export const runLive = whole({
  id,
  jobId: id.allow(null),
  name: text,
  operator: text,
  phase: Joi.string(),
  reason: text,
  instruction: text.allow(null),
  setUp: Joi.array().items(Joi.object().unknown(true)).allow(null).optional(),
  place: place.unknown(true).allow(null),
  lines: count,
  seconds: Joi.number(),
  estimateSeconds: Joi.number(),
  doneSeconds: Joi.number(),
  operation: id.allow(null),
  only: Joi.array().items(id).allow(null),
  scope: Joi.object().unknown(true),
  startedAt: Joi.number(),
})
