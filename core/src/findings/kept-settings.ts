import { withOperation } from '../edits/change.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { difference } from '../job/patches/edit.ts'
import { processOf } from '../process/table.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'

/** Settings that were made for another material, where no recipe says what they are on this one. */
export function keptSettings(job: JobDocument): Found[] {
  return burnOrder(job).flatMap((id, place): Found[] => {
    const operation = job.operations[id]
    const at = atOperation(job, 'kept-settings', id)
    if (operation.keptFrom === undefined || !at) return []
    const material = operationMaterial(job, operation)
    const made = { ...processOf(operation).onMaterial(operation, material, job.machine), keptFrom: undefined }
    const known = made.recipe !== undefined
    return [
      {
        ...at,
        severity: 'ask',
        message: `${place + 1} still has the settings for ${operation.keptFrom}: nothing is known of them on ${material.name}.`,
        fixes: known ? [{ label: `Take those of ${material.name}`, patches: difference(job, withOperation(job, id, made)) }] : [],
      },
    ]
  })
}
