import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { processOf } from '../process/table.ts'
import type { Found } from './finding.ts'

/** A speed that the machine does not reach would be burned slower, with more dose than asked for. */
export function beyondMachine(job: JobDocument): Found[] {
  return burnOrder(job).flatMap((id): Found[] => {
    const operation = job.operations[id]
    const top = processOf(operation).topSpeed(job.machine)
    if (operation.speedMmS <= top) return []
    return [
      {
        id: `beyond-machine:${id}`,
        kind: 'beyond-machine',
        severity: 'stop',
        operation: id,
        x: 0,
        y: 0,
        message: `${operation.speedMmS} mm/s is more than ${job.machine.name} can do: at most ${top} mm/s.`,
        fixes: [{ label: `Set ${top} mm/s`, patches: [{ path: ['operations', id, 'speedMmS'], value: top }] }],
      },
    ]
  })
}
