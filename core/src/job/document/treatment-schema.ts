import Joi from 'joi'
import { byKind } from '../../border/by-kind.ts'
import { KERNELS } from '../../picture/steps.ts'
import { RANGES } from './ranges.ts'

const id = Joi.string().pattern(/^[A-Za-z0-9_-]{1,40}$/)
const within = ({ min, max }: { min: number; max: number }) => Joi.number().min(min).max(max).required()
const px = within(RANGES.sourcePx)
const span = Joi.number().greater(0).max(RANGES.sourcePx.max).required()
const on = Joi.boolean().required()

/** Numbers in turn: points of a line, at least `least` of them. */
const points = (least: number, most = 100_000) =>
  Joi.array()
    .items(Joi.number().min(RANGES.sourcePx.min).max(RANGES.sourcePx.max))
    .min(2 * least)
    .max(most)
    .required()

export const framingStepSchema = byKind(
  {
    crop: { on, x: px, y: px, width: span, height: span },
    straighten: { on, corners: points(4, 8), ratio: within(RANGES.ratio) },
    turn: { on, degrees: within(RANGES.degrees) },
    mirror: { on, way: Joi.valid('left-right', 'top-bottom').required() },
  },
  'a kind of framing',
)

const limited = { on, mask: id.optional(), outside: Joi.boolean().optional() }
const patches = Joi.array()
  .items(Joi.object({ x: px, y: px, radius: span }))
  .max(50)
  .required()

export const treatmentStepSchema = byKind(
  {
    levels: {
      ...limited,
      black: Joi.number().min(0).max(254.99).required(),
      white: Joi.number().greater(Joi.ref('black')).max(255).required(),
      gamma: within(RANGES.gamma),
      ink: patches,
      paper: patches,
    },
    contrast: { ...limited, brightness: within(RANGES.percent), contrast: within(RANGES.percent) },
    curve: { ...limited, points: Joi.array().items(Joi.number().min(0).max(1)).min(4).max(64).required().custom(rising) },
    invert: limited,
    posterise: { ...limited, levels: within(RANGES.posterise).integer() },
    flatten: { ...limited, radiusMm: within(RANGES.flattenMm) },
    ink: { ...limited, ruled: on, from: within(RANGES.inkFrom) },
    sharpen: {
      ...limited,
      radius: within(RANGES.sharpenRadius),
      amount: within(RANGES.sharpenAmount),
      threshold: within(RANGES.grey),
    },
    clean: { ...limited, below: within(RANGES.haze), specksMm2: within(RANGES.specksMm2) },
    clear: { ...limited, mask: id.required() },
  },
  'a kind of step',
)

function rising(value: number[]): number[] {
  for (let i = 2; i < value.length; i += 2) if (!(value[i] > value[i - 2])) throw new Error('the places of a curve must rise')
  if (value.length % 2) throw new Error('a curve needs pairs of numbers')
  return value
}

const add = Joi.boolean().required()
const maskPart = byKind(
  {
    rectangle: { add, x: px, y: px, width: span, height: span },
    polygon: { add, points: points(3) },
    bezier: { add, points: points(4) },
    brush: { add, radius: span, points: points(1) },
    tone: { add, x: px, y: px, tolerance: within(RANGES.tolerance) },
    edges: { add, points: points(3) },
  },
  'a part of a mask',
)

export const maskSchema = Joi.object({
  name: Joi.string().max(200).required(),
  feather: within(RANGES.featherPx),
  parts: Joi.object().pattern(id, maskPart).max(2000).required(),
  order: Joi.array().items(id).unique().max(2000).required(),
})

export const greySchema = Joi.object({
  r: Joi.number().min(0).max(10).required(),
  g: Joi.number().min(0).max(10).required(),
  b: Joi.number().min(0).max(10).required(),
}).custom((value) => {
  if (value.r + value.g + value.b <= 0) throw new Error('the weights of grey are all nothing')
  return value
})

export const dotsSchema = Joi.object({
  kernel: Joi.valid(...KERNELS).required(),
  serpentine: Joi.boolean().required(),
  linesPerInch: within(RANGES.linesPerInch),
  angleDeg: within(RANGES.degrees),
  gain: Joi.boolean().required(),
  asPrepared: Joi.boolean().required(),
})

export const treatmentShape = {
  grey: greySchema.optional(),
  steps: Joi.object().pattern(id, treatmentStepSchema).max(100).required(),
  order: Joi.array().items(id).unique().max(100).required(),
  masks: Joi.object().pattern(id, maskSchema).max(100).required(),
}

export const framingSchema = Joi.array().items(framingStepSchema).max(20).required()
