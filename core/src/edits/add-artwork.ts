import { burnOrder, type JobDocument, mainPieceId, type Placement } from '../job/document/document.ts'
import { isRoot, type LineageNode } from '../job/document/nodes.ts'
import type { Operation } from '../job/document/operation.ts'
import type { Step } from '../job/document/steps.ts'
import { processOf } from '../process/table.ts'
import type { OnLine } from '../text/text-spec.ts'
import { isOn } from './follow-line.ts'
import { burnStepOf, stepsBefore } from './steps-edits.ts'

/**
 * A job with the artwork of another one beside its own: new ids, places and operations kept. What marks runs before the first
 * cut of the job, what cuts runs last. @param tag ends the new ids: letters, digits, at most 12
 */
export function withArtwork(job: JobDocument, other: JobDocument, tag: string): JobDocument {
  const named = (id: string): string => `${id.slice(0, 26)}-${tag}`
  const nodes = Object.fromEntries(
    Object.entries(other.nodes).map(([id, node]): [string, LineageNode] => {
      if (isRoot(node))
        return [
          named(id),
          onLineNamed(node, (on) => (other.nodes[on.node] ? named(on.node) : isOn(job, on) ? on.node : undefined)),
        ]
      const from = { ...node, from: named(node.from) } as LineageNode
      if (from.kind === 'combine') return [named(id), { ...from, with: named(from.with) }]
      if (from.kind === 'clip' && from.to !== undefined) return [named(id), { ...from, to: named(from.to) }]
      if (from.kind === 'picture' && from.clip?.to !== undefined)
        return [named(id), { ...from, clip: { ...from.clip, to: named(from.clip.to) } }]
      return [named(id), from]
    }),
  )
  const on = mainPieceId(job)
  const placements = Object.fromEntries(
    Object.entries(other.placements).map(([id, place]): [string, Placement] => [
      named(id),
      { ...place, of: named(place.of), on },
    ]),
  )
  const operations = Object.fromEntries(
    Object.entries(other.operations).map(([id, op]): [string, Operation] => [
      named(id),
      {
        ...op,
        of: op.of.map(named),
        ...(op.at ? { at: op.at.map(named) } : {}),
        ...('spares' in op && op.spares ? { spares: op.spares.map(named) } : {}),
      },
    ]),
  )
  const steps = Object.fromEntries(
    Object.entries(other.steps).map(([id, step]): [string, Step] => [
      named(id),
      step.kind === 'burn'
        ? { ...step, operation: named(step.operation) }
        : step.kind === 'elsewhere' && step.of
          ? { ...step, of: step.of.map(named) }
          : step,
    ]),
  )
  const groups = Object.fromEntries(Object.entries(other.groups ?? {}).map(([id, group]) => [named(id), named(group)]))
  const frees = (of: JobDocument, id: string): boolean => processOf(of.operations[id]).cutting !== undefined
  /** The steps of the other job that burn some operations, each with what is asked before it; what comes after them all goes last. */
  const stepsOf = (cuts: boolean): string[] => {
    const made: string[] = []
    let waiting: string[] = []
    for (const id of other.order) {
      waiting.push(id)
      const step = other.steps[id]
      if (step.kind !== 'burn') continue
      if (frees(other, step.operation) === cuts) made.push(...waiting)
      waiting = []
    }
    return [...made, ...(cuts ? waiting : [])].map(named)
  }
  // What lies on a second side comes when the piece was turned over.
  const firstCut = job.workpieces[on].back ? undefined : burnOrder(job).find((id) => frees(job, id))
  const before = firstCut === undefined ? undefined : (stepsBefore(job, firstCut)[0] ?? burnStepOf(job, firstCut)!)
  const at = before === undefined ? job.order.length : job.order.indexOf(before)
  return {
    ...job,
    nodes: { ...job.nodes, ...nodes },
    placements: { ...job.placements, ...placements },
    operations: { ...job.operations, ...operations },
    ...(job.groups || other.groups ? { groups: { ...job.groups, ...groups } } : {}),
    steps: { ...job.steps, ...steps },
    order: [...job.order.slice(0, at), ...stepsOf(false), ...job.order.slice(at), ...stepsOf(true)],
  }
}

/** A text that stands on the line of other artwork, under that one's new name; where that does not come along it stands by itself. */
function onLineNamed<N extends LineageNode>(node: N, named: (on: OnLine) => string | undefined): N {
  if (node.kind !== 'drawing' || node.drawn?.kind !== 'text' || node.drawn.along?.kind !== 'path') return node
  const { on, ...along } = node.drawn.along
  if (!on) return node
  const line = named(on)
  return { ...node, drawn: { ...node.drawn, along: line === undefined ? along : { ...along, on: { ...on, node: line } } } }
}
