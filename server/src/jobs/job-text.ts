// Jobs as the page gets and sends them, in threads: documents are read here and nowhere else on the server.
import { editsSent } from '@neotaxis/contract'
import type { JobDocument } from '@neotaxis/core'
import { Op } from 'sequelize'
import { Job, Revision } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import { validated } from '../routes/validate.ts'
import { readJson } from './json-limits.ts'
import { keptEdit, saveEdits } from './save-edits.ts'
import { storedJob } from './stored-job.ts'

/** Undo reaches back this many edits. */
const HISTORY = 500
const MOST_BYTES = 20_000_000

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text)

async function found(jobId: string): Promise<Job> {
  const job = await Job.findByPk(jobId)
  if (!job) throw new Refusal(404, 'no-job', 'This job is not here any more.')
  return job
}

/** A job's newest document, brought up to this version. @throws Refusal */
export async function newestJob(jobId: string): Promise<{ readonly document: JobDocument; readonly job: Job }> {
  const job = await found(jobId)
  return { document: storedJob(job), job }
}

/** The job with its latest edits, as JSON. */
export async function openJob(jobId: string): Promise<Uint8Array> {
  const { document, job } = await newestJob(jobId)
  const rows = await Revision.findAll({
    where: {
      jobId: job.id,
      // Edits of an older version of the document are kept to look at: they cannot be undone in this one.
      revision: { [Op.gt]: Math.max(job.revision - HISTORY, job.historyFrom), [Op.lte]: job.revision },
    },
    order: ['revision'],
  })
  const { id, revision, branchOf } = job
  return utf8(JSON.stringify({ id, revision, branchOf, document, edits: rows.map(keptEdit) }))
}

/** Edits after a revision, as JSON. */
export async function editsSince({ jobId, since }: { jobId: string; since: number }): Promise<Uint8Array> {
  const job = await found(jobId)
  const where = { jobId: job.id, revision: { [Op.gt]: since, [Op.lte]: job.revision } }
  const rows = since >= job.revision ? [] : await Revision.findAll({ where, order: ['revision'] })
  return utf8(JSON.stringify({ revision: job.revision, edits: rows.map(keptEdit) }))
}

/** Takes edits as they were sent. @param body JSON of a base and edits @returns what became of them, as JSON */
export async function saveBody({ jobId, body }: { jobId: string; body: Uint8Array }): Promise<Uint8Array> {
  const { base, edits } = validated(editsSent, readJson(body, MOST_BYTES, 'What was sent'))
  return utf8(JSON.stringify(await saveEdits(jobId, base, edits)))
}

/** The job at the revision that a page shows. @throws Refusal where it changed meanwhile */
export async function jobForRun({ jobId, revision }: { jobId: string; revision?: number }): Promise<JobDocument> {
  const { document, job } = await newestJob(jobId)
  if (revision !== undefined && job.revision !== revision)
    throw new Refusal(409, 'changed', 'The job has changed meanwhile: look at it again, then start.')
  return document
}
