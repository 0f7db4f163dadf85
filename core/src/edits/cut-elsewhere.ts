import type { JobDocument } from '../job/document/document.ts'
import { processOf } from '../process/table.ts'
import { freeName } from './free-name.ts'
import { burnStepOf } from './steps-edits.ts'

/** What a router's bit is wide where nobody says otherwise, mm; and how long soot is wiped off, min. */
const TOOL_MM = 3
const CLEAN_MIN = 2

/** Whether an operation cuts through, so that another tool may do it. */
export const canBeCutElsewhere = (job: JobDocument, id: string): boolean =>
  job.operations[id] !== undefined && processOf(job.operations[id]).cutting !== undefined && burnStepOf(job, id) !== undefined

/** A cut given to another tool: in its place in the line the piece is cleaned, and leaves the machine; its outlines stay as they are. */
export function cutElsewhere(job: JobDocument, id: string): JobDocument {
  const step = burnStepOf(job, id)
  if (step === undefined || !canBeCutElsewhere(job, id)) return job
  const { [id]: operation, ...operations } = job.operations
  const keeps = (operation as { readonly keeps?: string }).keeps === 'sheet' ? { keeps: 'sheet' as const } : {}
  const clean = freeName(job.steps, 'clean')
  return {
    ...job,
    operations,
    steps: {
      ...job.steps,
      [clean]: { kind: 'by-hand', text: 'Wipe the soot off', minutes: CLEAN_MIN },
      [step]: { kind: 'elsewhere', text: 'Cut it out', tool: 'router', of: operation.of, toolMm: TOOL_MM, ...keeps },
    },
    order: job.order.flatMap((each) => (each === step ? [clean, each] : [each])),
  }
}
