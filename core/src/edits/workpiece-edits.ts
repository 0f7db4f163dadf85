import { filledBy } from '../geometry/clip.ts'
import { type Ring, ringArea, ringsBounds } from '../geometry/ring.ts'
import { simplified } from '../geometry/simplify.ts'
import { type JobDocument, mainPieceId, withPiece } from '../job/document/document.ts'
import { JobError } from '../job/document/job-error.ts'
import { faceOutline, faceSize, outlineSize, type PieceOutline } from '../job/document/workpiece.ts'
import { micro } from '../numeric/micro.ts'
import { mapped } from '../space/affine.ts'
import { poseMap } from '../space/pose.ts'

/** The workpiece with another edge; the box around it keeps its rear left corner, and all that lies on it its place from there. */
export const withShape = (job: JobDocument, outline: PieceOutline, id = mainPieceId(job)): JobDocument => {
  const piece = job.workpieces[id]
  const [before, after] = [faceSize(piece), outlineSize(outline)]
  // Turned, a box is turned about its middle: that of another size lies elsewhere.
  const [x, y] = mapped(poseMap(piece.pose, before), 0, 0)
  const [nx, ny] = mapped(poseMap(piece.pose, after), 0, 0)
  const { pose } = piece
  const moved = pose.deg ? { ...pose, xMm: micro(pose.xMm + x - nx), yMm: micro(pose.yMm + y - ny) } : pose
  return withPiece(job, { outline, pose: moved }, id)
}

/** The workpiece with another edge around the same middle: all that lies on it stays where it is, on the bed too. */
export function withShapeAround(job: JobDocument, outline: PieceOutline, id = mainPieceId(job)): JobDocument {
  const piece = job.workpieces[id]
  const [before, after] = [faceSize(piece), outlineSize(outline)]
  const dx = (before.widthMm - after.widthMm) / 2
  const dy = (before.heightMm - after.heightMm) / 2
  const pose = { ...piece.pose, xMm: micro(piece.pose.xMm + dx), yMm: micro(piece.pose.yMm + dy) }
  return withPiece(shifted(job, id, -dx, -dy), { outline, pose }, id)
}

/** What lies on a workpiece, moved on its face. */
export const shifted = (job: JobDocument, id: string, dx: number, dy: number): JobDocument => ({
  ...job,
  placements: Object.fromEntries(
    Object.entries(job.placements).map(([key, place]) => [
      key,
      place.on === id ? { ...place, xMm: micro(place.xMm + dx), yMm: micro(place.yMm + dy) } : place,
    ]),
  ),
})

/**
 * The workpiece cut to an outline that lies on it: what lies there stays where it is, on the bed too, and the face begins anew
 * at the box around its new edge.
 * @param rings the new edge by even-odd, face mm
 */
export function withFaceOf(job: JobDocument, rings: readonly Ring[], id = mainPieceId(job)): JobDocument {
  const piece = job.workpieces[id]
  const { x0, y0 } = ringsBounds(rings as Ring[])
  const outline = faceOutline(rings)
  const size = outlineSize(outline)
  const [cx, cy] = mapped(poseMap(piece.pose, faceSize(piece)), x0 + size.widthMm / 2, y0 + size.heightMm / 2)
  const pose = { ...piece.pose, xMm: micro(cx - size.widthMm / 2), yMm: micro(cy - size.heightMm / 2) }
  return withPiece(shifted(job, id, -x0, -y0), { outline, pose }, id)
}

/** The job as a bench shows it: artwork and workpiece upright, whatever they are turned by. */
export function upright(job: JobDocument): JobDocument {
  const turned =
    Object.values(job.placements).some(({ deg }) => deg) || Object.values(job.workpieces).some(({ pose }) => pose.deg)
  if (!turned) return job
  return {
    ...job,
    placements: Object.fromEntries(Object.entries(job.placements).map(([id, { deg: _, ...place }]) => [id, place])),
    workpieces: Object.fromEntries(
      Object.entries(job.workpieces).map(([id, piece]) => {
        const { deg: _, ...pose } = piece.pose
        return [id, { ...piece, pose }]
      }),
    ),
  }
}

/** How far chords of an edge may lie off what it was made from, mm, and the most corners that an edge has. */
const EDGE_MM = 0.02
const MOST_CORNERS = 9_000

/**
 * Polygons as the edge of a workpiece: what they enclose by even-odd, united, without corners that nobody could tell.
 * @throws JobError where they enclose nothing, or have more corners than an edge can have
 */
export function faceEdge(rings: readonly Ring[]): readonly Ring[] {
  const united = filledBy('evenodd', rings).map((ring) => simplified(ring, EDGE_MM))
  const edge = united.filter((ring) => ring.length >= 6 && Math.abs(ringArea(ring)) >= 0.01)
  if (edge.length === 0) throw new JobError('This outline encloses nothing that a workpiece could be.')
  if (edge.some((ring) => ring.length / 2 > MOST_CORNERS))
    throw new JobError('This outline has more corners than the edge of a workpiece can have: simplify it first.')
  return edge
}
