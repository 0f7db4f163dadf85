import { roomAmong } from '../edits/room.ts'
import type { JobDocument, Placement } from '../job/document/document.ts'
import { RANGES } from '../job/document/ranges.ts'
import type { Supply } from '../lineage/supply.ts'
import type { ImportRule } from '../vector/import-rules.ts'
import type { Proposal, ProposalSettings, SourceFacts } from './proposals.ts'
import { proposingFor } from './proposals-for.ts'

interface Asked {
  readonly facts: SourceFacts
  readonly settings: ProposalSettings
  /** For drawings, default what a shop begins with. */
  readonly rules?: readonly ImportRule[]
  /** The job that it becomes part of. */
  readonly into?: JobDocument
  /** Where it was drawn on the workpiece, mm. */
  readonly at?: { readonly xMm: number; readonly yMm: number }
}

/** Whether anybody said how large it is: the file, or who brings it in. */
/** No artwork is smaller. */
const LEAST_MM = RANGES.sizeMm.min

const isSized = ({ pixelsPerMm, mesh, drawing, drawn }: SourceFacts, { size }: ProposalSettings): boolean =>
  Boolean(pixelsPerMm || mesh || drawing || drawn || size)

/**
 * What a file could become in a job that there is: each lies where it was drawn, or where there is room; smaller, where nobody said
 * its size. Where there is no room it lies in the middle. Without a job as `proposalsFor`. One after the other: each is made when it
 * is asked for.
 */
export function* proposingIn({ facts, settings, rules, into, at }: Asked, supply: Supply): Generator<Proposal, void> {
  // What is drawn where it goes is as large as it is drawn, even from edge to edge; a straight line has hardly a width.
  const own = at && facts.drawing && !settings.size ? facts.drawing : undefined
  const size = own && { widthMm: Math.max(LEAST_MM, own.widthMm), heightMm: Math.max(LEAST_MM, own.heightMm) }
  const asked = size ? { ...settings, size } : settings
  if (!into) {
    yield* proposingFor(facts, asked, supply, rules)
    return
  }
  if (at) {
    for (const each of proposingFor(facts, asked, supply, rules)) yield placedBy(each, (source) => ({ ...source, ...at }))
    return
  }
  let scale: number | undefined
  for (const each of proposingFor(facts, asked, supply, rules)) {
    // The first tells how large all of them are.
    scale ??= isSized(facts, settings) ? 1 : (roomAmong(into, each.job, supply, true)?.scale ?? 1)
    if (scale < 1) {
      const smaller = { widthMm: Math.round(1000 * scale * each.job.placements.source.widthMm) / 1000 }
      for (const small of proposingFor(facts, { ...settings, size: smaller }, supply, rules)) yield inRoom(small, into, supply)
      return
    }
    yield inRoom(each, into, supply)
  }
}

/** A proposal where there is room for it in a job. */
function inRoom(each: Proposal, into: JobDocument, supply: Supply): Proposal {
  const room = roomAmong(into, each.job, supply, false)
  const moved = (mm: number, by: number): number => Math.round(1000 * (mm + by)) / 1000
  return room
    ? placedBy(each, (place) => ({ ...place, xMm: moved(place.xMm, room.dxMm), yMm: moved(place.yMm, room.dyMm) }))
    : each
}

const placedBy = (proposal: Proposal, place: (source: Placement) => Placement): Proposal => ({
  ...proposal,
  job: { ...proposal.job, placements: { ...proposal.job.placements, source: place(proposal.job.placements.source) } },
})
