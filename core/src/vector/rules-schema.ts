import Joi from 'joi'

const paint = Joi.string()
  .pattern(/^(any|none|#[0-9a-f]{6})$/)
  .messages({ 'string.pattern.base': 'a paint is any, none or #rrggbb' })

/** The import rules of a shop, as they are kept and handed on. */
export const importRulesSchema = Joi.array()
  .items(
    Joi.object({
      id: Joi.string()
        .pattern(/^[A-Za-z0-9_-]{1,40}$/)
        .required(),
      name: Joi.string().min(1).max(120).required(),
      does: Joi.valid('cut', 'score', 'engrave', 'leave').required(),
      stroke: paint.optional(),
      thinnerThanMm: Joi.number()
        .greater(0)
        .max(100)
        .optional()
        .messages({ 'number.base': 'a width is a length, as 0.2 or 0.01in' }),
      fill: paint.optional(),
      layer: Joi.string().min(1).max(100).optional(),
    }),
  )
  .unique('id')
  .max(60)
  .required()
