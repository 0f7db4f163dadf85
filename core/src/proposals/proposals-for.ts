import { withNode } from '../edits/change.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import type { Supply } from '../lineage/supply.ts'
import { processOf } from '../process/table.ts'
import type { ImportRule } from '../vector/import-rules.ts'
import { type Proposal, type ProposalSettings, propose, proposedPicture, type SourceFacts } from './proposals.ts'
import { proposeDrawing } from './proposals-drawing.ts'

function made(facts: SourceFacts, settings: ProposalSettings, supply: Supply, rules?: readonly ImportRule[]): Proposal[] {
  if (!facts.drawing) return propose(facts, proposedPicture(facts, supply), settings, supply)
  if (!supply.drawing) throw new Error('Drawings cannot be read here.')
  return proposeDrawing(facts, supply.drawing(facts.asset), settings, supply, rules)
}

const refusalOf = (job: JobDocument, id: string): string | undefined =>
  processOf(job.operations[id]).refused?.(operationMaterial(job, job.operations[id]), job.machine)

/** The complete jobs that a file could become, whatever it is. @param rules for drawings, default what a shop begins with */
export function proposalsFor(
  facts: SourceFacts,
  settings: ProposalSettings,
  supply: Supply,
  rules?: readonly ImportRule[],
): Proposal[] {
  const { provenance } = facts
  // What no setting burns on this material is not proposed, as long as something else is.
  const all = made(facts, settings, supply, rules)
  const can = all.filter(({ job }) => burnOrder(job).every((id) => !refusalOf(job, id)))
  const proposals = can.length > 0 ? can : all
  return provenance ? proposals.map((each) => ({ ...each, job: withNode(each.job, 'source', { provenance }) })) : proposals
}
