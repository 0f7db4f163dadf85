import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { measuredCurve, readingsOf } from '../material/answer.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'

/** A measured curve that is older than the last reading of the source's power: what it was measured with is not what burns now. */
export function oldCurve(job: JobDocument): Found[] {
  const { powerRead, id: machine, name } = job.machine
  if (powerRead === undefined) return []
  const told = new Set<string>()
  return burnOrder(job).flatMap((id): Found[] => {
    const operation = job.operations[id]
    const { evenIn } = operation as { readonly evenIn?: 'power' | 'depth' | 'tone' }
    if (evenIn === undefined || evenIn === 'power') return []
    const material = operationMaterial(job, operation)
    const at = atOperation(job, 'old-curve', id)
    if (!at || !measuredCurve(material, evenIn, machine)) return []
    const { conditions } = readingsOf(material, evenIn, machine)!
    if (conditions.machine !== machine || conditions.date >= powerRead || told.has(`${material.id} ${evenIn}`)) return []
    told.add(`${material.id} ${evenIn}`)
    return [
      {
        ...at,
        severity: 'note',
        message: `The ${evenIn} curve of ${material.name} is of ${conditions.date}; the power of ${name} was read again on ${powerRead}. Burn a wedge and measure it anew.`,
        fixes: [],
      },
    ]
  })
}
