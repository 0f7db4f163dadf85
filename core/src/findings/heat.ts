import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'

/** Heat spreads about as far as the material is thick, within the time that a cut takes; no less than this, mm. */
const LEAST_CELL = 2
/** So many cuts beside each other in a cell are too many: each alone leaves the material as hot as it stands. */
const MOST_CUTS = 4

/** Cuts so close together that the material between them gets too hot: it chars, warps or melts. */
export function heat(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id, place): Found[] => {
    const operation = job.operations[id]
    const at = atOperation(job, 'heat', id)
    if (!processOf(operation).cutting || !at || ('restS' in operation && operation.restS)) return []
    let worst = { mm: 0, x: 0, y: 0, side: LEAST_CELL }
    for (const context of burningsOf(job, id, supply)) {
      const side = Math.max(LEAST_CELL, context.piece.workpiece.thicknessMm)
      const cells = new Map<number, number>()
      for (const each of processOf(operation).strokes(context)) {
        if (each.form !== 'paths') continue
        for (const path of each.paths) {
          const n = path.length
          for (let i = each.closed ? 0 : 2, j = each.closed ? n - 2 : 0; i < n; j = i, i += 2) {
            const [dx, dy] = [path[i] - path[j], path[i + 1] - path[j + 1]]
            const long = Math.hypot(dx, dy)
            const parts = Math.max(1, Math.ceil((2 * long) / side))
            for (let k = 0; k < parts; k++) {
              const [x, y] = [path[j] + (dx * (k + 0.5)) / parts, path[j + 1] + (dy * (k + 0.5)) / parts]
              const cell = Math.floor(x / side) * 1_000_003 + Math.floor(y / side)
              const mm = (cells.get(cell) ?? 0) + long / parts
              cells.set(cell, mm)
              if (mm / side > worst.mm / worst.side) worst = { mm, x, y, side }
            }
          }
        }
      }
    }
    if (worst.mm <= MOST_CUTS * worst.side) return []
    return [
      {
        ...at,
        severity: 'note',
        x: worst.x,
        y: worst.y,
        message: `Heat gathers: ${place + 1} cuts ${worst.mm.toFixed(0)} mm within ${worst.side.toFixed(0)} × ${worst.side.toFixed(0)} mm here. The material between may char or warp.`,
        fixes: [],
      },
    ]
  })
}
