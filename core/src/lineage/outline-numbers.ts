import { measureOutlines } from '../geometry/measure.ts'
import { flattenPath } from '../geometry/path.ts'
import { ringArea } from '../geometry/ring.ts'
import { type JobDocument, placeOf, sourceOf } from '../job/document/document.ts'
import { outlinePaths, strokeWidths } from './evaluate.ts'
import { framedPicture } from './pictured.ts'
import type { Supply } from './supply.ts'

/** What outlines are made of. */
export interface OutlineFacts {
  readonly paths: number
  readonly nodes: number
  readonly lengthMm: number
  /** Side of a square as large as the smallest outline, or width of the thinnest stroke, mm. */
  readonly smallestMm: number
  /** Size of a pixel of the picture they come from, on the workpiece, mm; absent where they come from none. */
  readonly pixelMm?: number
  /** Lines that do not close. */
  readonly open: number
}

/** How far chords may lie off the curves while they are measured, mm. */
const CHORD_MM = 0.01

export function outlineFacts(job: JobDocument, nodeId: string, supply: Supply): OutlineFacts {
  const paths = outlinePaths(job, nodeId, supply)
  const { nodes, length } = measureOutlines(paths, CHORD_MM)
  const widths = strokeWidths(job, nodeId, supply)
  const areas = paths.filter(({ closed }) => closed).map((path) => Math.abs(ringArea(flattenPath(path, CHORD_MM))))
  const least = (list: readonly number[]): number => list.reduce((a, b) => Math.min(a, b), Infinity)
  const source = sourceOf(job, nodeId)
  const root = job.nodes[source]
  return {
    paths: paths.length,
    nodes,
    lengthMm: length,
    smallestMm: widths.length > 0 ? least(widths) : areas.length > 0 ? Math.sqrt(least(areas)) : 0,
    open: paths.filter(({ closed }) => !closed).length,
    ...(root.kind === 'source' || root.kind === 'mesh'
      ? { pixelMm: placeOf(job, nodeId).widthMm / framedPicture(job, nodeId, supply).window.width }
      : {}),
  }
}
