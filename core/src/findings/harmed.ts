import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { isTried } from '../job/document/trial.ts'
import { topLayer } from '../material/material.ts'
import { processOf } from '../process/table.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'
import { weaker } from './weaker.ts'

const dose = (value: number): string => Number(value.toPrecision(3)).toString()

/** An area that gets more than its material stands: what lies under a coating is harmed, or the piece warps. */
export function harmed(job: JobDocument): Found[] {
  return burnOrder(job).flatMap((id, place): Found[] => {
    if (isTried(job, id)) return []
    const operation = job.operations[id]
    const process = processOf(operation)
    const at = atOperation(job, 'harmed', id)
    if (!at || process.cutting || process.silent?.(operation)) return []
    const { doseJPerMm2 } = process.dose(operation, job.machine)
    if (doseJPerMm2 === undefined) return []
    const material = operationMaterial(job, operation)
    const { harmsBelow, liftDose, name } = topLayer(material)
    const below = material.layers[1]?.name ?? 'what is below'
    if (harmsBelow !== undefined && doseJPerMm2 > harmsBelow)
      return [
        {
          ...at,
          severity: 'ask',
          message: `Harms the ${below}: ${place + 1} leaves ${dose(doseJPerMm2)} J/mm², the ${below} under the ${name} of ${material.name} is harmed from ${dose(harmsBelow)} on.`,
          fixes: weaker(job, id, (liftDose?.to ?? harmsBelow) / doseJPerMm2),
        },
      ]
    if (material.warpDose !== undefined && doseJPerMm2 > material.warpDose)
      return [
        {
          ...at,
          severity: 'note',
          message: `May warp: ${place + 1} leaves ${dose(doseJPerMm2)} J/mm², ${material.name} of ${material.thicknessMm} mm warps from ${dose(material.warpDose)} on. More passes with less power keep it flatter.`,
          fixes: [],
        },
      ]
    return []
  })
}
