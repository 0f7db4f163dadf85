import { type JobDocument, mainPieceId, placeOf } from '@neotaxis/core'
import type { Drawing } from '../../workers/shared.ts'

/** Whether some artwork lies on the workpiece that is looked at. */
export const isHere = (job: JobDocument, node: string): boolean =>
  job.nodes[node] !== undefined && placeOf(job, node).on === mainPieceId(job)

const only = <T>(of: Readonly<Record<string, T>>, keep: (id: string) => boolean): Record<string, T> =>
  Object.fromEntries(Object.entries(of).filter(([id]) => keep(id)))

/**
 * What is drawn of the artwork on the workpiece that is looked at; nothing while it was drawn for another one.
 * @param drawn the job that it was drawn for
 */
export function drawnHere(job: JobDocument, drawn: JobDocument | undefined, drawing: Drawing): Drawing | undefined {
  if (Object.keys(job.workpieces).length < 2) return drawing
  if (drawn && mainPieceId(drawn) !== mainPieceId(job)) return undefined
  const keep = (id: string): boolean => isHere(job, id)
  return { versions: only(drawing.versions, keep), outlines: only(drawing.outlines, keep), bounds: only(drawing.bounds, keep) }
}
