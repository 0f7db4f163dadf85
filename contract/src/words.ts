// What many answers and requests are made of.
import Joi from 'joi'

/** A job, a run, a machine, an operation: what things are called between page and server. */
export const id = Joi.string().pattern(/^[A-Za-z0-9_-]{1,40}$/)
/** A camera: the one over a machine's bed is called as the machine, the one at its head `MACHINE@head`. */
export const cameraId = Joi.string().pattern(/^[A-Za-z0-9_-]{1,40}(@head)?$/)
/** The name of kept bytes: SHA-256. */
export const sha256 = Joi.string().pattern(/^[0-9a-f]{64}$/)
export const text = Joi.string().allow('')
/** A moment of the clock, ISO 8601. */
export const moment = Joi.string().isoDate()
export const share = Joi.number().min(0).max(1)
export const count = Joi.number().integer().min(0)
export const size = Joi.object({ widthMm: Joi.number().required(), heightMm: Joi.number().required() })
/** A workpiece in lists: the box around its face, and how thick it is. */
export const pieceSize = size.keys({ thicknessMm: Joi.number().required() })
/** What has a format of its own, described in `docs/`. */
export const document = Joi.object().unknown(true)

/** All keys have to be there. */
export const whole = (keys: Joi.SchemaMap): Joi.ObjectSchema =>
  Joi.object(Object.fromEntries(Object.entries(keys).map(([key, schema]) => [key, (schema as Joi.Schema).required()])))
