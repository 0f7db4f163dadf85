import type { JobDocument } from '../job/document/document.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import { poseBounds } from '../space/pose.ts'
import type { Found } from './finding.ts'

/** What a finding about a whole operation says of itself: it stands over the first piece; undefined where nothing is burned. */
export function atOperation(
  job: JobDocument,
  kind: string,
  id: string,
): Pick<Found, 'id' | 'kind' | 'operation' | 'workpiece' | 'x' | 'y'> | undefined {
  const piece = burnedPieces(job, job.operations[id], id)[0]
  if (!piece) return undefined
  const { x0, x1, y0 } = poseBounds(piece.placement, piece.placement)
  return { id: `${kind}:${id}`, kind, operation: id, workpiece: piece.workpieceId, x: (x0 + x1) / 2, y: y0 }
}
