import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import { processOf } from '../process/table.ts'
import { poseBounds } from '../space/pose.ts'
import type { Found } from './finding.ts'

/** Edges drawn out over more than this share of a dot blur the picture. */
const BLURS = 0.5

/** A beam with a rise time draws every change out over v·τ: too fast for dots this fine. */
export function tooFast(job: JobDocument): Found[] {
  const { riseTimeS } = job.machine
  if (!(riseTimeS > 0)) return []
  return burnOrder(job).flatMap((id): Found[] => {
    const operation = job.operations[id]
    if (!processOf(operation).dots || !('intervalMm' in operation)) return []
    const blurMm = riseTimeS * operation.speedMmS
    const piece = burnedPieces(job, operation, id)[0]
    if (blurMm <= BLURS * operation.intervalMm || !piece) return []
    const { x0, x1, y0 } = poseBounds(piece.placement, piece.placement)
    const speedMmS = Math.floor((BLURS * operation.intervalMm * 10) / riseTimeS) / 10
    const intervalMm = Math.ceil((blurMm / BLURS) * 1000) / 1000
    return [
      {
        id: `too-fast:${id}`,
        kind: 'too-fast',
        severity: 'note',
        operation: id,
        x: (x0 + x1) / 2,
        y: y0,
        message: `Too fast for this detail: the beam follows within ${blurMm.toFixed(3)} mm at ${operation.speedMmS} mm/s, dots are ${operation.intervalMm} mm wide.`,
        fixes: [
          { label: `Slow down to ${speedMmS} mm/s`, patches: [{ path: ['operations', id, 'speedMmS'], value: speedMmS }] },
          {
            label: `Burn at ${intervalMm} mm interval`,
            patches: [{ path: ['operations', id, 'intervalMm'], value: intervalMm }],
          },
        ].filter((_, i) => i === 1 || speedMmS >= 1),
      },
    ]
  })
}
