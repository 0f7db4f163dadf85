import { isEmptyBounds } from '../geometry/bounds.ts'
import { type Ring, ringContains, ringsBounds } from '../geometry/ring.ts'
import type { Bench } from '../job/bench.ts'
import type { JobDocument } from '../job/document.ts'
import { kerfRings } from '../job/evaluate.ts'
import { kerfSide } from '../job/hold.ts'
import { operationMarks } from '../job/pictured.ts'
import { dotGrid } from '../plan/grid.ts'
import type { Found } from './finding.ts'

/** A part that is cut free may move or fall before it is engraved. */
export function cutFirst(job: JobDocument, bench: Bench): Found[] {
  const found: Found[] = []
  job.runOrder.forEach((cutId, at) => {
    const cut = job.operations[cutId]
    if (cut.kind !== 'cut') return
    const later = job.runOrder.slice(at + 1).filter((id) => job.operations[id].kind === 'picture')
    if (later.length === 0) return
    // Lines that are scored free nothing.
    const rings = kerfRings(job, cut.node, (kerfSide(cut) * cut.kerfMm) / 2, bench)
    let last = -1
    let place: readonly [number, number] | undefined
    for (const id of later) {
      const inside = markInside(job, id, rings, bench)
      if (!inside) continue
      place ??= inside
      last = job.runOrder.indexOf(id)
    }
    if (!place) return
    const order = job.runOrder.filter((id) => id !== cutId)
    order.splice(last, 0, cutId)
    const count = last - at
    found.push({
      id: `cut-first:${cutId}`,
      kind: 'cut-first',
      severity: 'ask',
      operation: cutId,
      x: place[0],
      y: place[1],
      message: `Cut ${at + 1} frees the part before it is engraved: ${count === 1 ? 'one operation' : `${count} operations`} on it still come${count === 1 ? 's' : ''} after.`,
      fixes: [{ label: 'Cut after engraving', patches: [{ path: ['runOrder'], value: order }] }],
    })
  })
  return found
}

/** A place where an operation marks inside closed cuts: looked for on every row, at most 200 of them, at their marks. */
function markInside(job: JobDocument, id: string, rings: readonly Ring[], bench: Bench): readonly [number, number] | undefined {
  const operation = job.operations[id]
  if (operation.kind !== 'picture') return undefined
  const box = ringsBounds(rings)
  if (isEmptyBounds(box)) return undefined
  const { levels, columns, rows } = operationMarks(job, operation, bench)
  const grid = dotGrid(job, operation)
  const stepRow = Math.max(1, Math.floor(rows / 200))
  for (let r = 0; r < rows; r += stepRow) {
    const y = grid.y0 + (r + 0.5) * grid.pitch
    if (y < box.y0 || y > box.y1) continue
    let tried = 0
    for (let c = 0; c < columns && tried < 50; c++) {
      if (levels[r * columns + c] === 0) continue
      const x = grid.x0 + (c + 0.5) * grid.pitch
      if (x < box.x0 || x > box.x1) continue
      tried++
      if (rings.some((ring) => ringContains(ring, x, y))) return [x, y]
      c += Math.max(1, columns >> 5)
    }
  }
  return undefined
}
