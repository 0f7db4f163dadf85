import { burnOrder, burnStepOf, burns, type JobDocument, sourceOf } from '@neotaxis/core'
import type { Selection } from '../store/view-slice.ts'

/** The piece of artwork that a selection stands for. */
export function selectedNode(job: JobDocument, selection: Selection): string | undefined {
  if (!selection || selection.kind === 'step') return undefined
  const id = selection.kind === 'node' ? selection.id : job.operations[selection.id]?.of[0]
  return id && job.nodes[id] ? id : undefined
}

/** The operation that a selection stands for. */
export function selectedOperation(job: JobDocument, selection: Selection): string | undefined {
  if (!selection || selection.kind === 'step') return undefined
  if (selection.kind === 'operation') return job.operations[selection.id] ? selection.id : undefined
  return burnOrder(job).find((id) => job.operations[id].of.includes(selection.id))
}

/** The step of the line that a selection stands for: one at which the machine waits, or that of its operation. */
export function selectedStep(job: JobDocument, selection: Selection): string | undefined {
  if (selection?.kind === 'step') return job.steps[selection.id] ? selection.id : undefined
  const operation = selectedOperation(job, selection)
  return operation === undefined ? undefined : burnStepOf(job, operation)
}

/** All steps of the line that are selected, in their order. @param blocks those beside the selection */
export function selectedSteps(job: JobDocument, selection: Selection, blocks: readonly string[]): readonly string[] {
  const own = selectedStep(job, selection)
  return job.order.filter((id) => id === own || blocks.includes(id))
}

/** All operations that are selected on the line, the one whose details are shown last. */
export function selectedOperations(job: JobDocument, selection: Selection, blocks: readonly string[]): readonly string[] {
  const last = selectedOperation(job, selection)
  const others = job.order.flatMap((id) => {
    const step = job.steps[id]
    return blocks.includes(id) && burns(step) && step.operation !== last ? [step.operation] : []
  })
  return [...others, ...(last === undefined ? [] : [last])]
}

/** All pieces of artwork that are selected, the one whose details are shown last; of an operation all that it burns. */
export function selectedNodes(job: JobDocument, selection: Selection, also: readonly string[]): readonly string[] {
  const last = selectedNode(job, selection)
  const others = selection?.kind === 'operation' ? (job.operations[selection.id]?.of ?? []) : also
  return [...others.filter((id) => job.nodes[id] && id !== last), ...(last === undefined ? [] : [last])]
}

/** The selection with one piece of artwork more, or less where its family is in it already. */
export function toggled(job: JobDocument, nodes: readonly string[], node: string): readonly string[] {
  const root = sourceOf(job, node)
  const rest = nodes.filter((id) => sourceOf(job, id) !== root)
  return rest.length < nodes.length ? rest : [...nodes, node]
}
