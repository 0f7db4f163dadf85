import { burnStepOf, stepAdded, stepsBefore } from '../edits/steps-edits.ts'
import { isEmptyBounds } from '../geometry/bounds.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { burns, type Step } from '../job/document/steps.ts'
import type { Supply } from '../lineage/supply.ts'
import { burnedBounds } from '../process/extent.ts'
import { processOf } from '../process/table.ts'
import { setUpNumbers } from './reasons.ts'
import { type Relation, relationsOf } from './relations.ts'

/** What is asked where another preparation begins. */
export const preparation = (prepared: string): Step => ({ kind: 'pause', text: `Prepare the piece: ${prepared}` })

/** Where a piece is prepared otherwise than before, and nothing is asked between: ids of those operations. */
export function unprepared(job: JobDocument): string[] {
  const order = burnOrder(job)
  return order.filter((id, i) => {
    const { prepared } = job.operations[id]
    const before = i === 0 ? undefined : job.operations[order[i - 1]].prepared
    return i > 0 && prepared !== before && stepsBefore(job, id).every((step) => job.steps[step].kind === 'burn')
  })
}

/**
 * A job in a good order, within each of its set-ups: what lies inside a part before the cut that frees it, inner cuts before outer
 * ones; what is prepared alike together; marks before cuts; then the least way. Pauses come where the preparation differs. What a
 * further tool cuts comes first where bridges hold it, because it makes dust, and last where it frees the piece.
 */
export function inGoodOrder(job: JobDocument, supply: Supply, relations = relationsOf(job, supply)): JobDocument {
  const set = setUpNumbers(job)
  const parts = new Map<number, string[]>()
  for (const id of burnOrder(job)) parts.set(set.get(id)!, [...(parts.get(set.get(id)!) ?? []), id])
  const sorted = [...parts.values()].flatMap((ids) => sortedWithin(job, ids, relations, supply))
  return withPreparation(elsewhereInTurn(withOrder(job, sorted)))
}

/** The operations of one set-up in a good order: of those with nothing left before them, the best next one, again and again. */
function sortedWithin(job: JobDocument, ids: readonly string[], relations: readonly Relation[], supply: Supply): string[] {
  const waiting = new Map(ids.map((id) => [id, new Set<string>()]))
  for (const { first, then } of relations) if (waiting.has(first)) waiting.get(then)?.add(first)
  const middles = new Map(ids.map((id) => [id, middleOf(job, id, supply)]))
  const sorted: string[] = []
  let at: readonly [number, number] = [0, 0]
  while (waiting.size > 0) {
    const ready = [...waiting].filter(([, before]) => before.size === 0).map(([id]) => id)
    // A circle cannot be: relations that contradict each other are none. Were it one, the order stays.
    const among = ready.length > 0 ? ready : [...waiting.keys()].slice(0, 1)
    const last = sorted.at(-1)
    const cost = (id: string): readonly number[] => {
      const { prepared } = job.operations[id]
      const now = last === undefined ? undefined : job.operations[last].prepared
      const [x, y] = middles.get(id)!
      return [prepared === now ? 0 : 1, processOf(job.operations[id]).turn, Math.hypot(x - at[0], y - at[1])]
    }
    const next = among.reduce((best, id) => (isLess(cost(id), cost(best)) ? id : best))
    sorted.push(next)
    at = middles.get(next)!
    waiting.delete(next)
    for (const before of waiting.values()) before.delete(next)
  }
  return sorted
}

const isLess = (a: readonly number[], b: readonly number[]): boolean => {
  for (let i = 0; i < a.length; i++) if (Math.abs(a[i] - b[i]) > 1e-9) return a[i] < b[i]
  return false
}

function middleOf(job: JobDocument, id: string, supply: Supply): readonly [number, number] {
  const box = burnedBounds(job, id, supply)
  return isEmptyBounds(box) ? [0, 0] : [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2]
}

/** The operations in an order, each with what is asked right before it; set-ups and what is switched off stay in their places. */
function withOrder(job: JobDocument, sorted: readonly string[]): JobDocument {
  const own = (id: string): string[] => [
    ...stepsBefore(job, id).filter((step) => job.steps[step].kind === 'pause' || job.steps[step].kind === 'by-hand'),
    burnStepOf(job, id)!,
  ]
  const moved = new Set(sorted.flatMap(own))
  const places = burnOrder(job).map(own)
  const next = new Map(places.map((steps, i) => [steps.at(-1)!, own(sorted[i])]))
  return { ...job, order: job.order.flatMap((id) => (moved.has(id) ? (next.get(id) ?? []) : [id])) }
}

/** Pauses where a piece is prepared otherwise than before. */
function withPreparation(job: JobDocument): JobDocument {
  return unprepared(job).reduce((next, id) => {
    const { prepared } = next.operations[id]
    return stepAdded(next, preparation(prepared ?? 'as it is'), next.order.indexOf(burnStepOf(next, id)!)).job
  }, job)
}

const CLEANED: Step = { kind: 'by-hand', text: 'Take the dust off the piece', minutes: 2 }

/** What another tool cuts: first where bridges hold it, and the dust is taken off then; last where it frees the piece. */
function elsewhereInTurn(job: JobDocument): JobDocument {
  if (Object.values(job.steps).some(({ kind }) => kind === 'set-up')) return job
  const others = job.order.filter((id) => job.steps[id].kind === 'elsewhere')
  if (others.length === 0) return job
  const held = others.filter((id) => isHeld(job, id))
  const free = others.filter((id) => !held.includes(id))
  const rest = job.order.filter((id) => !others.includes(id))
  const sorted = { ...job, order: [...held, ...rest, ...free] }
  const cleans = held.length > 0 && rest.length > 0 && burns(job.steps[rest[0]])
  return cleans ? stepAdded(sorted, CLEANED, held.length).job : sorted
}

/** Whether bridges hold what another tool cuts. */
export function isHeld(job: JobDocument, stepId: string): boolean {
  const step = job.steps[stepId]
  const nodes = step.kind === 'elsewhere' ? (step.of ?? []) : []
  return nodes.length > 0 && nodes.every((id) => job.nodes[id]?.kind === 'bridged')
}
