import {
  type Calibration,
  calibrationSchema,
  type JobDocument,
  type OperationReport,
  type RunScope,
  type Size,
} from '@neotaxis/core'
import Joi from 'joi'
import { type Place, place } from './live-run.ts'
import { count, document, id, moment, pieceSize, sha256, share, text, whole } from './words.ts'

/** Phases after which nothing more happens. */
export const ENDED_PHASES = ['done', 'refused', 'stopped', 'lost', 'carried']

/** What is confirmed before a run goes on: the list of the set-up that begins, where one does. */
export interface GoingOn {
  readonly answers?: readonly string[]
}
export const goingOn = Joi.object<GoingOn>({ answers: Joi.array().items(Joi.string().max(160)).max(600) })

/** A run as the journal lists it. */
export interface RunBrief {
  readonly id: string
  readonly jobId: string | null
  readonly jobRevision: number | null
  readonly parentId: string | null
  readonly name: string
  readonly operator: string
  readonly phase: string
  readonly reason: string
  readonly machineId: string
  readonly machine: string
  readonly material: string
  readonly workpiece: Size & { readonly thicknessMm: number }
  readonly only: readonly string[] | null
  readonly lines: number
  readonly estimateSeconds: number
  readonly seconds: number
  readonly interruptions: number
  readonly rating: number | null
  readonly note: string
  readonly photo: string | null
  readonly startedAt: string
  readonly endedAt: string | null
}

const rating = Joi.number().integer().min(1).max(5).allow(null)

export const runBrief = whole({
  id,
  jobId: id.allow(null),
  jobRevision: count.allow(null),
  parentId: id.allow(null),
  name: text,
  operator: text,
  phase: Joi.string(),
  reason: text,
  machineId: id,
  machine: text,
  material: text,
  workpiece: pieceSize,
  only: Joi.array().items(id).allow(null),
  lines: count,
  estimateSeconds: Joi.number(),
  seconds: Joi.number(),
  interruptions: count,
  rating,
  note: text,
  photo: sha256.allow(null),
  startedAt: moment,
  endedAt: moment.allow(null),
})

/** What was seen on one operation after a run. */
export interface Look {
  /** Cuts: through, in places, or not. Pictures: as expected, too light, too dark. */
  readonly answer: 'yes' | 'partly' | 'no' | 'light' | 'dark'
  readonly depthMm?: number | null
  readonly tone?: number | null
  readonly warpMm?: number | null
  readonly note?: string
}

const look = Joi.object({
  answer: Joi.valid('yes', 'partly', 'no', 'light', 'dark'),
  depthMm: Joi.number().min(0).max(100).allow(null),
  tone: share.allow(null),
  warpMm: Joi.number().min(0).max(100).allow(null),
  note: text.max(500),
})

export interface RunEventTold {
  readonly number: number
  readonly phase: string
  readonly text: string
  readonly line: number
  readonly seconds: number
  readonly at: string
}

/** A run with all that is known of it. */
export interface RunFull extends RunBrief {
  readonly document: JobDocument
  readonly scope: RunScope
  readonly operations: readonly OperationReport[]
  readonly looks: Readonly<Record<string, Look>>
  readonly closing: readonly string[]
  readonly place: Place | null
  readonly events: readonly RunEventTold[]
  /** Where and how fine what it burned was looked at, job mm; null where nobody looked. */
  readonly burn: { readonly cellMm: number; readonly x: number; readonly y: number } | null
  /** The photo of the bed that was taken after it; null where there is no calibrated camera. */
  readonly photographed: { readonly takenAt: string; readonly calibration: Calibration } | null
}

const looks = Joi.object().pattern(id, look)
const closing = Joi.array().items(Joi.string())

export const runFull = runBrief.keys({
  document: document.required(),
  scope: document.required(),
  answers: Joi.array().items(text).required(),
  operations: Joi.array().items(document).required(),
  looks: looks.required(),
  closing: closing.required(),
  place: place.unknown(true).allow(null).required(),
  events: Joi.array()
    .items(whole({ number: count, phase: Joi.string(), text, line: count, seconds: Joi.number(), at: moment }))
    .required(),
  burn: whole({ cellMm: Joi.number(), x: Joi.number(), y: Joi.number() }).allow(null).required(),
  photographed: whole({ takenAt: moment, calibration: calibrationSchema }).allow(null).required(),
})

export interface RunsAsked {
  readonly search: string
  readonly machine?: string
  readonly operator?: string
  readonly phase?: string
  readonly jobId?: string
  /** Begun not before, and before, ISO 8601. */
  readonly from?: string
  readonly until?: string
}

export const runsAsked = Joi.object<RunsAsked>({
  search: text.max(100).default(''),
  machine: id,
  operator: Joi.string().max(60),
  phase: Joi.valid(...ENDED_PHASES, 'open'),
  jobId: id,
  from: moment,
  until: moment,
})

/** What is written down after a run; of each part only what is new: the rest stays as others left it. */
export interface RunChangeTold {
  readonly rating?: number | null
  readonly note?: string
  readonly photo?: string | null
  readonly looks?: Readonly<Record<string, Partial<Look>>>
  /** By item: seen to, or not. */
  readonly closing?: Readonly<Record<string, boolean>>
  readonly seconds?: number
}

export const runChange = Joi.object<RunChangeTold>({
  rating,
  note: text.max(5000),
  photo: sha256.allow(null),
  looks: Joi.object().pattern(id, look.min(1)).max(500),
  closing: Joi.object().pattern(Joi.string().max(60), Joi.boolean()).max(30),
  seconds: Joi.number().min(0).max(1e7),
}).min(1)

export const runChanged = runBrief.keys({ looks: looks.required(), closing: closing.required() })

/** A program that was carried to its machine. */
export interface RunCarried {
  readonly jobId: string
  readonly revision: number
  readonly only?: readonly string[]
}

export const runCarried = Joi.object<RunCarried>({
  jobId: id.required(),
  revision: count.required(),
  only: Joi.array().items(id).max(500),
})

export interface Shares {
  readonly speed: number
  readonly power: number
}

const shifted = Joi.number().min(0.1).max(2)
export const shares = whole({ speed: shifted, power: shifted })
