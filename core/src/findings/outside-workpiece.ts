import { isEmptyBounds } from '../geometry/bounds.ts'
import type { Bench } from '../job/bench.ts'
import type { JobDocument } from '../job/document.ts'
import { burnedBounds } from './extent.ts'
import type { Found } from './finding.ts'
import { fitFixes } from './placing.ts'

/** Burning beside the workpiece marks the bed, or leaves the piece incomplete. Asked, because strips are cut that way. */
export function outsideWorkpiece(job: JobDocument, bench: Bench): Found[] {
  const { widthMm, heightMm } = job.workpiece
  const found: Found[] = []
  for (const id of job.runOrder) {
    const box = burnedBounds(job, id, bench)
    if (isEmptyBounds(box)) continue
    // Whole dots may stand over the size they were asked for by half a dot.
    const operation = job.operations[id]
    const slack = operation.kind === 'picture' ? operation.intervalMm / 2 + 0.005 : 0.005
    const over = [
      { side: 'left', by: -box.x0, x: 0, y: (box.y0 + box.y1) / 2 },
      { side: 'right', by: box.x1 - widthMm, x: widthMm, y: (box.y0 + box.y1) / 2 },
      { side: 'top', by: -box.y0, x: (box.x0 + box.x1) / 2, y: 0 },
      { side: 'bottom', by: box.y1 - heightMm, x: (box.x0 + box.x1) / 2, y: heightMm },
    ]
      .filter(({ by }) => by > slack)
      .sort((a, b) => b.by - a.by)
    if (over.length === 0) continue
    const what = operation.kind === 'cut' ? 'The cut' : 'The picture'
    found.push({
      id: `outside-workpiece:${id}`,
      kind: 'outside-workpiece',
      severity: 'ask',
      operation: id,
      x: Math.min(Math.max(over[0].x, 0), widthMm),
      y: Math.min(Math.max(over[0].y, 0), heightMm),
      message: `${what} leaves the workpiece: ${over.map(({ side, by }) => `${by.toFixed(1)} mm over its ${side} edge`).join(', ')}.`,
      fixes: fitFixes(job, id, bench, { x0: 0, y0: 0, x1: widthMm, y1: heightMm }, 'workpiece'),
    })
  }
  return found
}
