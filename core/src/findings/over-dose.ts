import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { isTried } from '../job/document/trial.ts'
import { processOf } from '../process/table.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'
import { weaker } from './weaker.ts'

const dose = (value: number): string => Number(value.toPrecision(3)).toString()

/** A cut with more dose than this thickness wants. */
export function overDose(job: JobDocument): Found[] {
  return burnOrder(job).flatMap((id, place): Found[] => {
    if (isTried(job, id)) return []
    const operation = job.operations[id]
    const process = processOf(operation)
    const at = atOperation(job, 'over-dose', id)
    if (!at || !process.cutting || process.silent?.(operation)) return []
    const { doseJPerMm = 0 } = process.dose(operation, job.machine)
    const material = operationMaterial(job, operation)
    const { to } = material.cutDose
    // Each pass alone is what chars; by several the rest cools down between them.
    const each = doseJPerMm / operation.passes
    if (each <= to * 1.001) return []
    return [
      {
        ...at,
        severity: 'note',
        message: `Too much for ${material.thicknessMm} mm: ${place + 1} leaves ${dose(each)} J/mm in a pass, ${material.name} chars above ${dose(to)}.`,
        fixes: weaker(job, id, to / each),
      },
    ]
  })
}
