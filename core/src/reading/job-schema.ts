import Joi from 'joi'
import { byKind } from '../border/by-kind.ts'
import { drawnSchema } from '../drawn/drawn-schema.ts'
import { outlineStepSchema } from '../job/document/outline-schema.ts'
import { provenanceSchema } from '../job/document/provenance.ts'
import { RANGES } from '../job/document/ranges.ts'
import { id, name, within } from '../job/document/schema-parts.ts'
import { dotsSchema, framingSchema, treatmentShape } from '../job/document/treatment-schema.ts'
import { TRIAL_QUANTITIES, TRIAL_SETTINGS } from '../job/document/trial.ts'
import { operationShape } from '../process/operation-shape.ts'
import { PROCESS_NAMES, PROCESSES } from '../process/table.ts'
import { MOST_ENTRIES } from '../text/series.ts'
import { colour, machineSchema, materialSchema } from './catalogue-schema.ts'

const asset = Joi.string()
  .pattern(/^[0-9a-f]{64}$/)
  .required()
const sidePx = within(RANGES.sidePx).integer()

/** An edge that artwork is kept within. */
const keptWithin = { to: id.optional(), marginMm: within(RANGES.insideMm) }

/** What was told of a file when it came in. */
const cameIn = Joi.array().items(Joi.string().max(500)).max(40).optional()

const node = byKind(
  {
    source: {
      name: name.required(),
      asset,
      widthPx: sidePx,
      heightPx: sidePx,
      hasAlpha: Joi.boolean().required(),
      provenance: provenanceSchema.optional(),
      cameIn,
      inkPage: Joi.object({ strokePx: Joi.number().min(0).max(RANGES.sidePx.max).required() }).optional(),
      framing: framingSchema,
    },
    mesh: {
      name: name.required(),
      asset,
      axis: Joi.valid('+x', '-x', '+y', '-y', '+z', '-z').required(),
      near: Joi.number().min(0).max(1).required(),
      far: Joi.number().greater(Joi.ref('near')).max(1).required(),
      widthPx: sidePx,
      heightPx: sidePx,
      provenance: provenanceSchema.optional(),
      framing: framingSchema,
    },
    program: { name: name.required(), asset },
    picture: {
      name: name.required(),
      from: id.required(),
      ...treatmentShape,
      dots: dotsSchema.required(),
      clip: Joi.object({ ...keptWithin, fadeMm: within(RANGES.fadeMm) }).optional(),
    },
    clip: { name: name.required(), from: id.required(), ...keptWithin },
    trace: {
      name: name.required(),
      from: id.required(),
      channel: Joi.valid('grey', 'alpha').required(),
      mode: Joi.valid('centreline', 'colours').optional(),
      palette: Joi.array().items(colour).min(1).max(32).optional(),
      chosen: Joi.array().items(Joi.number().integer().min(0).max(31)).unique().max(32).optional(),
      ink: Joi.object({ ruled: Joi.boolean().required(), from: within(RANGES.inkFrom) }).optional(),
      threshold: within(RANGES.threshold),
      above: Joi.number().min(0).less(Joi.ref('threshold')).optional(),
      smoothMm: Joi.number().min(RANGES.smoothMm.min).max(RANGES.smoothMm.max).optional(),
      zone: Joi.object({
        x: Joi.number().min(0).less(1).required(),
        y: Joi.number().min(0).less(1).required(),
        width: Joi.number().greater(0).max(1).required(),
        height: Joi.number().greater(0).max(1).required(),
      }).optional(),
      toleranceMm: within(RANGES.toleranceMm),
      cornerDeg: within(RANGES.cornerDeg),
      minAreaMm2: within(RANGES.minAreaMm2),
    },
    part: {
      name: name.required(),
      from: id.required(),
      looks: Joi.array().items(Joi.string().max(300)).min(1).max(500).required(),
      as: Joi.valid('edges', 'lines', 'seen').required(),
    },
    drawing: {
      name: name.required(),
      asset,
      widthMm: within(RANGES.drawingMm),
      heightMm: within(RANGES.drawingMm),
      drawn: drawnSchema.optional(),
      provenance: provenanceSchema.optional(),
      cameIn,
    },
    clean: {
      name: name.required(),
      from: id.required(),
      steps: Joi.object().pattern(id, outlineStepSchema).max(500).required(),
      order: Joi.array().items(id).unique().max(500).required(),
    },
    combine: {
      name: name.required(),
      from: id.required(),
      with: id.required(),
      op: Joi.valid('union', 'subtract', 'intersect', 'exclude', 'split').required(),
    },
    bridged: {
      name: name.required(),
      from: id.required(),
      bridges: Joi.object()
        .pattern(
          id,
          Joi.object({
            x: Joi.number().min(-10).max(10).required(),
            y: Joi.number().min(-10).max(10).required(),
            widthMm: within(RANGES.bridgeMm),
          }),
        )
        .max(1000)
        .required(),
    },
    offset: {
      name: name.required(),
      from: id.required(),
      distanceMm: within(RANGES.distanceMm),
      join: Joi.valid('round', 'mitre', 'bevel').required(),
      outermost: Joi.boolean().required(),
      steps: Joi.number().integer().min(1).max(RANGES.offsetSteps.max).optional(),
      both: Joi.valid(true).optional(),
    },
  },
  'a kind of artwork',
)

const operation = byKind(
  Object.fromEntries(PROCESS_NAMES.map((name) => [name, { ...operationShape, ...PROCESSES[name].schema }])),
  'a process',
  'process',
)

const pose = {
  xMm: within(RANGES.positionMm),
  yMm: within(RANGES.positionMm),
  deg: Joi.number().min(RANGES.degrees.min).max(RANGES.degrees.max).optional(),
}

const placement = Joi.object({
  of: id.required(),
  on: id.required(),
  ...pose,
  widthMm: within(RANGES.sizeMm),
  heightMm: within(RANGES.sizeMm),
  entry: Joi.number().integer().min(0).max(MOST_ENTRIES).optional(),
  trueToFace: Joi.valid(true).optional(),
})

const outline = byKind(
  {
    rect: { widthMm: within(RANGES.workpieceMm), heightMm: within(RANGES.workpieceMm) },
    circle: { diameterMm: within(RANGES.workpieceMm) },
    rings: {
      rings: Joi.array()
        .items(
          Joi.array()
            .items(Joi.number().min(-1).max(RANGES.workpieceMm.max))
            .min(6)
            .max(20_000)
            .custom((ring: number[], helpers) => (ring.length % 2 === 0 ? ring : helpers.error('any.invalid'))),
        )
        .min(1)
        .max(200)
        .required(),
    },
  },
  'a kind of outline',
)

/** What of a workpiece is the same wherever it lies, and who keeps it: of jobs, and of what lies on the shelf. */
export const pieceSchema = {
  outline: outline.required(),
  thicknessMm: within(RANGES.thicknessMm),
  keepOuts: Joi.object()
    .pattern(id, Joi.object({ name: name.required(), outline: outline.required(), pose: Joi.object(pose).required() }))
    .max(100)
    .required(),
  marks: Joi.object()
    .pattern(id, Joi.object({ xMm: within(RANGES.positionMm), yMm: within(RANGES.positionMm) }))
    .max(100)
    .required(),
  grainDeg: Joi.number().min(-360).max(360).optional(),
}

/** An end of what turns, seen on its face. */
const faceEnd = Joi.valid('left', 'right').optional()

const workpiece = Joi.object({
  name: name.required(),
  material: id.required(),
  surface: byKind(
    {
      flat: {
        arch: Joi.object({ radiusMm: within(RANGES.archMm), across: Joi.valid('x', 'y').required() }).optional(),
        heights: Joi.object({
          columns: within(RANGES.heightPlaces).integer(),
          rows: within(RANGES.heightPlaces).integer(),
          mm: Joi.array()
            .items(Joi.number().min(-RANGES.thicknessMm.max).max(RANGES.thicknessMm.max))
            .length(Joi.expression('{columns * rows}'))
            .required(),
        }).optional(),
        follows: Joi.valid(true).optional(),
        strips: Joi.valid(true).optional(),
      },
      cylinder: { diameterMm: within(RANGES.roundMm), held: faceEnd, lip: faceEnd },
      cone: { leftMm: within(RANGES.roundMm), rightMm: within(RANGES.roundMm), held: faceEnd, lip: faceEnd },
      profile: {
        places: Joi.array()
          .items(
            Joi.object({ alongMm: Joi.number().min(0).max(RANGES.bedMm.max).required(), diameterMm: within(RANGES.roundMm) }),
          )
          .min(2)
          .max(200)
          .required(),
        held: faceEnd,
        lip: faceEnd,
      },
    },
    'a kind of surface',
  ).required(),
  ...pieceSchema,
  back: Joi.object({ of: id.required(), way: Joi.valid('left-right', 'top-bottom').required() }).optional(),
  stock: Joi.object({ id: id.required(), cents: Joi.number().integer().min(0).max(1e9).required() }).optional(),
  pose: Joi.object(pose).required(),
})

const inLine = { group: Joi.string().min(1).max(100).optional() }
const said = Joi.string().max(300).required()
const step = byKind(
  {
    burn: { operation: id.required(), off: Joi.valid(true).optional(), ...inLine },
    pause: { text: said, ...inLine },
    'by-hand': { text: said, minutes: within(RANGES.minutes), ...inLine },
    elsewhere: {
      text: said,
      tool: Joi.string().allow('').max(200).required(),
      of: Joi.array().items(id).max(500).unique().optional(),
      toolMm: within(RANGES.toolMm).optional(),
      keeps: Joi.valid('sheet').optional(),
      ...inLine,
    },
    'set-up': {
      ...inLine,
      name: said,
      fixture: Joi.string().max(200).optional(),
      poses: Joi.object().pattern(id, Joi.object(pose)).max(100).optional(),
    },
  },
  'a kind of step',
)

/** The shape of a job document; what it refers to is checked after it. */
const trialAxis = Joi.object({
  setting: Joi.valid(...TRIAL_SETTINGS).required(),
  values: Joi.array().items(Joi.number().min(-1000).max(1e8)).min(1).max(225).unique().required(),
})
const place = Joi.number().integer().min(0).max(224).required()
const cellIds = Joi.array().items(id).max(225).unique()
const reading = Joi.array().items(Joi.number().min(0).max(1e6)).min(1).max(20)
const trialSchema = Joi.object({
  process: Joi.valid(...PROCESS_NAMES).required(),
  isFor: Joi.valid(...PROCESS_NAMES).optional(),
  from: Joi.object({ job: id.required(), operation: id.required() }).optional(),
  readings: Joi.object()
    .pattern(id, Joi.object(Object.fromEntries(TRIAL_QUANTITIES.map((quantity) => [quantity, reading.optional()]))))
    .max(225)
    .optional(),
  leftOut: cellIds.optional(),
  best: id.optional(),
  full: id.optional(),
  contrast: Joi.number().min(-1000).max(1).optional(),
  across: trialAxis.required(),
  down: trialAxis.optional(),
  again: trialAxis.optional(),
  cells: Joi.object()
    .pattern(id, Joi.object({ column: place, row: place, again: place.optional() }))
    .min(1)
    .max(225)
    .required(),
})

export const jobSchema = Joi.object({
  format: Joi.valid('neotaxis-job').required(),
  version: Joi.number().integer().min(1).required(),
  name: name.min(1).required(),
  workpieces: Joi.object().pattern(id, workpiece).min(1).max(200).required(),
  materials: Joi.object().pattern(id, materialSchema).min(1).max(200).required(),
  machine: machineSchema.required(),
  nodes: Joi.object().pattern(id, node).max(500).required(),
  placements: Joi.object().pattern(id, placement).max(5000).required(),
  operations: Joi.object().pattern(id, operation).max(500).required(),
  steps: Joi.object().pattern(id, step).max(1000).required(),
  order: Joi.array().items(id).unique().max(1000).required(),
  thinMm: Joi.number().min(RANGES.thinMm.min).max(RANGES.thinMm.max).optional(),
  groups: Joi.object().pattern(id, id).max(500).optional(),
  repeats: Joi.object()
    .pattern(
      id,
      Joi.alternatives(
        Joi.object({
          count: Joi.number().integer().min(1).max(RANGES.repeats.max).required(),
          columns: Joi.number().integer().min(1).max(RANGES.repeats.max).required(),
          pitchXMm: within(RANGES.pitchMm),
          pitchYMm: within(RANGES.pitchMm),
        }),
        Joi.object({
          count: Joi.number().integer().min(1).max(RANGES.repeats.max).required(),
          diameterMm: within(RANGES.circleMm),
          atDeg: within(RANGES.degrees),
          overDeg: within(RANGES.overDeg),
          turned: Joi.boolean().required(),
        }),
      ),
    )
    .max(100)
    .optional(),
  trial: trialSchema.optional(),
  meant: Joi.object().pattern(Joi.string().max(120), Joi.string().max(400)).max(500).required(),
})
