import { withNode } from '../edits/change.ts'
import type { Supply } from '../lineage/supply.ts'
import type { ImportRule } from '../vector/import-rules.ts'
import { type Proposal, type ProposalSettings, propose, proposedPicture, type SourceFacts } from './proposals.ts'
import { proposeDrawing } from './proposals-drawing.ts'

function made(facts: SourceFacts, settings: ProposalSettings, supply: Supply, rules?: readonly ImportRule[]): Proposal[] {
  if (!facts.drawing) return propose(facts, proposedPicture(facts, supply), settings, supply)
  if (!supply.drawing) throw new Error('Drawings cannot be read here.')
  return proposeDrawing(facts, supply.drawing(facts.asset), settings, supply, rules)
}

/** The complete jobs that a file could become, whatever it is. @param rules for drawings, default what a shop begins with */
export function proposalsFor(
  facts: SourceFacts,
  settings: ProposalSettings,
  supply: Supply,
  rules?: readonly ImportRule[],
): Proposal[] {
  const { provenance } = facts
  const proposals = made(facts, settings, supply, rules)
  return provenance ? proposals.map((each) => ({ ...each, job: withNode(each.job, 'source', { provenance }) })) : proposals
}
