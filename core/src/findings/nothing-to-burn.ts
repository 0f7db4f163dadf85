import { isEmptyBounds } from '../geometry/bounds.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import type { Supply } from '../lineage/supply.ts'
import { burnedBounds } from '../process/extent.ts'
import { processOf } from '../process/table.ts'
import type { Found } from './finding.ts'

/** An operation that makes no mark is most likely a threshold or a tone gone too far. */
export function nothingToBurn(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id): Found[] => {
    const operation = job.operations[id]
    const { nothingLeft, silent } = processOf(operation)
    if (silent?.(operation) || !isEmptyBounds(burnedBounds(job, id, supply))) return []
    const place = burnedPieces(job, operation, id)[0]?.placement
    return [
      {
        id: `nothing-to-burn:${id}`,
        kind: 'nothing-to-burn',
        severity: 'ask',
        operation: id,
        x: place ? place.xMm + place.widthMm / 2 : 0,
        y: place ? place.yMm + place.heightMm / 2 : 0,
        message: place ? nothingLeft : 'Its artwork lies nowhere: put it on the workpiece, or take the operation out.',
        fixes: [],
      },
    ]
  })
}
