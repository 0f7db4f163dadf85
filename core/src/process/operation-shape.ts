import Joi from 'joi'
import { RANGES } from '../job/document/ranges.ts'
import { id, within } from '../job/document/schema-parts.ts'

/** What every operation says. */
export const operationShape: Joi.SchemaMap = {
  of: Joi.array().items(id).min(1).max(500).unique().required(),
  at: Joi.array().items(id).min(1).max(500).unique().optional(),
  recipe: id.optional(),
  keptFrom: Joi.string().max(200).optional(),
  prepared: Joi.string().min(1).max(60).optional(),
  power: within(RANGES.power),
  speedMmS: within(RANGES.speedMmS),
  passes: within(RANGES.passes).integer(),
  pulseHz: within(RANGES.pulseHz).optional(),
  pulseNs: within(RANGES.pulseNs).optional(),
  offFocusMm: within(RANGES.offFocusMm).optional(),
  air: Joi.boolean().required(),
}
