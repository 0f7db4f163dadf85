import type { ArraySchema, ObjectSchema, ValidationErrorItem } from 'joi'
import { type FieldErrors, type FieldValues, type Resolver, set } from 'react-hook-form'

/** The checks of a form are those of the border: the same Joi schema. @param part the one value of the form that the schema is of, where it is not all of it */
export function joiResolver<T extends FieldValues>(schema: ObjectSchema | ArraySchema, part?: keyof T & string): Resolver<T> {
  return (values) => {
    const { error } = schema.validate(part ? values[part] : values, {
      abortEarly: false,
      convert: false,
      errors: { label: false },
    })
    if (!error) return { values, errors: {} }
    const errors: FieldErrors<T> = {}
    for (const item of error.details) {
      const place = [...(part ? [part] : []), ...item.path].join('.') || 'root'
      set(errors, place, { type: item.type, message: item.message, types: limitOf(item) })
    }
    return { values: {}, errors }
  }
}

/** A limit goes along as it is: its field says it in its own unit. */
const limitOf = ({ type, context }: ValidationErrorItem): Record<string, string> =>
  typeof context?.limit === 'number' ? { [type]: String(context.limit) } : {}
