import type { JobDocument } from '../job/document/document.ts'
import type { Found } from './finding.ts'

/** A material that must never be lasered: nothing of the job runs. */
export function forbiddenMaterial(job: JobDocument): Found[] {
  return Object.entries(job.workpieces).flatMap(([id, piece]): Found[] => {
    const { name, forbidden } = job.materials[piece.material]
    if (forbidden === undefined) return []
    return [
      {
        id: `forbidden:${id}`,
        kind: 'forbidden',
        severity: 'stop',
        workpiece: id,
        x: 0,
        y: 0,
        message: `${name} must never be lasered: ${forbidden}`,
        fixes: [],
      },
    ]
  })
}
