import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { hasSlowLine, lineDemands, slowedFor } from '../plan/line-limit.ts'
import { planWhole } from '../plan/plan.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'

/** More lines than the controller's line takes: it is driven slower, with the same dose, or it would stutter. */
export function tooDense(job: JobDocument, supply: Supply): Found[] {
  const { machine } = job
  if (!hasSlowLine(machine)) return []
  const order = burnOrder(job)
  return lineDemands(machine, (sink) => planWhole(job, supply, sink)).flatMap((demand): Found[] => {
    const operation = job.operations[demand.id]
    const at = operation && atOperation(job, 'too-dense', demand.id)
    if (demand.share <= 1 || !at) return []
    const slowed = slowedFor(demand, operation, machine)
    const place = order.indexOf(demand.id) + 1
    const asked = `at ${operation.speedMmS} mm/s it sends ${Math.round(demand.linesS)} lines and ${(demand.bytesS / 1000).toFixed(1)} kB a second`
    if (!slowed)
      return [
        {
          ...at,
          severity: 'ask',
          message: `Too dense for the line: ${asked}, ${demand.share.toFixed(1)} times what ${machine.name} takes. It will stutter: choose a larger interval or fewer greys for ${place}.`,
          fixes: [],
        },
      ]
    return [
      {
        ...at,
        severity: 'note',
        message: `Too dense for the line: ${asked}, ${demand.share.toFixed(1)} times what ${machine.name} takes. ${place} is driven at ${slowed.speedMmS} mm/s instead, with the same dose.`,
        fixes: [
          {
            label: `Set ${slowed.speedMmS} mm/s and ${Number((100 * slowed.power).toFixed(1))} %`,
            patches: [
              { path: ['operations', demand.id, 'speedMmS'], value: slowed.speedMmS },
              { path: ['operations', demand.id, 'power'], value: slowed.power },
            ],
          },
        ],
      },
    ]
  })
}
