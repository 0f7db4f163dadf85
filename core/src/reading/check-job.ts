import Joi from 'joi'
import { byKind } from '../border/by-kind.ts'
import { drawnSchema } from '../drawn/drawn-schema.ts'
import { crossesItself } from '../geometry/crossing.ts'
import { ringArea } from '../geometry/ring.ts'
import { JOB_VERSION, type JobDocument, placesOf } from '../job/document/document.ts'
import { JobError } from '../job/document/job-error.ts'
import { isOutline, isRoot, type PictureNode, parentsOf } from '../job/document/nodes.ts'
import { outlineStepSchema } from '../job/document/outline-schema.ts'
import { provenanceSchema } from '../job/document/provenance.ts'
import { RANGES } from '../job/document/ranges.ts'
import { dotsSchema, framingSchema, treatmentShape } from '../job/document/treatment-schema.ts'
import { outlineOfFace, type PieceOutline } from '../job/document/workpiece.ts'
import type { Stored } from '../job/upgrade/stored.ts'
import { upgraded } from '../job/upgrade/upgrade.ts'
import { FINISHES } from '../material/material.ts'
import { operationShape } from '../process/schema-parts.ts'
import { PROCESS_NAMES, PROCESSES, processOf } from '../process/table.ts'

const id = Joi.string().pattern(/^[A-Za-z0-9_-]{1,40}$/)
const name = Joi.string().max(200)
const within = ({ min, max }: { min: number; max: number }) => Joi.number().min(min).max(max).required()
const colour = Joi.array().items(Joi.number().integer().min(0).max(255)).length(3)
const rgb = colour.required()
const dose = Joi.object({ from: Joi.number().min(0).required(), to: Joi.number().greater(Joi.ref('from')).required() }).required()

const proof = Joi.alternatives(
  Joi.object({ kind: Joi.valid('proven').required(), times: Joi.number().integer().min(0).required() }),
  Joi.object({ kind: Joi.valid('borrowed').required(), from: name.required() }),
  Joi.object({ kind: Joi.valid('guessed').required() }),
).required()

export const recipeSchema = Joi.object({
  id: id.required(),
  process: Joi.valid('picture', 'relief', 'cut', 'score').required(),
  name: name.required(),
  machine: id.required(),
  power: within(RANGES.power),
  speedMmS: within(RANGES.speedMmS),
  passes: within(RANGES.passes).integer(),
  intervalMm: within(RANGES.intervalMm).optional(),
  kerfMm: within(RANGES.kerfMm).optional(),
  air: Joi.boolean().required(),
  proof,
})

/** A measured curve, as a job, a catalogue and a file carry it. */
export const curveSchema = Joi.object({
  id: id.required(),
  quantity: Joi.valid('tone', 'depth', 'gain', 'watts').required(),
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
    date: Joi.string()
      .pattern(/^\d{4}-\d{2}-\d{2}$/)
      .required(),
  }).required(),
})

export const materialSchema = Joi.object({
  id: id.required(),
  version: Joi.number().integer().min(1).required(),
  name: name.required(),
  thicknessMm: within(RANGES.thicknessMm),
  look: Joi.object({ surface: rgb, grain: rgb, burn: rgb, edge: rgb, kind: Joi.valid('wood', 'plain').required() }).required(),
  markDose: dose,
  cutDose: dose,
  warnings: Joi.array().items(Joi.string().max(200)).max(20).optional(),
  recipes: Joi.array().items(recipeSchema).max(200).required(),
  finish: Joi.valid(...FINISHES).optional(),
  curves: Joi.array().items(curveSchema).max(50).optional(),
})

const speed = (max: number) => Joi.number().greater(0).max(max).required()
const axis = Joi.object({ travelMm: within(RANGES.bedMm), speedMmS: speed(20_000), accelerationMmS2: speed(500_000) })

const delay = Joi.number().min(0).max(1).required()

const lens = Joi.object({
  id: id.required(),
  name: name.required(),
  focalLengthMm: Joi.number().greater(0).max(2000).required(),
  spotMm: Joi.number().greater(0).max(5).required(),
  depthOfFocusMm: Joi.number().greater(0).max(200).required(),
})

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
  watts: Joi.number().greater(0).max(10_000).required(),
  fullPowerS: Joi.number().integer().min(1).max(65_535).required(),
  plannerDepth: Joi.number().integer().min(2).max(4096).required(),
  powerCurve: Joi.array()
    .items(Joi.object({ power: Joi.number().greater(0).max(1).required(), watts: Joi.number().min(0).max(10_000).required() }))
    .max(50)
    .unique('power')
    .required(),
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
})

const asset = Joi.string()
  .pattern(/^[0-9a-f]{64}$/)
  .required()
const sidePx = within(RANGES.sidePx).integer()

const node = byKind(
  {
    source: {
      name: name.required(),
      asset,
      widthPx: sidePx,
      heightPx: sidePx,
      hasAlpha: Joi.boolean().required(),
      provenance: provenanceSchema.optional(),
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
    picture: { name: name.required(), from: id.required(), ...treatmentShape, dots: dotsSchema.required() },
    trace: {
      name: name.required(),
      from: id.required(),
      channel: Joi.valid('grey', 'alpha').required(),
      mode: Joi.valid('centreline', 'colours').optional(),
      palette: Joi.array().items(colour).min(1).max(32).optional(),
      chosen: Joi.array().items(Joi.number().integer().min(0).max(31)).unique().max(32).optional(),
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

const workpiece = Joi.object({
  name: name.required(),
  material: id.required(),
  outline: outline.required(),
  surface: byKind({ flat: {} }, 'a kind of surface').required(),
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
  pose: Joi.object(pose).required(),
})

const said = Joi.string().max(300).required()
const step = byKind(
  {
    burn: { operation: id.required() },
    pause: { text: said },
    'by-hand': { text: said, minutes: Joi.number().min(0).max(100_000).required() },
    elsewhere: { text: said, tool: Joi.string().allow('').max(200).required() },
    'set-up': {
      name: said,
      fixture: Joi.string().max(200).optional(),
      poses: Joi.object().pattern(id, Joi.object(pose)).max(100).optional(),
    },
  },
  'a kind of step',
)

const jobSchema = Joi.object({
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
  meant: Joi.object().pattern(Joi.string().max(120), Joi.string().max(400)).max(500).required(),
})

/**
 * Checks a job document from outside: its shape, its ranges, and that everything it refers to is there.
 * @throws JobError with one sentence
 */
export function checkJob(value: unknown): JobDocument {
  if (typeof value !== 'object' || value === null || (value as { format?: unknown }).format !== 'neotaxis-job')
    throw new JobError('This is not a Neotaxis job.')
  const version = (value as { version?: unknown }).version
  if (typeof version === 'number' && version > JOB_VERSION) {
    throw new JobError(
      `This job was made by a newer Neotaxis (job version ${version}, this one reads up to ${JOB_VERSION}). Update Neotaxis to open it.`,
    )
  }
  const { error, value: job } = jobSchema.validate(upgraded(value as Stored), { convert: false, abortEarly: true })
  if (error) throw new JobError(`The job does not hold together: ${error.message}.`)
  checkReferences(job)
  return job
}

function checkReferences(job: JobDocument): void {
  const wrong: Wrong = (what) => {
    throw new JobError(`The job does not hold together: ${what}.`)
  }
  for (const [key, node] of Object.entries(job.nodes)) {
    if (isRoot(node)) {
      if (placesOf(job, key).length === 0) wrong(`the artwork “${node.name}” has no place`)
      continue
    }
    const parent = job.nodes[node.from]
    if (!parent) wrong(`“${node.name}” comes from artwork that is missing`)
    const fits =
      node.kind === 'part'
        ? parent.kind === 'drawing'
        : node.kind === 'trace' || node.kind === 'picture'
          ? parent.kind === 'source' || parent.kind === 'mesh' || (node.kind === 'picture' && parent.kind === 'part')
          : isOutline(parent)
    if (!fits) wrong(`“${node.name}” cannot come from “${parent.name}”`)
    if (node.kind === 'trace' && node.mode === 'colours' && !node.palette) wrong(`“${node.name}” has no palette`)
    if (node.kind === 'picture') checkTreatment(node, wrong)
    if (node.kind === 'clean' && !sameNames(node.order, node.steps)) wrong(`“${node.name}” has steps without an order`)
    if (node.kind === 'combine' && !isOutline(job.nodes[node.with]))
      wrong(`“${node.name}” is combined with artwork that has no outline`)
    if (comesFromItself(job, key)) wrong(`“${node.name}” comes from itself`)
  }
  for (const [key, { of, on }] of Object.entries(job.placements)) {
    if (!job.nodes[of] || !isRoot(job.nodes[of])) wrong('a place belongs to no artwork')
    if (!job.workpieces[on]) wrong(`the place “${key}” lies on a workpiece that is missing`)
  }
  for (const key of Object.keys(job.groups ?? {}))
    if (!job.nodes[key] || !isRoot(job.nodes[key])) wrong('a group names artwork that is missing')
  for (const [key, { name, material, outline, keepOuts }] of Object.entries(job.workpieces)) {
    if (!job.materials[material]) wrong(`the workpiece “${name || key}” is of a material that is missing`)
    checkOutline(outline, `the outline of the workpiece “${name || key}”`, wrong)
    for (const out of Object.values(keepOuts)) checkOutline(out.outline, `the outline of “${out.name}”`, wrong)
  }
  for (const [key, material] of Object.entries(job.materials))
    if (material.id !== key) wrong(`the material “${material.name}” stands under another name`)
  checkOperations(job, wrong)
  checkSteps(job, wrong)
}

type Wrong = (what: string) => never

function checkOperations(job: JobDocument, wrong: Wrong): void {
  for (const [key, op] of Object.entries(job.operations)) {
    for (const of of op.of) {
      if (!job.nodes[of]) wrong(`operation “${key}” burns artwork that is missing`)
      if (!processOf(op).takes(job, of)) wrong(`operation “${key}” cannot burn “${job.nodes[of].name}”`)
    }
    for (const place of op.at ?? []) if (!job.placements[place]) wrong(`operation “${key}” burns at a place that is missing`)
  }
}

function checkSteps(job: JobDocument, wrong: Wrong): void {
  for (const key of job.order) if (!job.steps[key]) wrong(`the order names a step “${key}” that is missing`)
  if (!sameNames(job.order, job.steps)) wrong('a step has no place in the order')
  const burned = new Set<string>()
  for (const key of job.order) {
    const step = job.steps[key]
    if (step.kind === 'burn') {
      if (!job.operations[step.operation]) wrong(`the step “${key}” burns an operation “${step.operation}” that is missing`)
      if (burned.has(step.operation)) wrong(`the operation “${step.operation}” is burned by two steps`)
      burned.add(step.operation)
    }
    if (step.kind === 'set-up')
      for (const piece of Object.keys(step.poses ?? {}))
        if (!job.workpieces[piece]) wrong(`the set-up “${step.name}” lays a workpiece that is missing`)
  }
}

/** An edge encloses something, and never crosses itself. */
function checkOutline(outline: PieceOutline, what: string, wrong: Wrong): void {
  if (outline.kind !== 'rings') return
  const rings = outlineOfFace(outline)
  if (rings.some((ring) => Math.abs(ringArea(ring)) < 0.01)) wrong(`${what} has no area`)
  if (crossesItself(rings)) wrong(`${what} crosses itself`)
}

const sameNames = (order: readonly string[], things: object): boolean =>
  order.length === Object.keys(things).length && order.every((id) => id in things)

/** Whether a way from a node to what it is made from never ends. */
function comesFromItself(job: JobDocument, start: string): boolean {
  const ended = new Set<string>()
  const open = new Set<string>()
  const visit = (id: string): boolean => {
    if (open.has(id)) return true
    if (ended.has(id) || !job.nodes[id]) return false
    open.add(id)
    const found = parentsOf(job.nodes[id]).some(visit)
    open.delete(id)
    ended.add(id)
    return found
  }
  return visit(start)
}

/** Every step and mask part has its place in the order, and no step is limited to a mask that is missing. */
function checkTreatment(node: PictureNode, wrong: (what: string) => never): void {
  if (!sameNames(node.order, node.steps)) wrong(`“${node.name}” has steps without an order`)
  for (const step of Object.values(node.steps))
    if (step.mask !== undefined && !node.masks[step.mask]) wrong(`a step of “${node.name}” is limited to a mask that is missing`)
  for (const mask of Object.values(node.masks))
    if (!sameNames(mask.order, mask.parts)) wrong(`the mask “${mask.name}” has parts without an order`)
}
