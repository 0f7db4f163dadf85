import Joi from 'joi'
import type { Calibration } from './calibrate.ts'

const FORMAT = 'neotaxis-camera'
const VERSION = 1

const number = Joi.number().min(-1e6).max(1e6).required()
const kinds = Joi.alternatives(
  Joi.object({ kind: Joi.valid('brown').required(), k1: number, k2: number, p1: number, p2: number }),
  Joi.object({ kind: Joi.valid('fisheye').required(), k1: number, k2: number, k3: number }),
)
const side = Joi.number().integer().min(16).max(30_000).required()
const place = { x: number, y: number }
/** What is known of a camera, as it is kept. */
const parts = {
  camera: Joi.object({
    widthPx: side,
    heightPx: side,
    focalPx: Joi.number().min(1).max(1e6).required(),
    axisPx: Joi.array().ordered(number, number).length(2).required(),
    lens: kinds.required(),
    turn: Joi.array().ordered(number, number, number).length(3).required(),
    shift: Joi.array().ordered(number, number, number).length(3).required(),
  }).required(),
  rmsMm: Joi.number().min(0).required(),
  p95Mm: Joi.number().min(0).required(),
  worst: Joi.object({ mm: Joi.number().min(0).required(), ...place }).required(),
  spots: Joi.number().integer().min(1).required(),
  heights: Joi.array().items(Joi.number().min(-100).max(1000)).min(1).max(40).required(),
  errors: Joi.array()
    .items(Joi.object({ mm: Joi.number().min(0).required(), ...place }))
    .max(4000)
    .required(),
  fixed: Joi.array().items(Joi.array().ordered(number, number).length(2)).max(40),
}
export const calibrationSchema = Joi.object<Calibration>(parts)
const file = Joi.object({ format: Joi.valid(FORMAT).required(), version: Joi.valid(VERSION).required(), ...parts }).required()

/** A calibration as a file holds it. */
export const cameraFile = (calibration: Calibration): string =>
  `${JSON.stringify({ format: FORMAT, version: VERSION, ...calibration }, null, 2)}\n`

/** The calibration in a file. @throws RangeError with a sentence where it is none */
export function readCameraFile(text: string): Calibration {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    throw new RangeError('This is no calibration of a camera.')
  }
  if ((value as { format?: unknown } | null)?.format !== FORMAT) throw new RangeError('This is no calibration of a camera.')
  const { error, value: checked } = file.validate(value, { convert: false })
  if (error) throw new RangeError(`The calibration is damaged: ${error.message}.`)
  const { format: _, version: __, ...calibration } = checked as Calibration & { format: string; version: number }
  return calibration
}
