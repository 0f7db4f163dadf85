import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import { burns } from '../job/document/steps.ts'
import { processOf } from '../process/table.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'

/** What is on the second side of a piece is burned after it was turned over, what is on its front before. */
export function notTurned(job: JobDocument): Found[] {
  const isTurned = Object.values(job.workpieces).some(({ back }) => back !== undefined)
  if (!isTurned) return []
  const turns = job.order.findIndex((id) => job.steps[id].kind === 'set-up')
  const after = new Set(
    job.order.slice(turns < 0 ? job.order.length : turns).flatMap((id) => {
      const step = job.steps[id]
      return burns(step) ? [step.operation] : []
    }),
  )
  return burnOrder(job).flatMap((id): Found[] => {
    const sides = burnedPieces(job, job.operations[id], id).map(({ workpiece, workpieceId }) =>
      workpiece.back ? 'back' : Object.values(job.workpieces).some(({ back }) => back?.of === workpieceId) ? 'front' : 'alone',
    )
    const wrong =
      sides.includes('back') && !after.has(id) ? 'before' : sides.includes('front') && after.has(id) ? 'after' : undefined
    const at = wrong && atOperation(job, 'not-turned', id)
    if (!at) return []
    const { subject } = processOf(job.operations[id])
    return [
      {
        ...at,
        severity: 'ask',
        message:
          wrong === 'before'
            ? `${subject} is on the second side, but burns before the piece is turned over: move it behind the set-up.`
            : `${subject} is on the front, but burns after the piece was turned over: move it before the set-up.`,
        fixes: [],
      },
    ]
  })
}
