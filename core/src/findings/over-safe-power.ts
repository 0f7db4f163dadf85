import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { processOf } from '../process/table.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'

/** More power than the source stands for long. */
export function overSafePower(job: JobDocument): Found[] {
  const { safePower, name } = job.machine
  if (safePower === undefined) return []
  return burnOrder(job).flatMap((id, place): Found[] => {
    const operation = job.operations[id]
    const at = atOperation(job, 'over-safe-power', id)
    if (operation.power <= safePower || processOf(operation).silent?.(operation) || !at) return []
    const percent = (share: number): string => `${Number((100 * share).toFixed(1))} %`
    return [
      {
        ...at,
        severity: 'ask',
        message: `${place + 1} burns with ${percent(operation.power)}: above ${percent(safePower)} the source of ${name} wears out early.`,
        fixes: [{ label: `Burn with ${percent(safePower)}`, patches: [{ path: ['operations', id, 'power'], value: safePower }] }],
      },
    ]
  })
}
