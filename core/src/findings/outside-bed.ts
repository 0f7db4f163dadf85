import { type Bounds, EMPTY_BOUNDS, isEmptyBounds, unite } from '../geometry/bounds.ts'
import { burnOrder, type JobDocument, withPiece } from '../job/document/document.ts'
import { faceSize } from '../job/document/workpiece.ts'
import { difference } from '../job/patches/edit.ts'
import type { Supply } from '../lineage/supply.ts'
import { bedSize } from '../machine/machine.ts'
import { burnedBoundsOf } from '../process/extent.ts'
import type { Burning } from '../process/process.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { type Affine, inverseOf, mapped } from '../space/affine.ts'
import { poseBounds, poseMap } from '../space/pose.ts'
import type { Fix, Found } from './finding.ts'
import { ENDLESS_MM, fitFixes } from './fit.ts'

/** The box around a box that is mapped. */
function boxBy(map: Affine, { x0, y0, x1, y1 }: Bounds): Bounds {
  return [mapped(map, x0, y0), mapped(map, x1, y0), mapped(map, x1, y1), mapped(map, x0, y1)]
    .map(([x, y]): Bounds => ({ x0: x, y0: y, x1: x, y1: y }))
    .reduce(unite, EMPTY_BOUNDS)
}

/** What lies outside the head's reach cannot be burned. */
export function outsideBed(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id): Found[] => {
    for (const context of burningsOf(job, id, supply)) {
      const found = outside(context)
      if (found) return [found]
    }
    return []
  })
}

function outside(context: Burning): Found | undefined {
  const { job, id, piece } = context
  const { name } = job.machine
  const bed = bedSize(job.machine)
  const box = burnedBoundsOf(context)
  if (isEmptyBounds(box)) return undefined
  const size = faceSize(piece.workpiece)
  const toBed = poseMap(piece.pose, size)
  const fromBed = inverseOf(toBed)
  const there = boxBy(toBed, box)
  const sides = [
    { side: 'left', by: -there.x0, x: there.x0, y: (there.y0 + there.y1) / 2 },
    { side: 'right', by: there.x1 - bed.widthMm, x: there.x1, y: (there.y0 + there.y1) / 2 },
    { side: 'rear', by: -there.y0, x: (there.x0 + there.x1) / 2, y: there.y0 },
    { side: 'front', by: there.y1 - bed.heightMm, x: (there.x0 + there.x1) / 2, y: there.y1 },
  ]
  // What turns has no end around.
  const over = (job.machine.turns ? sides.slice(0, 2) : sides).filter(({ by }) => by > 0.0005).sort((a, b) => b.by - a.by)
  if (over.length === 0) return undefined
  const [x, y] = mapped(fromBed, over[0].x, over[0].y)
  return {
    id: `outside-bed:${id}`,
    kind: 'outside-bed',
    severity: 'stop',
    operation: id,
    x,
    y,
    message: `${processOf(context.operation).subject} lies outside the bed of ${name}: ${over.map(({ side, by }) => `${by.toFixed(1)} mm past its ${side} edge`).join(', ')}.`,
    fixes: [...ontoBed(context), ...withinReach(context)],
  }
}

/** The workpiece moved as far as it must to lie on the bed, where it fits on it. */
function ontoBed({ job, piece }: Burning): Fix[] {
  const bed = bedSize(job.machine)
  const lies = poseBounds(piece.pose, faceSize(piece.workpiece))
  if (lies.x1 - lies.x0 > bed.widthMm || lies.y1 - lies.y0 > bed.heightMm) return []
  const dx = Math.max(0, -lies.x0) || Math.min(0, bed.widthMm - lies.x1)
  const dy = Math.max(0, -lies.y0) || Math.min(0, bed.heightMm - lies.y1)
  if (dx === 0 && dy === 0) return []
  const { pose } = job.workpieces[piece.workpieceId]
  const moved = withPiece(job, { pose: { ...pose, xMm: pose.xMm + dx, yMm: pose.yMm + dy } }, piece.workpieceId)
  return [{ label: 'Move the workpiece onto the bed', patches: difference(job, moved) }]
}

/** The artwork brought into reach, where the workpiece lies straight: then the reach is a box on its face. */
function withinReach(context: Burning): Fix[] {
  const { job, piece } = context
  if (piece.pose.deg) return []
  const bed = bedSize(job.machine)
  const { xMm, yMm } = piece.pose
  const [y0, y1] = job.machine.turns ? [-ENDLESS_MM, ENDLESS_MM] : [-yMm, bed.heightMm - yMm]
  return fitFixes(context, { x0: -xMm, y0, x1: bed.widthMm - xMm, y1 }, 'bed')
}
