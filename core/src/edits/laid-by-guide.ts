import type { JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { withProcess } from './give-process.ts'
import { burnStepOf, stepAdded, stepsMoved } from './steps-edits.ts'

/** What is asked when the guide is burned. */
export const LAY_ON = 'Lay the workpiece on the burned outline'

/**
 * An operation burns the outline on which the workpiece is laid: faintly, before everything else, on what lies under it; then the machine
 * waits until it lies there.
 */
export function laidByGuide(job: JobDocument, operation: string): JobDocument {
  const guided = withProcess(job, operation, 'guide')
  const drawn = { ...guided.operations[operation], drawn: true } as Operation
  const marked = { ...guided, operations: { ...guided.operations, [operation]: drawn } }
  const step = burnStepOf(marked, operation)
  const first = step === undefined ? marked : stepsMoved(marked, [step], 0)
  const at = step === undefined ? 0 : first.order.indexOf(step) + 1
  return stepAdded(first, { kind: 'pause', text: LAY_ON }, at).job
}
