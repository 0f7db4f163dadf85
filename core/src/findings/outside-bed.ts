import { isEmptyBounds } from '../geometry/bounds.ts'
import type { Bench } from '../job/bench.ts'
import type { JobDocument } from '../job/document.ts'
import { burnedBounds } from './extent.ts'
import type { Fix, Found } from './finding.ts'
import { fitFixes } from './placing.ts'

/** What lies outside the head's reach cannot be burned. */
export function outsideBed(job: JobDocument, bench: Bench): Found[] {
  const { bed } = job.machine
  const { onBed, workpiece } = job
  const found: Found[] = []
  for (const id of job.runOrder) {
    const box = burnedBounds(job, id, bench)
    if (isEmptyBounds(box)) continue
    const over = [
      { side: 'left', by: -(box.x0 + onBed.xMm), x: box.x0, y: (box.y0 + box.y1) / 2 },
      { side: 'right', by: box.x1 + onBed.xMm - bed.widthMm, x: box.x1, y: (box.y0 + box.y1) / 2 },
      { side: 'rear', by: -(box.y0 + onBed.yMm), x: (box.x0 + box.x1) / 2, y: box.y0 },
      { side: 'front', by: box.y1 + onBed.yMm - bed.heightMm, x: (box.x0 + box.x1) / 2, y: box.y1 },
    ]
      .filter(({ by }) => by > 0.0005)
      .sort((a, b) => b.by - a.by)
    if (over.length === 0) continue
    const fixes: Fix[] = []
    const room = workpiece.widthMm <= bed.widthMm && workpiece.heightMm <= bed.heightMm
    const shifted = {
      xMm: Math.min(Math.max(onBed.xMm, 0), bed.widthMm - workpiece.widthMm),
      yMm: Math.min(Math.max(onBed.yMm, 0), bed.heightMm - workpiece.heightMm),
    }
    if (room && (shifted.xMm !== onBed.xMm || shifted.yMm !== onBed.yMm)) {
      fixes.push({ label: 'Move the workpiece onto the bed', patches: [{ path: ['onBed'], value: shifted }] })
    }
    const reach = { x0: -onBed.xMm, y0: -onBed.yMm, x1: bed.widthMm - onBed.xMm, y1: bed.heightMm - onBed.yMm }
    fixes.push(...fitFixes(job, id, bench, reach, 'bed'))
    const what = job.operations[id].kind === 'cut' ? 'The cut' : 'The picture'
    found.push({
      id: `outside-bed:${id}`,
      kind: 'outside-bed',
      severity: 'stop',
      operation: id,
      x: over[0].x,
      y: over[0].y,
      message: `${what} lies outside the bed of ${job.machine.name}: ${over.map(({ side, by }) => `${by.toFixed(1)} mm past its ${side} edge`).join(', ')}.`,
      fixes,
    })
  }
  return found
}
