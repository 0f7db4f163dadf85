import { isEmptyBounds } from '../geometry/bounds.ts'
import { type Ring, ringContains, ringsBounds } from '../geometry/ring.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { dotOnFace } from '../lineage/field.ts'
import type { Supply } from '../lineage/supply.ts'
import type { Burning } from '../process/process.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { burnedPoints } from './burned-points.ts'
import type { Found } from './finding.ts'

/** A part that is cut free may move or fall before it is engraved. */
export function cutFirst(job: JobDocument, supply: Supply): Found[] {
  const found: Found[] = []
  const burned = burnOrder(job)
  burned.forEach((cutId, at) => {
    const { cutting } = processOf(job.operations[cutId])
    if (!cutting) return
    const later = burned.slice(at + 1).filter((id) => marks(job.operations[id]))
    if (later.length === 0) return
    let last: string | undefined
    let place: readonly [number, number] | undefined
    for (const cut of burningsOf(job, cutId, supply)) {
      // Lines that are followed free nothing.
      const rings = cutting(cut).path()
      for (const id of later) {
        for (const context of burningsOf(job, id, supply, cut.piece.workpieceId)) {
          const inside = markInside(context, rings)
          if (!inside) continue
          place ??= inside
          if (last === undefined || burned.indexOf(id) > burned.indexOf(last)) last = id
        }
      }
    }
    if (!place || last === undefined) return
    const own = (operation: string): string => job.order.find((id) => isBurnOf(job, id, operation))!
    const order = job.order.filter((id) => id !== own(cutId))
    order.splice(order.indexOf(own(last)) + 1, 0, own(cutId))
    const count = burned.indexOf(last) - at
    found.push({
      id: `cut-first:${cutId}`,
      kind: 'cut-first',
      severity: 'ask',
      operation: cutId,
      x: place[0],
      y: place[1],
      message: `Cut ${at + 1} frees the part before it is engraved: ${count === 1 ? 'one operation' : `${count} operations`} on it still come${count === 1 ? 's' : ''} after.`,
      fixes: [{ label: 'Cut after engraving', patches: [{ path: ['order'], value: order }] }],
    })
  })
  return found
}

/** Whether an operation marks the piece, and frees nothing of it. */
function marks(operation: Operation): boolean {
  const { cutting, silent } = processOf(operation)
  return cutting === undefined && !silent?.(operation)
}

function isBurnOf(job: JobDocument, stepId: string, operation: string): boolean {
  const step = job.steps[stepId]
  return step.kind === 'burn' && step.operation === operation
}

/** So many places of lines and areas are tried. */
const MOST_TRIED = 2000

/** A place where an operation marks inside closed cuts: looked for on every row, at most 200 of them, at their marks. */
function markInside(context: Burning, rings: readonly Ring[]): readonly [number, number] | undefined {
  const made = processOf(context.operation).dots?.(context)
  const box = ringsBounds(rings)
  if (isEmptyBounds(box)) return undefined
  const isInside = (x: number, y: number): boolean =>
    x >= box.x0 && x <= box.x1 && y >= box.y0 && y <= box.y1 && rings.some((ring) => ringContains(ring, x, y))
  if (!made) {
    const points = burnedPoints(context)
    const step = 2 * Math.max(1, Math.floor(points.length / 2 / MOST_TRIED))
    for (let i = 0; i < points.length; i += step) if (isInside(points[i], points[i + 1])) return [points[i], points[i + 1]]
    return undefined
  }
  const { field, marks } = made
  const { levels, columns, rows } = marks
  const stepRow = Math.max(1, Math.floor(rows / 200))
  for (let r = 0; r < rows; r += stepRow) {
    let tried = 0
    for (let c = 0; c < columns && tried < 50; c++) {
      if (levels[r * columns + c] === 0) continue
      const [x, y] = dotOnFace(field, c, r)
      if (x < box.x0 || x > box.x1 || y < box.y0 || y > box.y1) continue
      tried++
      if (isInside(x, y)) return [x, y]
      c += Math.max(1, columns >> 5)
    }
  }
  return undefined
}
