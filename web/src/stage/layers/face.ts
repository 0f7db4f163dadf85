import {
  type Affine,
  faceSize,
  type JobDocument,
  mainPiece,
  materialOf,
  outlineOfFace,
  poseMap,
  type Workpiece,
} from '@neotaxis/core'
import type { Showing } from '../layer.ts'
import type { StageView } from '../stage-view.ts'

/** The map from the face of the job's workpiece to the bed, mm: the space that most of a job lies in. */
export const faceSpace = (job: JobDocument): Affine => pieceSpace(mainPiece(job))

const spaces = new WeakMap<Workpiece, Affine>()

/** The same value for the same workpiece. */
function pieceSpace(piece: Workpiece): Affine {
  const known = spaces.get(piece)
  if (known) return known
  const made = poseMap(piece.pose, faceSize(piece))
  spaces.set(piece, made)
  return made
}

/** The edge of the job's workpiece as its own axes see it, CSS px. */
export function facePath(job: JobDocument, { x, y, scale }: StageView): Path2D {
  const path = new Path2D()
  for (const ring of outlineOfFace(mainPiece(job).outline)) {
    for (let i = 0; i < ring.length; i += 2) {
      const [px, py] = [(ring[i] - x) * scale, (ring[i + 1] - y) * scale]
      if (i === 0) path.moveTo(px, py)
      else path.lineTo(px, py)
    }
    path.closePath()
  }
  return path
}

/** The colour of its bare surface. */
export const surfaceColour = (job: JobDocument): string => `rgb(${materialOf(job).look.surface.join(' ')})`

/** From here on the context is in CSS px as the space's own axes see them. */
export function standUpright(context: CanvasRenderingContext2D, { upright }: Showing): void {
  if (upright.turn) context.transform(...upright.turn)
}
