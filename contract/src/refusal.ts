import Joi from 'joi'
import { whole } from './words.ts'

/** The answer when something cannot be done. `message` is a sentence for the operator. */
export interface RefusalTold {
  readonly code: string
  readonly message: string
}

export const refusalSchema = whole({ code: Joi.string(), message: Joi.string() })
