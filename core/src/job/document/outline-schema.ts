import Joi from 'joi'
import { byKind } from '../../border/by-kind.ts'
import { RANGES } from './ranges.ts'

const within = ({ min, max }: { min: number; max: number }) => Joi.number().min(min).max(max).required()
const on = Joi.boolean().required()
/** Shares of the artwork's sides; what stands out of its box lies beyond 0 to 1. */
const share = Joi.number().min(-10).max(10).required()
const spot = Joi.object({ x: share, y: share })

/** One clean-up step of outlines, as a job and a file of steps carry it. */
export const outlineStepSchema = byKind(
  {
    specks: { on, areaMm2: within(RANGES.minAreaMm2) },
    erase: {
      on,
      x: share,
      y: share,
      width: Joi.number().min(0).max(20).required(),
      height: Joi.number().min(0).max(20).required(),
      touched: Joi.boolean().required(),
    },
    join: { on, gapMm: within(RANGES.gapMm) },
    fill: { on, areaMm2: within(RANGES.minAreaMm2) },
    doubles: { on, withinMm: within(RANGES.doublesMm) },
    simplify: { on, toleranceMm: within(RANGES.simplifyMm) },
    stretch: {
      on,
      from: spot.required(),
      to: spot.required(),
      as: Joi.valid('straight', 'smooth', 'refitted', 'gone').required(),
    },
    node: {
      on,
      at: spot.required(),
      change: Joi.valid('move', 'add', 'remove', 'corner', 'smooth').required(),
      // biome-ignore lint/suspicious/noThenProperty: Joi's own word
      to: spot.when('change', { is: 'move', then: Joi.required(), otherwise: Joi.forbidden() }),
    },
    start: { on, at: spot.required() },
  },
  'a step of clean-up',
)
