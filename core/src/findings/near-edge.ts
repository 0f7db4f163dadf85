import { isEmptyBounds } from '../geometry/bounds.ts'
import { fromEdge, liesWithin } from '../geometry/edge.ts'
import type { Ring } from '../geometry/ring.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { faceBox, onceAround, outlineOfFace } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import { burnedPoints } from '../process/burned-points.ts'
import { burnedBoundsOf } from '../process/extent.ts'
import type { Burning } from '../process/process.ts'
import { burningsOf, processOf } from '../process/table.ts'
import type { Found } from './finding.ts'
import { fitFixes } from './fit.ts'

/** A strip that is narrower than the material is thick breaks, burns through or curls; below this any does, mm. */
const LEAST_MM = 1
/** Sheets thicker than this are strong enough at the edge, mm. */
const MOST_MM = 4

/** How far a cut keeps from the edge of a workpiece at least, mm. */
export const leastToEdge = (thicknessMm: number): number => Math.min(MOST_MM, Math.max(LEAST_MM, thicknessMm))

/** Corners of the edge against corners of the cut: more take too long to be looked at, each against each. */
const MOST_PAIRS = 10_000_000

/** A cut that leaves less than a sound strip to the edge of its workpiece. */
export function nearEdge(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id): Found[] => {
    if (!processOf(job.operations[id]).cutting) return []
    for (const context of burningsOf(job, id, supply)) {
      const found = nearest(context)
      if (found) return [found]
    }
    return []
  })
}

/** Of one piece; undefined where it keeps away, or leaves the workpiece, which is another matter. */
function nearest(context: Burning): Found | undefined {
  const { id, piece } = context
  const { workpiece } = piece
  const box = burnedBoundsOf(context)
  if (isEmptyBounds(box)) return undefined
  const least = leastToEdge(workpiece.thicknessMm)
  const face = faceBox(workpiece)
  // Far inside the box of a rectangle: nothing to look for.
  const isRect = workpiece.outline.kind === 'rect'
  if (isRect && box.x0 >= least && box.y0 >= least && face.x1 - box.x1 >= least && face.y1 - box.y1 >= least) return undefined
  // Around, it has no edge.
  if (onceAround(workpiece) !== undefined && box.x0 >= least && face.x1 - box.x1 >= least) return undefined
  const edge = outlineOfFace(workpiece.outline)
  const points = burnedPoints(context)
  let away = least - 0.005
  let at: readonly [number, number] | undefined
  for (let i = 0; i < points.length; i += 2) {
    const [x, y] = [points[i], points[i + 1]]
    const here = fromEdge(edge, x, y)
    if (here > 0.005 && !liesWithin(edge, x, y)) return undefined
    if (here >= away) continue
    away = here
    at = [x, y]
  }
  // A corner of the edge that points at the middle of a straight cut.
  const rings = processOf(context.operation).framed(context)
  const corners = (of: readonly Ring[]): number => of.reduce((sum, ring) => sum + ring.length / 2, 0)
  if (!isRect && rings.length > 0 && corners(edge) * corners(rings) < MOST_PAIRS)
    for (const ring of edge)
      for (let i = 0; i < ring.length; i += 2) {
        const here = fromEdge(rings, ring[i], ring[i + 1])
        if (here >= away) continue
        away = here
        at = [ring[i], ring[i + 1]]
      }
  if (!at) return undefined
  const inner = { x0: face.x0 + least, y0: face.y0 + least, x1: face.x1 - least, y1: face.y1 - least }
  return {
    id: `near-edge:${id}`,
    kind: 'near-edge',
    severity: 'note',
    operation: id,
    workpiece: piece.workpieceId,
    x: at[0],
    y: at[1],
    message: `${processOf(context.operation).subject} comes ${away.toFixed(1)} mm near the edge of the workpiece: a strip under ${least} mm may break or burn away.`,
    fixes: isRect ? fitFixes(context, inner, 'workpiece') : [],
  }
}
