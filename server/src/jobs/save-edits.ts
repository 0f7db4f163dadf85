import { applyPatches, checkJob, type Edit, type JobDocument, JobError, type Patch, PatchError, touchSame } from '@neotaxis/core'
import { nanoid } from 'nanoid'
import { Op, type Transaction } from 'sequelize'
import { Job, Revision } from '../models/index.ts'
import { Refusal } from '../refusal.ts'

/** A revision as pages get it. */
export interface SavedEdit extends Edit {
  readonly revision: number
}

/** What became of edits that were sent. `missed` are edits of others that the sender did not know yet. */
export type SaveResult =
  | { readonly status: 'saved' | 'rebased'; readonly revision: number; readonly missed: readonly SavedEdit[] }
  | { readonly status: 'branched'; readonly branch: string; readonly branchName: string }

export const savedEdit = (row: Revision): SavedEdit => ({
  id: row.editId,
  name: row.name,
  kind: row.kind,
  patches: JSON.parse(row.patches) as Patch[],
  inverse: JSON.parse(row.inverse) as Patch[],
  revision: row.revision,
})

/**
 * Takes edits made on revision `base` of a job.
 * Edits that others made since are kept too: where both touch different things the new ones go on top (rebased), where
 * they touch the same the sender's version becomes a job of its own (branched). An edit sent twice is taken once.
 */
export async function saveEdits(jobId: string, base: number, edits: readonly Edit[]): Promise<SaveResult> {
  return Job.sequelize!.transaction(async (transaction) => {
    const job = await Job.findByPk(jobId, { transaction, lock: transaction.LOCK.UPDATE })
    if (!job) throw new Refusal(404, 'no-job', 'This job is not here any more.')
    if (base > job.revision)
      throw new Refusal(409, 'unknown-revision', 'The server does not know the version that these edits were made on.')
    const since = (
      await Revision.findAll({ where: { jobId, revision: { [Op.gt]: base } }, order: ['revision'], transaction })
    ).map(savedEdit)
    const known = new Set(
      (await Revision.findAll({ where: { jobId, editId: edits.map(({ id }) => id) }, attributes: ['editId'], transaction })).map(
        ({ editId }) => editId,
      ),
    )
    const fresh = edits.filter(({ id }) => !known.has(id))
    const sent = new Set(edits.map(({ id }) => id))
    const missed = since.filter(({ id }) => !sent.has(id))
    const current = JSON.parse(job.document) as JobDocument
    const all = (list: readonly Edit[]): Patch[] => list.flatMap(({ patches }) => patches)
    if (fresh.length === 0) return { status: 'saved', revision: job.revision, missed }
    const apart = missed.length === 0 || !touchSame(all(missed), all(fresh))
    const document = apart ? tryApply(current, fresh, missed.length > 0) : undefined
    if (!document) return branch(job, base, since, edits, transaction)
    await addRevisions(jobId, job.revision, fresh, transaction)
    await job.update(
      { document: JSON.stringify(document), name: document.name, revision: job.revision + fresh.length },
      { transaction },
    )
    return { status: missed.length > 0 ? 'rebased' : 'saved', revision: job.revision, missed }
  })
}

/** The document after the edits; where `mayFail`, undefined instead of a refusal when it would not hold together. */
function tryApply(document: JobDocument, edits: readonly Edit[], mayFail: boolean): JobDocument | undefined {
  try {
    return checkJob(
      applyPatches(
        document,
        edits.flatMap(({ patches }) => patches),
      ),
    )
  } catch (cause) {
    if (!(cause instanceof JobError || cause instanceof PatchError)) throw cause
    if (mayFail) return undefined
    throw new Refusal(422, 'bad-edit', cause.message)
  }
}

async function addRevisions(jobId: string, from: number, edits: readonly Edit[], transaction: Transaction): Promise<void> {
  await Revision.bulkCreate(
    edits.map((edit, i) => ({
      jobId,
      revision: from + 1 + i,
      editId: edit.id,
      name: edit.name,
      kind: edit.kind,
      patches: JSON.stringify(edit.patches),
      inverse: JSON.stringify(edit.inverse),
    })),
    { transaction },
  )
}

/** The sender's version as a job of its own, with the history that led to it. */
async function branch(
  job: Job,
  base: number,
  since: readonly SavedEdit[],
  edits: readonly Edit[],
  transaction: Transaction,
): Promise<SaveResult> {
  const back = [...since].reverse().flatMap(({ inverse }) => inverse)
  const atBase = applyPatches(JSON.parse(job.document) as JobDocument, back)
  const theirs = tryApply(atBase, edits, false)!
  const branchName = `${theirs.name} (branch)`.slice(0, 200)
  const document = { ...theirs, name: branchName }
  const id = nanoid(12)
  await Job.create(
    { id, name: branchName, revision: base + edits.length, document: JSON.stringify(document), branchOf: job.id },
    { transaction },
  )
  const before = (
    await Revision.findAll({ where: { jobId: job.id, revision: { [Op.lte]: base } }, order: ['revision'], transaction })
  ).map(savedEdit)
  await addRevisions(id, 0, before, transaction)
  await addRevisions(id, base, edits, transaction)
  return { status: 'branched', branch: id, branchName }
}
