import { isEmptyBounds } from '../geometry/bounds.ts'
import type { Bench } from '../job/bench.ts'
import type { JobDocument } from '../job/document.ts'
import { sourceOf } from '../job/document.ts'
import { burnedBounds } from './extent.ts'
import type { Found } from './finding.ts'

/** An operation that makes no mark is most likely a threshold or a tone gone too far. */
export function nothingToBurn(job: JobDocument, bench: Bench): Found[] {
  return job.runOrder.flatMap((id): Found[] => {
    if (!isEmptyBounds(burnedBounds(job, id, bench))) return []
    const place = job.placements[sourceOf(job, job.operations[id].node)]
    const picture = job.operations[id].kind === 'picture'
    return [
      {
        id: `nothing-to-burn:${id}`,
        kind: 'nothing-to-burn',
        severity: 'ask',
        operation: id,
        x: place.xMm + place.widthMm / 2,
        y: place.yMm + place.heightMm / 2,
        message: picture
          ? 'The picture leaves no mark with these tones.'
          : 'There is no outline left to cut: change the threshold or the distance.',
        fixes: [],
      },
    ]
  })
}
