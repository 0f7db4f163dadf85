import { burnStepOf } from '../edits/steps-edits.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { relationsOf } from '../order/relations.ts'
import type { Found } from './finding.ts'

/** A part that is cut free may move or fall before it is engraved, or before what lies in it is cut. */
export function cutFirst(job: JobDocument, supply: Supply): Found[] {
  const burned = burnOrder(job)
  const placeOf = new Map(burned.map((id, at) => [id, at]))
  const broken = relationsOf(job, supply).filter(({ first, then }) => placeOf.get(first)! > placeOf.get(then)!)
  return [...new Set(broken.map(({ then }) => then))].map((cutId): Found => {
    const own = broken.filter(({ then }) => then === cutId)
    const at = placeOf.get(cutId)!
    const last = own.reduce((latest, { first }) => Math.max(latest, placeOf.get(first)!), at)
    const step = burnStepOf(job, cutId)!
    const order = job.order.filter((id) => id !== step)
    order.splice(order.indexOf(burnStepOf(job, burned[last])!) + 1, 0, step)
    const marked = own.filter(({ why }) => why === 'marks-on').length
    const message =
      marked > 0
        ? `Cut ${at + 1} frees the part before it is engraved: ${marked === 1 ? 'one operation' : `${marked} operations`} on it still come${marked === 1 ? 's' : ''} after.`
        : `Cut ${at + 1} frees the part before what lies in it is cut: ${own.length === 1 ? 'one cut' : `${own.length} cuts`} in it still come${own.length === 1 ? 's' : ''} after.`
    return {
      id: `cut-first:${cutId}`,
      kind: 'cut-first',
      severity: 'ask',
      operation: cutId,
      x: own[0].x,
      y: own[0].y,
      message,
      fixes: [
        { label: marked > 0 ? 'Cut after engraving' : 'Cut the inner ones first', patches: [{ path: ['order'], value: order }] },
      ],
    }
  })
}
