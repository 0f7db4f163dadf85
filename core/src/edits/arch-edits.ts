import { type JobDocument, mainPiece, mainPieceId, withPiece } from '../job/document/document.ts'
import type { Arch, Flat, Heights } from '../job/document/workpiece.ts'

/** The job on a piece whose face is uneven: so high at places of a grid, or not any more. What turns is round. */
export const withHeights = (job: JobDocument, heights: Heights | undefined): JobDocument => withFlatFace(job, { heights })

/** The job with the lens following the face while it burns, or not. */
export const withFollowing = (job: JobDocument, follows: boolean): JobDocument =>
  withFlatFace(job, { follows: follows ? true : undefined })

/** The job burned in strips, with a pause for each focus, where the machine does not move its lens; or all in one. */
export const withStrips = (job: JobDocument, strips: boolean): JobDocument =>
  withFlatFace(job, { strips: strips ? true : undefined })

/** A face that lies still, changed; what is undefined goes. */
function withFlatFace(job: JobDocument, changed: Partial<Record<keyof Flat, unknown>>): JobDocument {
  const { surface } = mainPiece(job)
  if (surface.kind !== 'flat') return job
  const kept = Object.entries({ ...surface, ...changed }).filter(([, value]) => value !== undefined)
  return withPiece(job, { surface: Object.fromEntries(kept) as unknown as Flat }, mainPieceId(job))
}

/** The job on a piece whose face is curved across, or flat again. What turns is round already. */
export const withArch = (job: JobDocument, arch: Arch | undefined): JobDocument => withFlatFace(job, { arch })
