import Joi from 'joi'
import { byKind } from '../border/by-kind.ts'
import { RANGES } from '../job/document/ranges.ts'
import { id, name, within } from '../job/document/schema-parts.ts'
import type { Machine } from '../machine/machine.ts'
import type { RotaryDevice } from '../machine/rotary-device.ts'
import { QUANTITIES } from '../material/curve.ts'
import { OUTCOMES } from '../material/evidence.ts'
import { FINISHES, HAND_WORK, type Material } from '../material/material.ts'
import { PROCESS_NAMES } from '../process/table.ts'

export const colour = Joi.array().items(Joi.number().integer().min(0).max(255)).length(3)
const rgb = colour.required()
const dose = Joi.object({ from: Joi.number().min(0).required(), to: Joi.number().greater(Joi.ref('from')).required() }).required()

const day = Joi.string().pattern(/^\d{4}-\d{2}-\d{2}$/)

const tried = Joi.object({
  power: within(RANGES.power),
  speedMmS: within(RANGES.speedMmS),
  passes: within(RANGES.passes).integer(),
  intervalMm: within(RANGES.intervalMm).optional(),
  air: Joi.boolean().required(),
}).required()

const outcome = {
  date: day.required(),
  set: tried,
  answer: Joi.valid(...OUTCOMES).required(),
  depthMm: Joi.number().min(0).max(100).optional(),
  tone: Joi.number().min(0).max(1).optional(),
  warpMm: Joi.number().min(0).max(100).optional(),
  note: Joi.string().max(500).optional(),
}

const evidence = byKind(
  {
    run: { run: id.required(), operation: id.required(), after: id.optional(), shifted: name.optional(), ...outcome },
    trial: outcome,
    earlier: { times: Joi.number().integer().min(1).max(1_000_000).required(), set: tried },
  },
  'a kind of evidence',
)

export const recipeSchema = Joi.object({
  id: id.required(),
  process: Joi.valid(...PROCESS_NAMES).required(),
  name: name.required(),
  machine: id.required(),
  lens: id.optional(),
  pulseHz: within(RANGES.pulseHz).optional(),
  pulseNs: within(RANGES.pulseNs).optional(),
  mayBeOff: Joi.number().min(0).max(10).optional(),
  power: within(RANGES.power),
  speedMmS: within(RANGES.speedMmS),
  passes: within(RANGES.passes).integer(),
  intervalMm: within(RANGES.intervalMm).optional(),
  kerfMm: within(RANGES.kerfMm).optional(),
  air: Joi.boolean().required(),
  prepared: Joi.string().min(1).max(60).optional(),
  borrowedFrom: name.optional(),
  evidence: Joi.array().items(evidence).max(5000).required(),
})

/** A measured curve, as a job, a catalogue and a file carry it. */
export const curveSchema = Joi.object({
  id: id.required(),
  quantity: Joi.valid(...QUANTITIES).required(),
  scattered: Joi.valid(true).optional(),
  points: Joi.array()
    .items(
      Joi.object({
        input: Joi.number().min(0).max(1e6).required(),
        readings: Joi.array().items(Joi.number().min(0).max(1e6)).min(1).max(100).required(),
      }),
    )
    .min(2)
    .max(200)
    .required(),
  conditions: Joi.object({
    material: id.optional(),
    machine: id.required(),
    lens: id.optional(),
    speedMmS: Joi.number().greater(0).max(20_000).optional(),
    intervalMm: Joi.number().greater(0).max(10).optional(),
    contrast: Joi.number().min(-1000).max(1).optional(),
    date: day.required(),
  }).required(),
})

/** Layers lie on each other, and are together as thick as the material, within 1 %. */
const layersAddUp: Joi.CustomValidator<Material> = (material, helpers) => {
  const sum = material.layers.reduce((thick, layer) => thick + layer.thicknessMm, 0)
  return Math.abs(sum - material.thicknessMm) <= 0.01 * material.thicknessMm
    ? material
    : helpers.error('layers.sum', { name: material.name })
}

const handWork = Joi.array()
  .items(
    Joi.object({
      work: Joi.valid(...HAND_WORK).optional(),
      text: Joi.string().min(1).max(200).required(),
      minutes: within(RANGES.minutes),
    }),
  )
  .max(10)
  .required()

const said = Joi.string().min(1).max(300)

export const materialSchema = Joi.object({
  id: id.required(),
  version: Joi.number().integer().min(1).required(),
  name: name.required(),
  thicknessMm: within(RANGES.thicknessMm),
  look: Joi.object({ surface: rgb, grain: rgb, burn: rgb, edge: rgb, kind: Joi.valid('wood', 'plain').required() }).required(),
  layers: Joi.array()
    .items(
      Joi.object({
        name: name.required(),
        thicknessMm: Joi.number().greater(0).max(RANGES.thicknessMm.max).required(),
        markDose: dose,
        liftDose: dose.optional(),
        harmsBelow: Joi.number().greater(0).max(1e6).optional(),
        curves: Joi.array().items(curveSchema).max(50).optional(),
      }),
    )
    .min(1)
    .max(20)
    .required(),
  cutDose: dose,
  warpDose: Joi.number().greater(0).max(1e6).optional(),
  untried: Joi.valid(true).optional(),
  family: id.optional(),
  fumes: said.optional(),
  fire: said.optional(),
  forbidden: said.optional(),
  lookAlikes: Joi.array()
    .items(Joi.object({ name: name.required(), toldBy: said.required(), forbidden: Joi.valid(true).optional() }))
    .max(10)
    .optional(),
  warnings: Joi.array().items(Joi.string().max(200)).max(20).optional(),
  steps: Joi.object({ before: handWork, after: handWork }).optional(),
  recipes: Joi.array().items(recipeSchema).max(200).required(),
  finish: Joi.valid(...FINISHES).optional(),
})
  .custom(layersAddUp)
  .messages({ 'layers.sum': 'the layers of “{#name}” are together not as thick as it is' })

const speed = (max: number) => Joi.number().greater(0).max(max).required()
const roundMm = within(RANGES.roundMm)
/** What something that turns is held in. */
const rotaryDevice = Joi.object({
  name: name.required(),
  drive: byKind(
    {
      roller: { rollerMm: roundMm.required(), stepsPerTurn: Joi.number().min(1).max(1e7).required() },
      chuck: { stepsPerTurn: Joi.number().min(1).max(1e7).required(), gear: Joi.number().min(0.01).max(1000).required() },
    },
    'a kind of rotary',
  ).required(),
  axis: Joi.valid('y', 'a').required(),
  direction: Joi.valid(1, -1).required(),
  smallestMm: roundMm.required(),
  largestMm: roundMm.required(),
  longestMm: within(RANGES.bedMm).required(),
  speedMmS: speed(20_000).required(),
  accelerationMmS2: speed(500_000).required(),
})
  .custom((device: RotaryDevice, helpers) =>
    device.smallestMm > device.largestMm ? helpers.error('rotary.holds', { device: device.name }) : device,
  )
  .messages({ 'rotary.holds': '“{#device}” holds from a larger diameter than it holds up to' })
const axis = Joi.object({ travelMm: within(RANGES.bedMm), speedMmS: speed(20_000), accelerationMmS2: speed(500_000) })

const delay = Joi.number().min(0).max(1).required()

const lens = Joi.object({
  id: id.required(),
  name: name.required(),
  focalLengthMm: Joi.number().greater(0).max(2000).required(),
  spotMm: Joi.number().greater(0).max(5).required(),
  depthOfFocusMm: Joi.number().greater(0).max(200).required(),
})

/** From a least to a most. */
const span = (min: number, max: number) =>
  Joi.object({ min: Joi.number().min(min).max(max).required(), max: Joi.number().min(Joi.ref('min')).max(max).required() })

export const machineSchema = Joi.object({
  id: id.required(),
  version: Joi.number().integer().min(1).required(),
  name: name.required(),
  axes: Joi.object({
    x: axis.required(),
    y: axis.required(),
    z: Joi.object({ travelMm: speed(500), speedMmS: speed(20_000), accelerationMmS2: speed(500_000) }).optional(),
    a: Joi.object({ speedDegS: speed(100_000), accelerationDegS2: speed(1e6) }).optional(),
  }).required(),
  head: byKind(
    {
      gantry: { junctionDeviationMm: Joi.number().greater(0).max(1).required() },
      mirrors: {
        jumpDelayS: Joi.object({ least: delay, most: delay, fullMm: Joi.number().greater(0).max(1000).required() }).required(),
        markDelayS: delay,
        turnDelayS: delay,
      },
    },
    'a kind of head',
  ).required(),
  zero: Joi.valid('front-left', 'rear-left').required(),
  rotaries: Joi.object().pattern(id, rotaryDevice).max(20).optional(),
  turns: Joi.object({
    device: rotaryDevice.required(),
    diameterMm: within(RANGES.roundMm).required(),
    flatY: axis.required(),
  }).optional(),
  watts: Joi.number().greater(0).max(10_000).required(),
  pulses: Joi.object({ hz: span(1, 1e7), ns: span(0.001, 1e6).optional() }).optional(),
  safePower: Joi.number().greater(0).max(1).optional(),
  fullPowerS: Joi.number().integer().min(1).max(65_535).required(),
  plannerDepth: Joi.number().integer().min(2).max(4096).required(),
  powerCurve: Joi.array()
    .items(Joi.object({ power: Joi.number().greater(0).max(1).required(), watts: Joi.number().min(0).max(10_000).required() }))
    .max(50)
    .unique('power')
    .required(),
  powerRead: day.optional(),
  riseTimeS: delay,
  lenses: Joi.array().items(lens).min(1).max(20).unique('id').required(),
  lens: id.required(),
  hasAir: Joi.boolean().required(),
  address: Joi.string()
    .allow('')
    .pattern(/^tcp:\/\/[A-Za-z0-9.-]+:\d{1,5}$/)
    .required()
    .messages({ 'string.pattern.base': 'the address of a machine is written as tcp://HOST:PORT' }),
  lineBytesS: Joi.number().min(100).max(1e9).optional(),
  linesS: Joi.number().min(1).max(1e6).optional(),
})

/** What is saved as a profile agrees with itself. (A job that carries an older one is still read.) */
export const machineProfileSchema = machineSchema
  .custom((machine: Machine, { error, state }) => {
    const at = (...path: string[]): typeof state => state.localize!(path)
    const { head, lens, lenses } = machine
    if (head.kind === 'mirrors' && head.jumpDelayS.least > head.jumpDelayS.most)
      return error('delay.order', {}, at('head', 'jumpDelayS', 'most'))
    if (!lenses.some(({ id }) => id === lens)) return error('lens.fitted', {}, at('lens'))
    return machine
  })
  .messages({
    'delay.order': 'the most delay is no less than the least',
    'lens.fitted': 'the lens that is fitted is one of its lenses',
  })
