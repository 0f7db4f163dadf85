import { withNode } from '../edits/change.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import type { Supply } from '../lineage/supply.ts'
import { processOf } from '../process/table.ts'
import type { ImportRule } from '../vector/import-rules.ts'
import { type Proposal, type ProposalSettings, proposedPicture, proposing, type SourceFacts } from './proposals.ts'
import { proposeDrawing } from './proposals-drawing.ts'

function* made(
  facts: SourceFacts,
  settings: ProposalSettings,
  supply: Supply,
  rules?: readonly ImportRule[],
): Generator<Proposal, void> {
  if (!facts.drawing) {
    yield* proposing(facts, proposedPicture(facts, supply), settings, supply)
    return
  }
  if (!supply.drawing) throw new Error('Drawings cannot be read here.')
  yield* proposeDrawing(facts, supply.drawing(facts.asset), settings, supply, rules)
}

const refusalOf = (job: JobDocument, id: string): string | undefined =>
  processOf(job.operations[id]).refused?.(operationMaterial(job, job.operations[id]), job.machine)

/** The complete jobs that a file could become, whatever it is. @param rules for drawings, default what a shop begins with */
export const proposalsFor = (...asked: Parameters<typeof proposingFor>): Proposal[] => [...proposingFor(...asked)]

/** The same, one after the other: each is made when it is asked for. */
export function* proposingFor(
  facts: SourceFacts,
  settings: ProposalSettings,
  supply: Supply,
  rules?: readonly ImportRule[],
): Generator<Proposal, void> {
  const { provenance } = facts
  const told = (each: Proposal): Proposal => (provenance ? { ...each, job: withNode(each.job, 'source', { provenance }) } : each)
  // What no setting burns on this material is not proposed, as long as something else is.
  const refused: Proposal[] = []
  let any = false
  for (const each of made(facts, settings, supply, rules)) {
    if (burnOrder(each.job).some((id) => refusalOf(each.job, id))) refused.push(each)
    else {
      any = true
      yield told(each)
    }
  }
  if (!any) yield* refused.map(told)
}
