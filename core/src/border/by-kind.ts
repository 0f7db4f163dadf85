import Joi from 'joi'

/** One of several shapes, told apart by one of its values. @param unknown what it is called where there is no such shape */
export const byKind = (shapes: Readonly<Record<string, Joi.SchemaMap>>, unknown: string, key = 'kind') =>
  Joi.alternatives().conditional(`.${key}`, {
    switch: Object.entries(shapes).map(([kind, shape]) => ({
      is: kind,
      // biome-ignore lint/suspicious/noThenProperty: Joi's own word
      then: Joi.object({ [key]: Joi.valid(kind).required(), ...shape }),
    })),
    otherwise: Joi.forbidden().messages({ 'any.unknown': `{{#label}} is ${unknown} that this version does not know` }),
  })
