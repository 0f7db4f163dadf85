import type { JobDocument } from '../job/document/document.ts'
import type { Found } from './finding.ts'

/** Less power by a share, as a fix. */
export function weaker(job: JobDocument, id: string, share: number): Found['fixes'] {
  const power = Math.floor(job.operations[id].power * share * 1000) / 1000
  return power > 0
    ? [
        {
          label: `Burn with ${Number((100 * power).toFixed(1))} %`,
          patches: [{ path: ['operations', id, 'power'], value: power }],
        },
      ]
    : []
}
