import { burnOrder, type JobDocument, sourceOf } from '@neotaxis/core'
import type { Selection } from '../store/view-slice.ts'

/** The piece of artwork that a selection stands for. */
export function selectedNode(job: JobDocument, selection: Selection): string | undefined {
  if (!selection) return undefined
  const id = selection.kind === 'node' ? selection.id : job.operations[selection.id]?.of[0]
  return id && job.nodes[id] ? id : undefined
}

/** The operation that a selection stands for. */
export function selectedOperation(job: JobDocument, selection: Selection): string | undefined {
  if (!selection) return undefined
  if (selection.kind === 'operation') return job.operations[selection.id] ? selection.id : undefined
  return burnOrder(job).find((id) => job.operations[id].of.includes(selection.id))
}

/** All pieces of artwork that are selected, the one whose details are shown last. */
export function selectedNodes(job: JobDocument, selection: Selection, also: readonly string[]): readonly string[] {
  const last = selectedNode(job, selection)
  return [...also.filter((id) => job.nodes[id] && id !== last), ...(last === undefined ? [] : [last])]
}

/** The selection with one piece of artwork more, or less where its family is in it already. */
export function toggled(job: JobDocument, nodes: readonly string[], node: string): readonly string[] {
  const root = sourceOf(job, node)
  const rest = nodes.filter((id) => sourceOf(job, id) !== root)
  return rest.length < nodes.length ? rest : [...nodes, node]
}
