import { isEmptyBounds } from '../geometry/bounds.ts'
import { type Ring, ringContains, ringsBounds } from '../geometry/ring.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { dotOnFace } from '../lineage/field.ts'
import type { Supply } from '../lineage/supply.ts'
import type { Burning } from '../process/process.ts'
import { burningsOf, processOf } from '../process/table.ts'
import type { Found } from './finding.ts'

/** A part that is cut free may move or fall before it is engraved. */
export function cutFirst(job: JobDocument, supply: Supply): Found[] {
  const found: Found[] = []
  const burned = burnOrder(job)
  burned.forEach((cutId, at) => {
    const { cutting } = processOf(job.operations[cutId])
    if (!cutting) return
    const later = burned.slice(at + 1).filter((id) => processOf(job.operations[id]).dots)
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

function isBurnOf(job: JobDocument, stepId: string, operation: string): boolean {
  const step = job.steps[stepId]
  return step.kind === 'burn' && step.operation === operation
}

/** A place where an operation marks inside closed cuts: looked for on every row, at most 200 of them, at their marks. */
function markInside(context: Burning, rings: readonly Ring[]): readonly [number, number] | undefined {
  const made = processOf(context.operation).dots?.(context)
  const box = ringsBounds(rings)
  if (!made || isEmptyBounds(box)) return undefined
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
      if (rings.some((ring) => ringContains(ring, x, y))) return [x, y]
      c += Math.max(1, columns >> 5)
    }
  }
  return undefined
}
