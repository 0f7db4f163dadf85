import { turnedTo, turnOfPlace } from '../edits/change.ts'
import type { JobDocument } from '../job/document/document.ts'

/**
 * The job with artwork turned so that the line between two places on it lies level, or upright where that is nearer; about its middle.
 * @param from,to mm of the face @returns undefined where they are one place
 */
export function levelled(
  job: JobDocument,
  node: string,
  from: readonly [number, number],
  to: readonly [number, number],
): JobDocument | undefined {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]]
  if (Math.hypot(dx, dy) < 1e-6) return undefined
  const deg = (Math.atan2(dy, dx) * 180) / Math.PI
  const off = deg - 90 * Math.round(deg / 90)
  return turnedTo(job, node, turnOfPlace(job, node) - off)
}
