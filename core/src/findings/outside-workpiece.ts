import { type Bounds, isEmptyBounds } from '../geometry/bounds.ts'
import { fromEdge, liesWithin } from '../geometry/edge.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { faceBox, onceAround, outlineOfFace, type Workpiece } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import { burnedPoints } from '../process/burned-points.ts'
import { burnedBoundsOf } from '../process/extent.ts'
import type { Burning } from '../process/process.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { edgeFixes } from './edge-fixes.ts'
import type { Found } from './finding.ts'
import { ENDLESS_MM, fitFixes } from './fit.ts'

/** Burning beside the workpiece marks the bed, or leaves the piece incomplete. Asked, because strips are cut that way. */
export function outsideWorkpiece(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id): Found[] => {
    for (const context of burningsOf(job, id, supply)) {
      const found = context.piece.workpiece.outline.kind === 'rect' ? overSides(context) : overEdge(context)
      if (found) return [found]
    }
    return []
  })
}

/** What may stand over: whole dots by half a dot, and what is lost in rounding. */
const slackOf = (context: Burning): number => {
  const dots = processOf(context.operation).dots?.(context)
  return (dots ? dots.field.pitch / 2 : 0) + 0.005
}

function overSides(context: Burning): Found | undefined {
  const { id, piece } = context
  const box = burnedBoundsOf(context)
  if (isEmptyBounds(box)) return undefined
  const face = faceBox(piece.workpiece)
  const slack = slackOf(context)
  const sides = [
    { side: 'left', by: -box.x0, x: 0, y: (box.y0 + box.y1) / 2 },
    { side: 'right', by: box.x1 - face.x1, x: face.x1, y: (box.y0 + box.y1) / 2 },
    { side: 'top', by: -box.y0, x: (box.x0 + box.x1) / 2, y: 0 },
    { side: 'bottom', by: box.y1 - face.y1, x: (box.x0 + box.x1) / 2, y: face.y1 },
  ]
  // Over its seam it comes round.
  const isRound = onceAround(piece.workpiece) !== undefined
  const over = (isRound ? sides.slice(0, 2) : sides).filter(({ by }) => by > slack).sort((a, b) => b.by - a.by)
  if (over.length === 0) return undefined
  return told(
    context,
    id,
    Math.min(Math.max(over[0].x, 0), face.x1),
    Math.min(Math.max(over[0].y, 0), face.y1),
    over.map(({ side, by }) => `${by.toFixed(1)} mm over its ${side} edge`).join(', '),
  )
}

/** Of a workpiece that is no rectangle: how far the farthest place lies beyond its true edge. */
function overEdge(context: Burning): Found | undefined {
  const { id, piece } = context
  const edge = outlineOfFace(piece.workpiece.outline)
  const points = burnedPoints(context)
  const slack = slackOf(context)
  let most = slack
  let at = -1
  for (let i = 0; i < points.length; i += 2) {
    if (liesWithin(edge, points[i], points[i + 1])) continue
    const by = fromEdge(edge, points[i], points[i + 1])
    if (by > most) {
      most = by
      at = i
    }
  }
  return at < 0 ? undefined : told(context, id, points[at], points[at + 1], `${most.toFixed(1)} mm over its edge`)
}

/** Where it may be burned: around it has no end. */
function reachOf(workpiece: Workpiece): Bounds {
  const box = faceBox(workpiece)
  return onceAround(workpiece) === undefined ? box : { ...box, y0: -ENDLESS_MM, y1: ENDLESS_MM }
}

function told(context: Burning, id: string, x: number, y: number, where: string): Found {
  const { workpiece, workpieceId } = context.piece
  return {
    id: `outside-workpiece:${id}`,
    kind: 'outside-workpiece',
    severity: 'ask',
    operation: id,
    workpiece: workpieceId,
    x,
    y,
    message: `${processOf(context.operation).subject} leaves the workpiece: ${where}.`,
    fixes: workpiece.outline.kind === 'rect' ? fitFixes(context, reachOf(workpiece), 'workpiece') : edgeFixes(context),
  }
}
