import Joi from 'joi'
import { RANGES } from '../job/document/ranges.ts'

const id = Joi.string().pattern(/^[A-Za-z0-9_-]{1,40}$/)

/** A number that must be there, within its range. */
export const within = ({ min, max }: { readonly min: number; readonly max: number }): Joi.NumberSchema =>
  Joi.number().min(min).max(max).required()

/** What every operation says. */
export const operationShape: Joi.SchemaMap = {
  of: Joi.array().items(id).min(1).max(500).unique().required(),
  at: Joi.array().items(id).min(1).max(500).unique().optional(),
  recipe: id.optional(),
  power: within(RANGES.power),
  speedMmS: within(RANGES.speedMmS),
  passes: within(RANGES.passes).integer(),
  air: Joi.boolean().required(),
}
