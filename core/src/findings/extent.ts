import { type Bounds, EMPTY_BOUNDS, isEmptyBounds } from '../geometry/bounds.ts'
import { ringsBounds } from '../geometry/ring.ts'
import type { Bench } from '../job/bench.ts'
import type { JobDocument } from '../job/document.ts'
import { grownRings } from '../job/evaluate.ts'
import { operationMarks } from '../job/pictured.ts'
import { programOfNode } from '../job/program.ts'
import { dotGrid } from '../plan/grid.ts'

/** What an operation really burns: the box around its marks or cuts, job mm; empty where it burns nothing. */
export function burnedBounds(job: JobDocument, operationId: string, bench: Bench): Bounds {
  const operation = job.operations[operationId]
  if (operation.kind === 'program') {
    const { xMm, yMm, widthMm, heightMm } = job.placements[operation.node]
    if (programOfNode(job, operation.node, bench).box === null) return EMPTY_BOUNDS
    return { x0: xMm, y0: yMm, x1: xMm + widthMm, y1: yMm + heightMm }
  }
  if (operation.kind === 'cut') return ringsBounds(grownRings(job, operation.node, operation.kerfMm / 2, bench))
  const grid = dotGrid(job, operation)
  const { key, levels, columns, rows } = operationMarks(job, operation, bench)
  const box = bench.cache.get(
    `bounds ${key}`,
    () => markedCells(levels, columns, rows),
    () => 64,
  )
  if (isEmptyBounds(box)) return EMPTY_BOUNDS
  return {
    x0: grid.x0 + box.x0 * grid.pitch,
    y0: grid.y0 + box.y0 * grid.pitch,
    x1: grid.x0 + box.x1 * grid.pitch,
    y1: grid.y0 + box.y1 * grid.pitch,
  }
}

function markedCells(levels: Uint8Array, columns: number, rows: number): Bounds {
  let x0 = columns
  let x1 = -1
  let y0 = -1
  let y1 = -1
  for (let r = 0; r < rows; r++) {
    const base = r * columns
    let first = 0
    while (first < columns && levels[base + first] === 0) first++
    if (first === columns) continue
    let last = columns - 1
    while (levels[base + last] === 0) last--
    if (y0 < 0) y0 = r
    y1 = r
    if (first < x0) x0 = first
    if (last > x1) x1 = last
  }
  return y0 < 0 ? EMPTY_BOUNDS : { x0, y0, x1: x1 + 1, y1: y1 + 1 }
}
