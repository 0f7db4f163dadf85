import {
  type Affine,
  type Bounds,
  faceSize,
  type JobDocument,
  mainPiece,
  mapped,
  materialOf,
  outlineOfFace,
  poseBounds,
  poseMap,
  type Ring,
  unite,
  type Workpiece,
} from '@neotaxis/core'
import type { Showing } from '../layer.ts'
import type { StageView } from '../stage-view.ts'

/** The map from the face of the job's workpiece to the bed, mm: the space that most of a job lies in. */
export const faceSpace = (job: JobDocument): Affine => pieceSpace(mainPiece(job))

/** All workpieces where they lie, mm of the bed. */
export const bedBox = (job: JobDocument): Bounds =>
  Object.values(job.workpieces)
    .map((piece) => poseBounds(piece.pose, faceSize(piece)))
    .reduce(unite)

/** The same box in the space around a map, mm. */
export function boxThrough(map: Affine, { x0, y0, x1, y1 }: Bounds): Bounds {
  const corners = [mapped(map, x0, y0), mapped(map, x1, y0), mapped(map, x1, y1), mapped(map, x0, y1)]
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)]
  return { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) }
}

const spaces = new WeakMap<Workpiece, Affine>()

/** The same value for the same workpiece. */
export function pieceSpace(piece: Workpiece): Affine {
  const known = spaces.get(piece)
  if (known) return known
  const made = poseMap(piece.pose, faceSize(piece))
  spaces.set(piece, made)
  return made
}

/** The edge of the job's workpiece as its own axes see it, CSS px. */
export const facePath = (job: JobDocument, view: StageView): Path2D => piecePath(mainPiece(job), view)

/** The edge of any workpiece. */
export const piecePath = ({ outline }: Workpiece, view: StageView): Path2D => ringsPath(outlineOfFace(outline), view)

/** Polygons of a face. @param rings mm */
export function ringsPath(rings: readonly Ring[], { x, y, scale }: StageView): Path2D {
  const path = new Path2D()
  for (const ring of rings) {
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
