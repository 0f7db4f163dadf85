import { createHash } from 'node:crypto'
import { type Edit, type JobDocument, type KeptEdit, mergeEdits, type Patch } from '@neotaxis/core'
import { Op, QueryTypes, type Transaction } from 'sequelize'
import { Job, Revision } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import { broughtUp } from './earlier-edits.ts'
import { jobColumns } from './job-columns.ts'
import { storedJob } from './stored-job.ts'

/**
 * What became of edits that were sent on revision `base`. `edits` are all that stand after it now, in order: the sender's and those
 * of others, as they are kept.
 */
export type SaveResult =
  | { readonly status: 'saved'; readonly base: number; readonly revision: number; readonly edits: readonly KeptEdit[] }
  | { readonly status: 'branched'; readonly branch: string; readonly branchName: string; readonly revision: number }
  | { readonly status: 'refused'; readonly edit: string; readonly message: string }

export const keptEdit = (row: Revision): KeptEdit => ({
  id: row.editId,
  name: row.name,
  kind: row.kind,
  ...(row.ofEdit !== null && { of: row.ofEdit }),
  patches: JSON.parse(row.patches) as Patch[],
  inverse: JSON.parse(row.inverse) as Patch[],
  revision: row.revision,
})

/**
 * Takes edits made on revision `base` of a job: on top, as a branch, or not at all (`mergeEdits`). An edit that is sent twice is taken
 * once, and a branch that is sent twice is one. Runs in a thread of the pool for documents.
 */
export async function saveEdits(jobId: string, sentOn: number, sent: readonly Edit[]): Promise<SaveResult> {
  return Job.sequelize!.transaction(async (transaction) => {
    const job = await Job.findByPk(jobId, { transaction, lock: transaction.LOCK.UPDATE })
    if (!job) throw new Refusal(404, 'no-job', 'This job is not here any more.')
    if (sentOn > job.revision)
      throw new Refusal(409, 'unknown-revision', 'The server does not know the version that these edits were made on.')
    const document = storedJob(job)
    let [base, edits] = [sentOn, sent]
    if (sentOn < job.historyFrom) {
      // Made by a page on the version before: brought up as the job was.
      const up = job.earlier === null ? undefined : broughtUp(job.earlier, sent)
      if (!up)
        return {
          status: 'refused',
          edit: sent[0].id,
          message: 'This job was brought up to a newer version meanwhile: open it again, and make this change there.',
        }
      base = job.historyFrom
      edits = up
    }
    const kept = await keptSince(job, base, edits, transaction)
    const known = new Set(kept.map(({ id }) => id))
    const earlier = await branchWith(
      jobId,
      edits.filter(({ id }) => !known.has(id)),
      transaction,
    )
    if (earlier) return extend(earlier, edits, transaction)
    const merged = mergeEdits({ document, revision: job.revision, edits: kept }, base, edits)
    if (merged.status === 'refused') return merged
    if (merged.status === 'branched') return branch(job, base, merged, transaction)
    const { made, document: after } = merged
    if (made.length > 0) {
      await addRevisions(jobId, made, transaction)
      await job.update({ ...jobColumns(after), revision: job.revision + made.length }, { transaction })
    }
    const all = [...kept.filter(({ revision }) => revision > base), ...made]
    return { status: 'saved', base, revision: job.revision, edits: all }
  })
}

/** Edits of a job after a revision, and from the oldest one on that an undo among those sent names. */
async function keptSince(
  { id: jobId, historyFrom }: Job,
  base: number,
  edits: readonly Edit[],
  transaction: Transaction,
): Promise<readonly KeptEdit[]> {
  const named = edits.flatMap(({ of }) => (of === undefined ? [] : [of]))
  const sent = edits.map(({ id }) => id)
  const oldest = await Revision.min<number | null, Revision>('revision', {
    where: { jobId, editId: [...named, ...sent] },
    transaction,
  })
  // Edits of an older version of the document cannot be taken back in this one.
  const from = Math.max(historyFrom, Math.min(base, (oldest ?? base + 1) - 1))
  const rows = await Revision.findAll({ where: { jobId, revision: { [Op.gt]: from } }, order: ['revision'], transaction })
  return rows.map(keptEdit)
}

async function addRevisions(jobId: string, edits: readonly KeptEdit[], transaction: Transaction): Promise<void> {
  await Revision.bulkCreate(
    edits.map(({ id, name, kind, of, patches, inverse, revision }) => ({
      jobId,
      revision,
      editId: id,
      name,
      kind,
      ofEdit: of ?? null,
      patches: JSON.stringify(patches),
      inverse: JSON.stringify(inverse),
    })),
    { transaction },
  )
}

/**
 * A branch that already holds one of these edits: the answer to the sender was lost. Not only the first of them: an earlier one may
 * have been refused and left out before the branch was made, and a drawer of the same page still have it.
 */
async function branchWith(jobId: string, fresh: readonly Edit[], transaction: Transaction): Promise<Job | undefined> {
  if (fresh.length === 0) return undefined
  const rows = await Revision.findAll({ where: { editId: fresh.map(({ id }) => id) }, attributes: ['jobId'], transaction })
  for (const { jobId: id } of rows) {
    const job = await Job.findOne({ where: { id, branchOf: jobId }, transaction, lock: transaction.LOCK.UPDATE })
    if (job) return job
  }
  return undefined
}

/** What was made after the branch was sent for the first time goes on top of it. */
async function extend(job: Job, edits: readonly Edit[], transaction: Transaction): Promise<SaveResult> {
  const kept = await keptSince(job, job.revision, edits, transaction)
  const document = storedJob(job)
  const merged = mergeEdits({ document, revision: job.revision, edits: kept }, job.revision, edits)
  if (merged.status === 'refused') return merged
  if (merged.made.length > 0) {
    await addRevisions(job.id, merged.made, transaction)
    await job.update({ ...jobColumns(merged.document), revision: job.revision + merged.made.length }, { transaction })
  }
  return { status: 'branched', branch: job.id, branchName: job.name, revision: job.revision }
}

/** The sender's version as a job of its own, with the history that led to it. The same edits give the same branch. */
async function branch(
  job: Job,
  base: number,
  { document: theirs, made }: { readonly document: JobDocument; readonly made: readonly KeptEdit[] },
  transaction: Transaction,
): Promise<SaveResult> {
  const name = `${theirs.name} (branch)`.slice(0, 200)
  const document = { ...theirs, name }
  const id = createHash('sha256')
    .update(`${job.id} ${made.at(-1)?.id}`)
    .digest('base64url')
    .slice(0, 12)
  const revision = base + made.length
  await Job.create(
    { id, ...jobColumns(document), revision, branchOf: job.id, historyFrom: job.historyFrom, earlier: job.earlier },
    { transaction },
  )
  await Job.sequelize!.query(
    `INSERT INTO revisions (jobId, revision, editId, name, kind, ofEdit, patches, inverse, createdAt)
     SELECT :id, revision, editId, name, kind, ofEdit, patches, inverse, createdAt FROM revisions
     WHERE jobId = :from AND revision <= :base`,
    { replacements: { id, from: job.id, base }, type: QueryTypes.INSERT, transaction },
  )
  await addRevisions(id, made, transaction)
  return { status: 'branched', branch: id, branchName: name, revision }
}
