import Joi from 'joi'
import type { OutlineStep } from '../../outline/clean/steps.ts'
import { JobError } from '../document/job-error.ts'
import { outlineStepSchema } from '../document/outline-schema.ts'

const listSchema = Joi.array().items(outlineStepSchema).max(500)

/**
 * Checks clean-up steps from outside: a list, or an object with `steps` by id and their `order`, as a job has them. A step
 * that does not say so is done. @throws JobError with one sentence
 */
export function readOutlineSteps(value: unknown): OutlineStep[] {
  const kept = value as { steps?: Record<string, unknown>; order?: string[] } | null
  const list = Array.isArray(value) ? value : Array.isArray(kept?.order) ? kept.order.map((id) => kept.steps?.[id]) : undefined
  if (!list) throw new JobError('This is no list of clean-up steps.')
  const steps = list.map((step) => (typeof step === 'object' && step !== null ? { on: true, ...step } : step))
  const { error, value: checked } = listSchema.validate(steps, { convert: false })
  if (error) throw new JobError(`The steps do not hold together: ${error.message}.`)
  return checked as OutlineStep[]
}
