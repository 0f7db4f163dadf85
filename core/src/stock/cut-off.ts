import { combine, linesWithin, shapeArea } from '../geometry/clip.ts'
import { hullOf } from '../geometry/hull.ts'
import { type Ring, ringsBounds } from '../geometry/ring.ts'
import { burnOrder, type JobDocument, mainPieceId } from '../job/document/document.ts'
import { outlineOfFace } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import { micro } from '../numeric/micro.ts'
import { burningsOf, processOf } from '../process/table.ts'

/** A straight line across a sheet, behind which nothing is burned. */
export interface CutOff {
  /** Its parts that lie on the sheet, x, y pairs, face mm. */
  readonly lines: readonly Ring[]
  /** How much is behind it in one piece with a straight edge, mm². */
  readonly savedMm2: number
}

/** The four sides on which a rest can be left: outwards from what is burned. */
const SIDES = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
] as const

/**
 * The straight line along a side of the workpiece that leaves the most of it in one piece, so far from all that is burned; undefined
 * where it would leave nothing, or where nothing is burned.
 */
export function cutOffLine(job: JobDocument, supply: Supply, awayMm: number, workpiece = mainPieceId(job)): CutOff | undefined {
  const corners = burnOrder(job).flatMap((id) =>
    burningsOf(job, id, supply, workpiece).flatMap((context) => {
      const { x0, y0, x1, y1 } = processOf(context.operation).extent(context)
      return x1 >= x0 && y1 >= y0 ? [Float64Array.of(x0, y0, x1, y0, x1, y1, x0, y1)] : []
    }),
  )
  if (corners.length === 0) return undefined
  const burned = ringsBounds([hullOf(corners)])
  const face = outlineOfFace(job.workpieces[workpiece].outline)
  const box = ringsBounds(face as Ring[])
  let best: CutOff | undefined
  for (const [dx, dy] of SIDES) {
    const at = micro(
      dx !== 0 ? (dx > 0 ? burned.x1 + awayMm : burned.x0 - awayMm) : dy > 0 ? burned.y1 + awayMm : burned.y0 - awayMm,
    )
    const behind = {
      x0: dx > 0 ? at : box.x0 - 1,
      x1: dx < 0 ? at : box.x1 + 1,
      y0: dy > 0 ? at : box.y0 - 1,
      y1: dy < 0 ? at : box.y1 + 1,
    }
    if (behind.x1 - behind.x0 < 2 || behind.y1 - behind.y0 < 2) continue
    const { x0, y0, x1, y1 } = behind
    const savedMm2 = shapeArea(combine('intersect', face, [Float64Array.of(x0, y0, x1, y0, x1, y1, x0, y1)]))
    if (savedMm2 <= (best?.savedMm2 ?? 0)) continue
    const across = dx !== 0 ? Float64Array.of(at, box.y0 - 1, at, box.y1 + 1) : Float64Array.of(box.x0 - 1, at, box.x1 + 1, at)
    best = { lines: linesWithin([across], face), savedMm2 }
  }
  return best
}
