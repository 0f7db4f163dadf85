import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'

/** Sheets differ by as much from what is written on them, share. */
const USUAL = 0.08
/** Thicker by more than this a cut is asked about, share. */
const MUCH = 0.15

/** A workpiece that is thicker or thinner than the material that its settings are for. */
export function otherThickness(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id): Found[] => {
    const operation = job.operations[id]
    const { cutting, subject } = processOf(operation)
    if (!cutting) return []
    const pieces = burningsOf(job, id, supply).map(({ piece }) => piece)
    const other = pieces.find(({ workpiece, material }) => share(workpiece.thicknessMm, material.thicknessMm) > USUAL)
    const at = other && atOperation(job, 'other-thickness', id)
    if (!at) return []
    const [is, meant] = [other.workpiece.thicknessMm, other.material.thicknessMm]
    const isThicker = is > meant
    return [
      {
        ...at,
        severity: isThicker && share(is, meant) > MUCH ? 'ask' : 'note',
        message: `${subject} is set for ${other.material.name} of ${meant} mm, but this is ${Number(is.toFixed(2))} mm thick: ${
          isThicker
            ? 'it may not go through. More passes or less speed would do.'
            : 'it may char. More speed or less power would do.'
        }`,
        fixes: [],
      },
    ]
  })
}

const share = (is: number, meant: number): number => Math.abs(is - meant) / meant
