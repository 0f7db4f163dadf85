import { crossesItself } from '../geometry/crossing.ts'
import { ringArea } from '../geometry/ring.ts'
import { JOB_VERSION, type JobDocument, placesOf } from '../job/document/document.ts'
import { JobError } from '../job/document/job-error.ts'
import { isOutline, isRoot, type PictureNode, parentsOf } from '../job/document/nodes.ts'
import { outlineOfFace, type PieceOutline } from '../job/document/workpiece.ts'
import type { Stored } from '../job/upgrade/stored.ts'
import { upgraded } from '../job/upgrade/upgrade.ts'
import type { Sparing } from '../lineage/spared.ts'
import { processOf } from '../process/table.ts'
import { jobSchema } from './job-schema.ts'

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
    const edge = node.kind === 'clip' ? node.to : node.kind === 'picture' ? node.clip?.to : undefined
    if (edge !== undefined && !isOutline(job.nodes[edge])) wrong(`“${node.name}” is kept within artwork that has no outline`)
    if (comesFromItself(job, key)) wrong(`“${node.name}” comes from itself`)
  }
  for (const [key, { of, on }] of Object.entries(job.placements)) {
    if (!job.nodes[of] || !isRoot(job.nodes[of])) wrong('a place belongs to no artwork')
    if (!job.workpieces[on]) wrong(`the place “${key}” lies on a workpiece that is missing`)
  }
  for (const key of Object.keys(job.groups ?? {}))
    if (!job.nodes[key] || !isRoot(job.nodes[key])) wrong('a group names artwork that is missing')
  for (const [key, { name, material, outline, keepOuts, back }] of Object.entries(job.workpieces)) {
    if (back && (!job.workpieces[back.of] || job.workpieces[back.of].back))
      wrong(`“${name || key}” is the second side of nothing`)
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
    for (const spared of (op as Sparing).spares ?? [])
      if (!isOutline(job.nodes[spared])) wrong(`operation “${key}” spares artwork that is missing or has no outline`)
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
    if (step.kind === 'elsewhere')
      for (const of of step.of ?? [])
        if (!isOutline(job.nodes[of])) wrong(`“${step.text}” cuts artwork that is missing or has no outline`)
    if (step.kind === 'set-up')
      for (const piece of Object.keys(step.poses ?? {}))
        if (!job.workpieces[piece]) wrong(`the set-up “${step.name}” lays a workpiece that is missing`)
  }
}

/** An edge encloses something, and never crosses itself. */
function checkOutline(outline: PieceOutline, what: string, wrong: Wrong): void {
  if (outline.kind !== 'rings') return
  const rings = outlineOfFace(outline)
  if (crossesItself(rings)) wrong(`${what} crosses itself`)
  if (rings.some((ring) => Math.abs(ringArea(ring)) < 0.01)) wrong(`${what} has no area`)
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
