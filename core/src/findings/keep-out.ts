import { liesWithin } from '../geometry/edge.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { onceAround, outlineOfFace, outlineSize } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import { burnedPoints } from '../process/burned-points.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { broughtRound } from '../rotary/around.ts'
import { mappedRings } from '../space/map-shapes.ts'
import { poseMap } from '../space/pose.ts'
import type { Found } from './finding.ts'

/** What is burned where nothing may be: a clamp would be hit, a hole burns air. */
export function onKeepOut(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id) =>
    burningsOf(job, id, supply).flatMap((context): Found[] =>
      Object.entries(context.piece.workpiece.keepOuts).flatMap(([key, { name, outline, pose }]): Found[] => {
        const edge = mappedRings(poseMap(pose, outlineSize(outline)), outlineOfFace(outline))
        const points = burnedPoints(context)
        const around = onceAround(context.piece.workpiece)
        const first = ringsBounds(edge).y0
        for (let i = 0; i < points.length; i += 2) {
          // Over the seam it comes round: looked at from where the free place begins.
          const y = around === undefined ? points[i + 1] : first + broughtRound(points[i + 1] - first, around)
          if (!liesWithin(edge, points[i], y)) continue
          return [
            {
              id: `keep-out:${id}:${key}`,
              kind: 'keep-out',
              severity: 'ask',
              operation: id,
              workpiece: context.piece.workpieceId,
              x: points[i],
              y: points[i + 1],
              message: `${processOf(context.operation).subject} runs over “${name}”, where nothing may be burned.`,
              fixes: [],
            },
          ]
        }
        return []
      }),
    ),
  )
}
