import { type Calibration, calibrationSchema } from '@neotaxis/core'
import Joi from 'joi'
import { moment, sha256, text, whole } from './words.ts'

/** The camera over a machine's bed. */
export interface MachineCamera {
  /** Where it answers with photos, `http://HOST:PORT/…`. */
  readonly address: string
  /** It ships with the application: what lies under it is laid there by a request. */
  readonly simulated: boolean
  readonly calibration: Calibration | null
  readonly calibratedAt: string | null
  /** A photo of the bed with nothing on it, taken with this calibration. */
  readonly empty: string | null
  readonly emptyAt: string | null
}

const camera = whole({
  address: text,
  simulated: Joi.boolean(),
  calibration: calibrationSchema.allow(null),
  calibratedAt: moment.allow(null),
  empty: sha256.allow(null),
  emptyAt: moment.allow(null),
})
export const cameraTold = whole({ camera: camera.allow(null) })

/** Where a camera answers, and how it was calibrated; another address, or none, is another camera. */
export interface CameraSaved {
  readonly address?: string
  readonly calibration?: Calibration
}
export const cameraSaved = Joi.object<CameraSaved>({
  address: Joi.string()
    .uri({ scheme: ['http', 'https'] })
    .max(400)
    .allow(''),
  calibration: calibrationSchema,
}).or('address', 'calibration')

/** A photo that a page asks for. */
export interface PhotoAsked {
  readonly widthPx?: number
  /** Of a camera at the head: where the head is to stand, mm of the machine, and how fast it goes there, mm/s. */
  readonly at?: { readonly x: number; readonly y: number; readonly z?: number; readonly speedMmS: number }
}
const place = Joi.number().min(-10_000).max(10_000)
export const photoAsked = Joi.object<PhotoAsked>({
  widthPx: Joi.number().integer().min(16).max(12_000),
  at: Joi.object({ x: place.required(), y: place.required(), z: place, speedMmS: Joi.number().greater(0).max(2000).required() }),
})

/** What is laid under a simulated camera, as hands would: mm of the bed. */
export interface UnderCamera {
  readonly lay: 'nothing' | 'board' | 'driftwood' | 'coasters' | 'pane' | 'sheet' | 'drawing' | 'label' | 'tag'
  /** How high the board's dots lie over the bed. */
  readonly heightMm?: number
  /** What the code on the label says. */
  readonly code?: string
  /** What happens to the camera. */
  readonly fault?: 'dark' | 'covered' | 'moved' | 'away' | 'page' | null
}
export const underCamera = Joi.object<UnderCamera>({
  lay: Joi.valid('nothing', 'board', 'driftwood', 'coasters', 'pane', 'sheet', 'drawing', 'label', 'tag').required(),
  heightMm: Joi.number().min(0).max(200),
  code: Joi.string().max(60),
  fault: Joi.valid('dark', 'covered', 'moved', 'away', 'page').allow(null),
})
