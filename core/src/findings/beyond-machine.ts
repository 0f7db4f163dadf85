import type { JobDocument } from '../job/document.ts'
import type { Found } from './finding.ts'

/** A speed that the machine does not reach would be burned slower, with more dose than asked for. */
export function beyondMachine(job: JobDocument): Found[] {
  const { maxSpeedMmS, name } = job.machine
  return job.runOrder.flatMap((id): Found[] => {
    const operation = job.operations[id]
    const top = operation.kind === 'picture' ? maxSpeedMmS.x : Math.min(maxSpeedMmS.x, maxSpeedMmS.y)
    if (operation.speedMmS <= top) return []
    return [
      {
        id: `beyond-machine:${id}`,
        kind: 'beyond-machine',
        severity: 'stop',
        operation: id,
        x: 0,
        y: 0,
        message: `${operation.speedMmS} mm/s is more than ${name} can do: at most ${top} mm/s.`,
        fixes: [{ label: `Set ${top} mm/s`, patches: [{ path: ['operations', id, 'speedMmS'], value: top }] }],
      },
    ]
  })
}
