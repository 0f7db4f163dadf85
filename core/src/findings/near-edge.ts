import { isEmptyBounds } from '../geometry/bounds.ts'
import { fromEdge, liesWithin } from '../geometry/edge.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { faceBox, outlineOfFace } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import { burnedPoints } from '../process/burned-points.ts'
import { burnedBoundsOf } from '../process/extent.ts'
import { burningsOf, processOf } from '../process/table.ts'
import type { Found } from './finding.ts'
import { fitFixes } from './fit.ts'

/** A strip that is narrower than the material is thick breaks, burns through or curls; below this any does, mm. */
const LEAST_MM = 1
/** Sheets thicker than this are strong enough at the edge, mm. */
const MOST_MM = 4

/** How far a cut keeps from the edge of a workpiece at least, mm. */
export const leastToEdge = (thicknessMm: number): number => Math.min(MOST_MM, Math.max(LEAST_MM, thicknessMm))

/** A cut that leaves less than a sound strip to the edge of its workpiece. */
export function nearEdge(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id): Found[] => {
    if (!processOf(job.operations[id]).cutting) return []
    for (const context of burningsOf(job, id, supply)) {
      const { workpiece } = context.piece
      const box = burnedBoundsOf(context)
      if (isEmptyBounds(box)) continue
      const least = leastToEdge(workpiece.thicknessMm)
      const face = faceBox(workpiece)
      // Far inside the box of a rectangle: nothing to look for.
      const isRect = workpiece.outline.kind === 'rect'
      if (isRect && box.x0 >= least && box.y0 >= least && face.x1 - box.x1 >= least && face.y1 - box.y1 >= least) continue
      const edge = outlineOfFace(workpiece.outline)
      const points = burnedPoints(context)
      let nearest = least - 0.005
      let at: readonly [number, number] | undefined
      for (let i = 0; i < points.length; i += 2) {
        const away = fromEdge(edge, points[i], points[i + 1])
        if (away >= nearest) continue
        // What leaves the workpiece is another matter.
        if (!liesWithin(edge, points[i], points[i + 1]) && away > 0.005) return []
        nearest = away
        at = [points[i], points[i + 1]]
      }
      // A corner of the edge that points at the middle of a straight cut.
      const rings = processOf(context.operation).framed(context)
      for (const ring of isRect || rings.length === 0 ? [] : edge)
        for (let i = 0; i < ring.length; i += 2) {
          const away = fromEdge(rings, ring[i], ring[i + 1])
          if (away >= nearest) continue
          nearest = away
          at = [ring[i], ring[i + 1]]
        }
      if (!at) continue
      const inner = { x0: face.x0 + least, y0: face.y0 + least, x1: face.x1 - least, y1: face.y1 - least }
      return [
        {
          id: `near-edge:${id}`,
          kind: 'near-edge',
          severity: 'note',
          operation: id,
          x: at[0],
          y: at[1],
          message: `${processOf(context.operation).subject} comes ${nearest.toFixed(1)} mm near the edge of the workpiece: a strip under ${least} mm may break or burn away.`,
          fixes: isRect ? fitFixes(context, inner, 'workpiece') : [],
        },
      ]
    }
    return []
  })
}
