import { burnStepOf, stepAdded } from '../edits/steps-edits.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { difference } from '../job/patches/edit.ts'
import type { Supply } from '../lineage/supply.ts'
import { preparation, unprepared as unpreparedOf } from '../order/automatic.ts'
import { burnedBounds } from '../process/extent.ts'
import type { Found } from './finding.ts'

/** A piece that is prepared otherwise than before, and nobody is given the time for it. */
export function unprepared(job: JobDocument, supply: Supply): Found[] {
  return unpreparedOf(job).map((id): Found => {
    const { prepared = 'as it is' } = job.operations[id]
    const { x0, y0 } = burnedBounds(job, id, supply)
    const asked = stepAdded(job, preparation(prepared), job.order.indexOf(burnStepOf(job, id)!)).job
    return {
      id: `unprepared:${id}`,
      kind: 'unprepared',
      severity: 'ask',
      operation: id,
      x: Number.isFinite(x0) ? x0 : 0,
      y: Number.isFinite(y0) ? y0 : 0,
      message: `${burnOrder(job).indexOf(id) + 1} wants the piece prepared otherwise (${prepared}), and nothing stops the machine before it.`,
      fixes: [{ label: 'Pause before it', patches: difference(job, asked) }],
    }
  })
}
