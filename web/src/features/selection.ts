import { burnOrder, type JobDocument } from '@neotaxis/core'
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
  return burnOrder(job).find((id) => job.operations[id].of[0] === selection.id)
}
