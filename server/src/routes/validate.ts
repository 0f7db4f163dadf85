import type Joi from 'joi'
import { Refusal } from '../refusal.ts'

/** A value from outside, checked; one sentence where it is wrong. */
export function validated<T>(schema: Joi.Schema<T>, value: unknown): T {
  const { error, value: checked } = schema.validate(value, { abortEarly: true })
  if (error) throw new Refusal(400, 'bad-request', `${error.message}.`)
  return checked as T
}
