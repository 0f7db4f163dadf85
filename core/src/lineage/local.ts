import { flattenPath, type Path } from '../geometry/path.ts'
import { type Ring, thereAndBack } from '../geometry/ring.ts'
import { type JobDocument, placeOf, placesOf, sourceOf } from '../job/document/document.ts'
import { type Affine, composed, inverseOf } from '../space/affine.ts'
import { poseMap } from '../space/pose.ts'

/** How far the chords of an outline may lie off its curves, mm. */
export const FLATTEN_MM = 0.008

/** Something by the content it depends on. Local: mm from the placement's corner, unchanged when the artwork moves. */
export interface Keyed<T> {
  readonly made: T
  readonly key: string
}

export const pathBytes = (paths: readonly Path[]): number => paths.reduce((sum, path) => sum + path.points.byteLength + 200, 0)
export const ringBytes = (rings: readonly Ring[]): number => rings.reduce((sum, ring) => sum + ring.byteLength + 100, 0)

/** From mm in the box of a node's artwork to the face of the workpiece that it lies on. */
export function placeMap(job: JobDocument, nodeId: string, place?: string): Affine {
  const placement = placeOf(job, nodeId, place)
  return poseMap(placement, placement)
}

/** Where other artwork lies that goes with some in one of its places: on the same workpiece, else where it lies first. */
export function placeBeside(job: JobDocument, nodeId: string, place: string | undefined): string | undefined {
  if (place === undefined) return undefined
  const all = placesOf(job, sourceOf(job, nodeId))
  return all.find((each) => job.placements[each].on === job.placements[place].on) ?? all[0]
}

/** From the box of one node's artwork to that of another's in one of its places. */
export const boxToBox = (job: JobDocument, from: string, to: string, place?: string): Affine =>
  composed(placeMap(job, from, placeBeside(job, from, place)), inverseOf(placeMap(job, to, place)))

/** Paths as polygons. Lines that do not close are there and back: they enclose nothing. */
export const ringsOf = (paths: readonly Path[]): Ring[] =>
  paths.map((path) => {
    const flat = flattenPath(path, FLATTEN_MM)
    return path.closed ? flat : thereAndBack(flat)
  })
