import { checkJob, JOB_VERSION } from '@neotaxis/core'
import { Run } from '../models/runs.ts'
import { Refusal } from '../refusal.ts'

/** Whether a stored document is of this version: it says so at its beginning, as it is written. */
export const isOfThisVersion = (document: string): boolean => document.slice(0, 80).includes(`"version":${JOB_VERSION},`)

/** The document that a run burned, brought up to this version, as JSON: in a thread, because it may be large. */
export async function runDocument(runId: string): Promise<Uint8Array> {
  const run = await Run.findByPk(runId, { attributes: ['document'] })
  if (!run) throw new Refusal(404, 'no-run', 'This run is not in the journal.')
  return new TextEncoder().encode(JSON.stringify(checkJob(JSON.parse(run.document))))
}
