import type { JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { burns, type Step } from '../job/document/steps.ts'
import { freeName } from './free-name.ts'

/** The step that burns an operation; undefined where it is put aside. */
export const burnStepOf = (job: JobDocument, operation: string): string | undefined =>
  job.order.find((id) => {
    const step = job.steps[id]
    return step.kind === 'burn' && step.operation === operation
  })

/** What is asked of somebody right before an operation: the ids of those steps, in order. */
export function stepsBefore(job: JobDocument, operation: string): string[] {
  const at = job.order.indexOf(burnStepOf(job, operation) ?? '')
  let from = at
  while (from > 0 && job.steps[job.order[from - 1]].kind !== 'burn') from--
  return at < 0 ? [] : job.order.slice(from, at)
}

/** The order with one operation, and what is asked before it, moved to another place among the operations. */
export function reordered(job: JobDocument, operation: string, to: number): JobDocument {
  const step = burnStepOf(job, operation)
  if (step === undefined) return job
  const own = [...stepsBefore(job, operation), step]
  const rest = job.order.filter((id) => !own.includes(id))
  const burning = rest.filter((id) => burns(job.steps[id]))
  const at = Math.min(burning.length, Math.max(0, to))
  // Before what is asked for the one that it goes in front of.
  let place = at === 0 ? 0 : rest.indexOf(burning[at - 1]) + 1
  if (at === burning.length) place = rest.length
  return { ...job, order: [...rest.slice(0, place), ...own, ...rest.slice(place)] }
}

/** An operation at the end of the order, or before the operation at a place in it; its step has its own id where that is free. */
export function burned(job: JobDocument, id: string, operation: Operation, at?: number): JobDocument {
  const step = freeName(job.steps, id)
  const withIt: JobDocument = {
    ...job,
    operations: { ...job.operations, [id]: operation },
    steps: { ...job.steps, [step]: { kind: 'burn', operation: id } },
    order: [...job.order, step],
  }
  return at === undefined ? withIt : reordered(withIt, id, at)
}

/** The job with an operation switched off: it keeps its place and its settings, and is not burned. */
export const putAside = (job: JobDocument, operation: string): JobDocument => switched(job, operation, false)

/** An operation switched on or off where it stands. */
export function switched(job: JobDocument, operation: string, on: boolean): JobDocument {
  const id = burnStepOf(job, operation)
  if (id === undefined) return job
  const { off: _, ...step } = job.steps[id] as Extract<Step, { kind: 'burn' }>
  return { ...job, steps: { ...job.steps, [id]: on ? step : { ...step, off: true } } }
}

/** The job without some steps; operations that they burn keep their settings. */
export function withoutSteps(job: JobDocument, ids: readonly string[]): JobDocument {
  const gone = new Set(ids)
  return {
    ...job,
    steps: Object.fromEntries(Object.entries(job.steps).filter(([id]) => !gone.has(id))),
    order: job.order.filter((id) => !gone.has(id)),
  }
}

/** Another thing asked before an operation in place of what was; undefined: nothing. */
export function askedFor(job: JobDocument, operation: string, step: Step | undefined): JobDocument {
  const burn = burnStepOf(job, operation)
  if (burn === undefined) return job
  const old = stepsBefore(job, operation)
  const id = old.at(-1) ?? freeName(job.steps, 'pause')
  const gone = new Set(step ? old.slice(0, -1) : old)
  const steps = Object.fromEntries(Object.entries(job.steps).filter(([key]) => !gone.has(key)))
  const order = job.order.filter((key) => !gone.has(key))
  if (!step) return { ...job, steps, order }
  if (old.length > 0) return { ...job, steps: { ...steps, [id]: step }, order }
  const at = order.indexOf(burn)
  return { ...job, steps: { ...steps, [id]: step }, order: [...order.slice(0, at), id, ...order.slice(at)] }
}

/** Where a step may go: steps at whose place it is put are moved on. */
const placed = (order: readonly string[], ids: readonly string[], to: number): string[] => {
  const own = new Set(ids)
  const rest = order.filter((id) => !own.has(id))
  const at = Math.min(rest.length, Math.max(0, to))
  return [...rest.slice(0, at), ...ids, ...rest.slice(at)]
}

/**
 * Some steps of the line moved together, in their own order. @param to their place among the steps that stay
 * What comes between two of a group belongs to it from then on; what leaves its group alone belongs to none.
 */
export function stepsMoved(job: JobDocument, ids: readonly string[], to: number): JobDocument {
  const own = job.order.filter((id) => ids.includes(id))
  const order = placed(job.order, own, to)
  const first = order.indexOf(own[0])
  const groupAt = (at: number): string | undefined => (order[at] === undefined ? undefined : job.steps[order[at]].group)
  const before = groupAt(first - 1)
  const around = before !== undefined && before === groupAt(first + own.length) ? before : undefined
  const whole = wholeGroup(job, own)
  if (whole !== undefined && around === undefined) return { ...job, order }
  const steps = Object.fromEntries(own.map((id) => [id, inGroup(job.steps[id], around)]))
  return { ...job, order, steps: { ...job.steps, ...steps } }
}

const inGroup = (step: Step, group: string | undefined): Step => {
  const { group: _, ...bare } = step
  return (group === undefined ? bare : { ...bare, group }) as Step
}

/** The group that some steps are, if they are all of it. */
function wholeGroup(job: JobDocument, ids: readonly string[]): string | undefined {
  const group = ids.length > 0 ? job.steps[ids[0]].group : undefined
  if (group === undefined) return undefined
  const all = job.order.filter((id) => job.steps[id].group === group)
  return all.length === ids.length && all.every((id) => ids.includes(id)) ? group : undefined
}

/** Steps as one group of the line: they stand together where the first of them stood. */
export function groupedSteps(job: JobDocument, ids: readonly string[], name: string): JobDocument {
  const own = job.order.filter((id) => ids.includes(id))
  if (own.length === 0) return job
  const group = freeGroup(job, name)
  const at = job.order.slice(0, job.order.indexOf(own[0])).filter((id) => !own.includes(id)).length
  const steps = Object.fromEntries(own.map((id) => [id, inGroup(job.steps[id], group)]))
  return { ...job, order: placed(job.order, own, at), steps: { ...job.steps, ...steps } }
}

function freeGroup(job: JobDocument, name: string): string {
  const taken = new Set(Object.values(job.steps).map(({ group }) => group))
  if (!taken.has(name)) return name
  for (let n = 2; ; n++) if (!taken.has(`${name} ${n}`)) return `${name} ${n}`
}

/** A group of steps under another name. @param to undefined: they belong to no group any more */
export function groupNamed(job: JobDocument, group: string, to: string | undefined): JobDocument {
  const name = to === undefined || to === group ? to : freeGroup(job, to)
  const steps = Object.entries(job.steps).map(([id, step]) => [id, step.group === group ? inGroup(step, name) : step])
  return { ...job, steps: Object.fromEntries(steps) }
}

/** A step more, at a place of the line; default at its end. @returns the job, and the id of the step */
export function stepAdded(
  job: JobDocument,
  step: Step,
  at = job.order.length,
): { readonly job: JobDocument; readonly step: string } {
  const id = freeName(job.steps, step.kind)
  const order = placed(job.order, [id], at)
  const group = [at - 1, at + 1].map((i) => (order[i] === undefined ? undefined : job.steps[order[i]]?.group))
  const made = group[0] !== undefined && group[0] === group[1] ? inGroup(step, group[0]) : step
  return { job: { ...job, steps: { ...job.steps, [id]: made }, order }, step: id }
}

/** A step that says something else, where it stands and in its group. */
export const stepAs = (job: JobDocument, id: string, step: Step): JobDocument => ({
  ...job,
  steps: { ...job.steps, [id]: inGroup(step, job.steps[id].group) },
})

/** A stretch of the line: one step, or several beside each other that are one group. */
export interface LineStretch {
  readonly group?: string
  /** Ids of its steps. */
  readonly steps: readonly string[]
}

/** The line of a job, stretch by stretch. */
export function stretchesOf({ order, steps }: Pick<JobDocument, 'order' | 'steps'>): LineStretch[] {
  const made: { group?: string; steps: string[] }[] = []
  for (const id of order) {
    const { group } = steps[id]
    const last = made.at(-1)
    if (group !== undefined && last?.group === group) last.steps.push(id)
    else made.push(group === undefined ? { steps: [id] } : { group, steps: [id] })
  }
  return made
}
