import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'

const NAMES = [
  ['pulseHz', 'hz', 'pulses a second'],
  ['pulseNs', 'ns', 'ns a pulse'],
] as const

/** Pulses that the source cannot give. */
export function pulses(job: JobDocument): Found[] {
  const { machine } = job
  return burnOrder(job).flatMap((id, place): Found[] => {
    const operation = job.operations[id]
    const at = atOperation(job, 'pulses', id)
    if (!at) return []
    for (const [name, of, words] of NAMES) {
      const value = operation[name]
      const span = machine.pulses?.[of]
      if (value === undefined || (span && value >= span.min && value <= span.max)) continue
      const nearest = span && Math.min(span.max, Math.max(span.min, value))
      return [
        {
          ...at,
          severity: 'stop',
          message: span
            ? `${place + 1} wants ${value} ${words}: ${machine.name} gives ${span.min} to ${span.max}.`
            : `${place + 1} sets ${words}: on ${machine.name} they cannot be set.`,
          fixes: [
            {
              label: nearest === undefined ? 'Leave them as they are' : `Set ${nearest}`,
              patches: [{ path: ['operations', id, name], ...(nearest === undefined ? {} : { value: nearest }) }],
            },
          ],
        },
      ]
    }
    return []
  })
}
