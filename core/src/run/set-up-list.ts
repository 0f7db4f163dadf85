import { stepsBefore } from '../edits/steps-edits.ts'
import type { Finding } from '../findings/finding.ts'
import type { JobDocument } from '../job/document/document.ts'
import { askedBy } from '../job/document/steps.ts'
import { jobForRun } from './changes.ts'
import { type PreflightItem, preflight } from './preflight.ts'
import { setUps, withoutFirstPause } from './set-ups.ts'

/** The operations that begin a set-up of a job, beside the first one. */
export const setUpStarts = (job: JobDocument): string[] =>
  setUps(job)
    .slice(1)
    .flatMap((ids) => ids.slice(0, 1))

/**
 * The list that is gone through before a set-up begins, made from what burns in it and from how the piece lies then: what was asked to
 * be done comes first. @param first the operation that begins it @param findings of the whole job @returns nothing where it begins none
 */
export function setUpList(job: JobDocument, first: string, findings: readonly Finding[]): PreflightItem[] {
  const ids = setUps(job).find((each) => each[0] === first)
  if (!ids || !setUpStarts(job).includes(first)) return []
  const own = withoutFirstPause(jobForRun(job, { only: ids }), ids)
  const asked = stepsBefore(job, first).flatMap((id): PreflightItem[] => {
    const words = askedBy(job.steps[id])
    return words === undefined
      ? []
      : [{ id: `step-${id}`, title: words, detail: 'asked before this set-up: answer it by itself', kind: 'asked' }]
  })
  // What the whole job was asked about was answered before the first start.
  const known = findings.filter(({ operation }) => operation !== undefined && ids.includes(operation))
  const items = preflight(own, known).filter(({ kind }) => kind !== 'asked')
  return [...asked, ...items].map((item) => ({ ...item, id: `${first}-${item.id}` }))
}
