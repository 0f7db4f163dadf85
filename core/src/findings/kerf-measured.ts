import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { isTried } from '../job/document/trial.ts'
import { measuredCurve } from '../material/answer.ts'
import { processOf } from '../process/table.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'

/** What differs less is within what a gauge reads, mm and share of the width. */
const SAME = { mm: 0.02, share: 0.1 } as const

/** A cut whose width is set otherwise than it was measured at its dose on this material. */
export function kerfMeasured(job: JobDocument): Found[] {
  return burnOrder(job).flatMap((id, place): Found[] => {
    const operation = job.operations[id]
    const process = processOf(operation)
    const { kerfMm } = operation as { readonly kerfMm?: number }
    const curve = measuredCurve(operationMaterial(job, operation), 'kerf', job.machine.id)
    const at = atOperation(job, 'kerf-measured', id)
    const { doseJPerMm } = process.dose(operation, job.machine)
    if (!at || !curve || kerfMm === undefined || doseJPerMm === undefined || isTried(job, id)) return []
    if (doseJPerMm < curve.from || doseJPerMm > curve.to) return []
    const wide = Number(curve.at(doseJPerMm).toFixed(2))
    if (Math.abs(wide - kerfMm) <= Math.max(SAME.mm, SAME.share * wide)) return []
    return [
      {
        ...at,
        severity: 'note',
        message: `${place + 1} takes its cut for ${kerfMm} mm wide; at this dose ${wide} mm were measured on ${operationMaterial(job, operation).name}.`,
        fixes: [{ label: `Take ${wide} mm`, patches: [{ path: ['operations', id, 'kerfMm'], value: wide }] }],
      },
    ]
  })
}
