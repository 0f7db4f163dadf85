import { type ReadProgram, readProgram } from '../formats/gcode-read.ts'
import type { JobDocument, Placement } from '../job/document/document.ts'
import { type Affine, composed } from '../space/affine.ts'
import { bedToAxes } from '../space/chart.ts'
import { poseMap } from '../space/pose.ts'
import type { Supply } from './supply.ts'

/** A program of a job, read once and kept by content. */
export function programOfNode(job: JobDocument, nodeId: string, supply: Supply): ReadProgram {
  const node = job.nodes[nodeId]
  if (node?.kind !== 'program') throw new Error(`“${nodeId}” is no program.`)
  const { program } = supply
  if (!program) throw new Error('Programs cannot be read here.')
  return supply.cache.get(
    `program ${node.asset}`,
    () => readProgram(program(node.asset)),
    ({ moves }) => moves.count * 14,
  )
}

/** From a program's own mm, as the controller counts them, to the face: moved, scaled and turned as it is placed. */
export function programToFace({ machine }: Pick<JobDocument, 'machine'>, place: Placement, { box }: ReadProgram): Affine {
  const [x0, y0, x1, y1] = box ?? [0, 0, 1, 1]
  const sx = x1 > x0 ? place.widthMm / (x1 - x0) : 1
  const sy = y1 > y0 ? place.heightMm / (y1 - y0) : 1
  const [, , , sign] = bedToAxes(machine)
  const inBox: Affine = [sx, 0, 0, sign * sy, -x0 * sx, sign < 0 ? y1 * sy : -y0 * sy]
  return composed(inBox, poseMap(place, place))
}
