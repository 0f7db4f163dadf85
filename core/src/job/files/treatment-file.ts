import Joi from 'joi'
import type { Dots, FramingStep, Treatment, TreatmentStep } from '../../picture/steps.ts'
import { NO_TREATMENT } from '../../picture/steps.ts'
import { JobError } from '../document/job-error.ts'
import {
  dotsSchema,
  framingSchema,
  framingStepSchema,
  treatmentShape,
  treatmentStepSchema,
} from '../document/treatment-schema.ts'

/** The treatment of a picture as a file: what the picture bench saves and `neotaxis picture --steps` reads. */
export interface TreatmentFile {
  readonly framing: readonly FramingStep[]
  readonly treatment: Treatment
  readonly dots?: Dots
}

const FRAMING = new Set(['crop', 'straighten', 'turn', 'mirror'])

const fileSchema = Joi.object({
  framing: framingSchema.optional(),
  grey: treatmentShape.grey,
  steps: Joi.alternatives(treatmentShape.steps, Joi.array().items(treatmentStepSchema).max(100)),
  order: treatmentShape.order.optional(),
  masks: treatmentShape.masks.optional(),
  dots: dotsSchema.optional(),
})

/** Steps as a list, `on` where nothing else is said. */
const listed = (steps: readonly TreatmentStep[]): Pick<Treatment, 'steps' | 'order'> => ({
  steps: Object.fromEntries(steps.map((step, i) => [`s${i + 1}`, step])),
  order: steps.map((_, i) => `s${i + 1}`),
})

const switched = (step: unknown): unknown => (typeof step === 'object' && step !== null ? { on: true, ...step } : step)

/**
 * Checks a treatment from outside: either an object with `framing`, `steps` (a list, or by id with `order`), `masks` and
 * `dots`, or one plain list of framing and treatment steps.
 * @throws JobError with one sentence
 */
export function readTreatment(value: unknown): TreatmentFile {
  if (Array.isArray(value)) {
    const steps = value.map(switched) as { kind?: string }[]
    const part = (framing: boolean): unknown[] => steps.filter(({ kind }) => FRAMING.has(kind ?? '') === framing)
    return {
      framing: checked(Joi.array().items(framingStepSchema).max(20), part(true)),
      treatment: { ...NO_TREATMENT, ...listed(checked(Joi.array().items(treatmentStepSchema).max(100), part(false))) },
    }
  }
  const object = (value ?? {}) as { framing?: unknown[]; steps?: unknown }
  const prepared = {
    ...object,
    ...(Array.isArray(object.framing) ? { framing: object.framing.map(switched) } : {}),
    ...(Array.isArray(object.steps) ? { steps: object.steps.map(switched) } : {}),
  }
  const {
    framing = [],
    grey,
    steps = [],
    order,
    masks = {},
    dots,
  } = checked<{
    framing?: FramingStep[]
    grey?: Treatment['grey']
    steps?: TreatmentStep[] | Treatment['steps']
    order?: string[]
    masks?: Treatment['masks']
    dots?: Dots
  }>(fileSchema, prepared)
  const stack = Array.isArray(steps) ? listed(steps) : { steps, order: order ?? Object.keys(steps) }
  for (const id of stack.order) if (!stack.steps[id]) throw new JobError(`The order names a step “${id}” that is missing.`)
  for (const step of Object.values(stack.steps))
    if (step.mask !== undefined && !masks[step.mask])
      throw new JobError(`A step is limited to a mask “${step.mask}” that is missing.`)
  return { framing, treatment: { ...stack, masks, ...(grey ? { grey } : {}) }, ...(dots ? { dots } : {}) }
}

function checked<T>(schema: Joi.Schema, value: unknown): T {
  const { error, value: read } = schema.validate(value, { convert: false })
  if (error) throw new JobError(`The steps do not hold together: ${error.message}.`)
  return read as T
}
