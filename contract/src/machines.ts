import {
  type Bounds,
  type FrameShape,
  type LearnedTimes,
  type Machine,
  machineProfileSchema,
  machineSchema,
  type RunChange,
  type SettingDifference,
} from '@neotaxis/core'
import Joi from 'joi'
import { type RunLive, type RunReport, report, runLive } from './live-run.ts'
import { count, id, share, text, whole } from './words.ts'

/** What happens at a machine, one thing at a time. */
export const DESK_STATES = [
  'off',
  'connecting',
  'lost',
  'idle',
  'homing',
  'jogging',
  'framing',
  'pulsing',
  'preparing',
  'starting',
  'running',
  'holding',
  'looking',
  'stopping',
] as const
export type DeskState = (typeof DESK_STATES)[number]

/** How a machine stands now, for every open page. */
export interface DeskLive {
  readonly machine: string
  readonly state: DeskState
  readonly trouble: string
  readonly address: string
  readonly simulated: boolean
  /** The first connection was gone through. */
  readonly checked: boolean
  readonly report: RunReport | null
  readonly silent: boolean
  /** So much nonsense came of late that the cable should be looked at. */
  readonly noisy: boolean
  /** Who is at it, while it does something. */
  readonly holder: string | null
  readonly run: RunLive | null
  /** The address of the server that has the machine, where it is another one. */
  readonly server: string | null
}

export const deskLive = whole({
  machine: id,
  state: Joi.valid(...DESK_STATES),
  trouble: text,
  address: text,
  simulated: Joi.boolean(),
  checked: Joi.boolean(),
  report: report.allow(null),
  silent: Joi.boolean(),
  noisy: Joi.boolean(),
  holder: text.allow(null),
  run: runLive.allow(null),
  server: text.allow(null),
})

/** What the WebSocket at `/api/live` tells, at once and whenever something changes. */
export interface LiveTold {
  readonly machines: readonly DeskLive[]
}

export const liveTold = whole({ machines: Joi.array().items(deskLive) })

export interface MachineSaved {
  readonly machine: Machine
  /** The version of the profile that was changed; null for a new one. */
  readonly base: number | null
}

export const machineSaved = whole({ machine: machineProfileSchema, base: Joi.number().integer().allow(null) })
export const machine = machineSchema

/** What a machine says of itself, and where its profile says otherwise. */
export interface MachineSettings {
  readonly settings: Readonly<Record<string, number>>
  readonly differences: SettingDifference[]
}

export const machineSettings = whole({
  settings: Joi.object().pattern(Joi.string(), Joi.number()),
  differences: Joi.array().items(Joi.object().unknown(true)),
})

/** What the runs of a machine say of its times; null while there are too few. */
export interface MachineTimes {
  readonly learned: LearnedTimes | null
}

export const machineTimes = whole({
  learned: whole({
    processes: Joi.array().items(Joi.string()),
    factors: Joi.array().items(Joi.number()),
    covariance: Joi.array().items(Joi.array().items(Joi.number())),
    spread: Joi.number(),
    runs: count,
  }).allow(null),
})

const mm = Joi.number().min(-5000).max(5000)
const speedMmS = Joi.number().greater(0).max(5000).required()
/** The beam is at most so strong while a frame is driven or its place is shown, share of full power. */
export const MOST_FRAME_POWER = 0.1

export interface Jog {
  readonly dx: number
  readonly dy: number
  readonly dz: number
  readonly speedMmS: number
}
export const jog = Joi.object<Jog>({ dx: mm.required(), dy: mm.required(), dz: mm.required(), speedMmS })

export interface GoTo {
  readonly x?: number
  readonly y?: number
  readonly z?: number
  readonly speedMmS: number
}
export const goTo = Joi.object<GoTo>({ x: mm, y: mm, z: mm, speedMmS })

/** @property z where the lens is to stand, mm; absent: where it is */
export interface GetReady {
  readonly z?: number
  readonly speedMmS: number
}
export const getReady = Joi.object<GetReady>({ z: mm, speedMmS })

/** What a scan head adds to every place so that its beam lands there; nothing: it forgets what it was given. */
export interface FieldGiven {
  readonly table: { readonly points: number; readonly offsetsUm: readonly number[] } | null
}
const um = Joi.number().integer().min(-5000).max(5000)
export const fieldGiven = Joi.object<FieldGiven>({
  table: Joi.object({
    points: Joi.number().integer().min(2).max(17).required(),
    offsetsUm: Joi.array()
      .items(um)
      .length(Joi.ref('points', { adjust: (points: number) => 2 * points * points }))
      .required(),
  })
    .required()
    .allow(null),
})

export interface FrameWish {
  readonly jobId: string
  readonly shape: FrameShape
  readonly speedMmS: number
  readonly power: number
  readonly loop: boolean
  readonly only?: readonly string[]
  readonly pieces?: readonly string[]
  readonly zone?: Bounds
}
const place = Joi.number().min(-100_000).max(100_000).required()
const only = Joi.array().items(id).max(500)
const pieces = Joi.array().items(id).min(1).max(500).unique()
const zone = Joi.object({ x0: place, y0: place, x1: place.greater(Joi.ref('x0')), y1: place.greater(Joi.ref('y0')) })
export const frameWish = Joi.object<FrameWish>({
  jobId: id.required(),
  shape: Joi.valid('bounds', 'hull', 'outline').required(),
  speedMmS,
  power: Joi.number().min(0).max(MOST_FRAME_POWER).required(),
  loop: Joi.boolean().required(),
  only,
  pieces,
  zone,
})

export interface Pulse {
  readonly power: number
  readonly count: number
}
export const pulse = Joi.object<Pulse>({
  power: Joi.number().greater(0).max(MOST_FRAME_POWER).required(),
  count: Joi.number().integer().min(1).max(1000).required(),
})

/** The wish to run a job as a page shows it. */
export interface RunStart {
  readonly jobId: string
  readonly revision: number
  readonly only?: readonly string[]
  readonly pieces?: readonly string[]
  readonly zone?: Bounds
  readonly fromSeconds?: number
  readonly changes?: Readonly<Record<string, RunChange>>
  readonly armed: boolean
  readonly answers: readonly string[]
  readonly parentId?: string | null
}
export const runStart = Joi.object<RunStart>({
  jobId: id.required(),
  revision: count.required(),
  only,
  pieces,
  zone,
  fromSeconds: Joi.number().min(0).max(1e7),
  changes: Joi.object()
    .pattern(
      id,
      Joi.object({
        power: share,
        speedMmS: Joi.number().min(0.1).max(10_000),
        passes: Joi.number().integer().min(1).max(100),
      }),
    )
    .max(500),
  armed: Joi.boolean().required(),
  answers: Joi.array().items(Joi.string().max(160)).max(600).required(),
  parentId: id.allow(null),
})

/** What is done at the outside of a simulated machine. */
export interface PanelWish {
  readonly do: 'press' | 'lid' | 'emergency' | 'pace' | 'state' | 'lift' | 'gauge' | 'lens' | 'focus'
  readonly open?: boolean
  readonly pressed?: boolean
  readonly times?: number
  /** What a gauge reads, over a square of this side, mm, around a place of the machine. */
  readonly what?: 'tone' | 'depth' | 'harmed'
  readonly x?: number
  readonly y?: number
  readonly side?: number
  /** How much another lens bends the field of a scan head, mm, and which way; or how high a hand sets the lens over the bed. */
  readonly mm?: number
  readonly seed?: number
}
export const panelWish = Joi.object<PanelWish>({
  do: Joi.valid('press', 'lid', 'emergency', 'pace', 'state', 'lift', 'gauge', 'lens', 'focus').required(),
  what: Joi.valid('tone', 'depth', 'harmed'),
  x: place.optional(),
  y: place.optional(),
  side: Joi.number().greater(0).max(50),
  open: Joi.boolean(),
  pressed: Joi.boolean(),
  times: Joi.number().greater(0).max(1000),
  mm: Joi.number().min(0).max(1000),
  seed: Joi.number().integer().min(0).max(1e6),
})

export interface PanelTold {
  readonly lid: boolean
  readonly times: number
  readonly watts: number
  /** What a gauge read. */
  readonly value?: number
}
export const panelTold = Joi.object<PanelTold>({ lid: Joi.boolean(), times: Joi.number(), watts: Joi.number() }).unknown(true)
