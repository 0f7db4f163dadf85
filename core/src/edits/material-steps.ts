import { type JobDocument, materialOf } from '../job/document/document.ts'
import type { Step } from '../job/document/steps.ts'
import type { HandWork } from '../material/material.ts'
import { stepAdded } from './steps-edits.ts'

/** What the job's material wants done by hand before it is burned and after, and is not in the job yet. */
export function materialSteps(job: JobDocument): { readonly before: readonly HandWork[]; readonly after: readonly HandWork[] } {
  const { before = [], after = [] } = materialOf(job).steps ?? {}
  const there = new Set(Object.values(job.steps).flatMap((step) => (step.kind === 'by-hand' ? [step.text] : [])))
  const missing = (list: readonly HandWork[]): HandWork[] => list.filter(({ text }) => !there.has(text))
  return { before: missing(before), after: missing(after) }
}

/** The job with all of that: before the first block of its line, and behind the last. */
export function withMaterialSteps(job: JobDocument): JobDocument {
  const { before, after } = materialSteps(job)
  const prepared = before.reduce((sum, work, i) => stepAdded(sum, byHand(work), i).job, job)
  return after.reduce((sum, work) => stepAdded(sum, byHand(work)).job, prepared)
}

const byHand = ({ text, minutes }: HandWork): Step => ({ kind: 'by-hand', text, minutes })
