import { type JobDocument, type Placement, placesOf, sourceOf } from '../job/document/document.ts'
import { canLieTrue } from '../lineage/true-to-face.ts'

/** Whether artwork is true to the face that it lies on; undefined where that makes no difference. */
export function isTrueToFace(job: JobDocument, node: string): boolean | undefined {
  const places = placesOf(job, sourceOf(job, node)).map((id) => job.placements[id])
  if (!places.some(({ on }) => canLieTrue(job.workpieces[on]))) return undefined
  return places.every(({ trueToFace }) => trueToFace === true)
}

/**
 * Artwork that keeps its shape and size on a taper or a curve, or follows the face as that is counted, in all of its places.
 */
export function withTrueToFace(job: JobDocument, node: string, isTrue: boolean): JobDocument {
  const placements: Record<string, Placement> = { ...job.placements }
  for (const id of placesOf(job, sourceOf(job, node))) {
    const { trueToFace: _, ...others } = placements[id]
    placements[id] = isTrue ? { ...others, trueToFace: true } : others
  }
  return { ...job, placements }
}
