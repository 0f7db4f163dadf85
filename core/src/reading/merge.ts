import type { JobDocument } from '../job/document/document.ts'
import { JobError } from '../job/document/job-error.ts'
import { applyBothWays, applyPatches, type Edit, type MadeEdit, type Patch, PatchError } from '../job/patches/edit.ts'
import { PathTree } from '../job/patches/path-tree.ts'
import { checkJob } from './check-job.ts'

/** An edit as it is kept: which revision it made, and the way back, worked out by whoever keeps the job. */
export interface KeptEdit extends MadeEdit {
  readonly revision: number
}

/** A job as it is kept, with the edits that led to it, as far back as they matter. */
export interface KeptJob {
  readonly document: JobDocument
  readonly revision: number
  /** Edits in order, the newest last. They reach back to the sender's base at least, and to whatever an undo names. */
  readonly edits: readonly KeptEdit[]
}

/** What becomes of edits that somebody sent. */
export type Merged =
  /** They stand on top: `made` are the new ones. `missed` are those of others that the sender did not know. */
  | {
      readonly status: 'saved'
      readonly document: JobDocument
      readonly made: readonly KeptEdit[]
      readonly missed: readonly KeptEdit[]
    }
  /** Both changed the same: the sender's version becomes a job of its own, `made` after revision `base`. */
  | { readonly status: 'branched'; readonly document: JobDocument; readonly made: readonly KeptEdit[] }
  /** One of them cannot be: nothing of them is kept. */
  | { readonly status: 'refused'; readonly edit: string; readonly message: string }

class Refused extends Error {
  readonly edit: string
  constructor(edit: string, message: string) {
    super(message)
    this.edit = edit
  }
}

/**
 * Edits that do not count any more, each cancelled by a later one that names it, and those that cancelled them. What is left of
 * `edit` kind is what the document holds.
 */
function cancelled(edits: readonly KeptEdit[]): ReadonlySet<string> {
  const gone = new Set<string>()
  for (let i = edits.length - 1; i >= 0; i--) {
    const { id, of, kind } = edits[i]
    if (kind === 'edit' || of === undefined || gone.has(id)) continue
    gone.add(of)
  }
  return gone
}

/** The patches of an undo or redo. @throws Refused where it cannot be taken back any more */
function patchesBack(edit: Edit, edits: readonly KeptEdit[]): readonly Patch[] {
  const words = edit.kind === 'undo' ? 'undone' : 'redone'
  const at = edits.findIndex(({ id }) => id === edit.of)
  if (at < 0) throw new Refused(edit.id, `“${edit.name}” cannot be ${words}: it lies too far back.`)
  const gone = cancelled(edits)
  const target = edits[at]
  if (gone.has(target.id)) throw new Refused(edit.id, `“${edit.name}” was ${words} already, on another page.`)
  const tree = new PathTree(target.patches)
  const since = edits.slice(at + 1).find((one) => one.kind === 'edit' && !gone.has(one.id) && tree.touches(one.patches))
  if (since)
    throw new Refused(edit.id, `“${edit.name}” cannot be ${words}: “${since.name}” changed the same since. Undo that first.`)
  return target.inverse
}

/** Makes edits on a document one after the other. @param log what came before, for what undo names @throws Refused, PatchError */
function make(
  start: JobDocument,
  edits: readonly Edit[],
  revision: number,
  log: readonly KeptEdit[],
): { readonly document: JobDocument; readonly made: readonly KeptEdit[] } {
  let document = start
  const made: KeptEdit[] = []
  for (const { id, name, kind, of, patches: told } of edits) {
    const patches = kind === 'edit' ? told : patchesBack({ id, name, kind, of, patches: told }, [...log, ...made])
    let step: ReturnType<typeof applyBothWays<JobDocument>>
    try {
      step = applyBothWays(document, patches)
    } catch (cause) {
      if (!(cause instanceof PatchError)) throw cause
      throw new Refused(id, cause.message)
    }
    document = step.document
    made.push({
      id,
      name,
      kind,
      ...(of !== undefined && { of }),
      patches,
      inverse: step.inverse,
      revision: revision + made.length + 1,
    })
  }
  return { document, made }
}

/**
 * Edits made on revision `base` of a job, on the job as it is now. Where others changed other things since, they go on top; where both
 * changed the same, the sender's version becomes a branch. An undo is never a branch: it is made, or refused with a reason.
 * Time grows with the number of patches and the length of their paths. An edit that is kept already is taken once.
 */
export function mergeEdits(job: KeptJob, base: number, edits: readonly Edit[]): Merged {
  const known = new Set(job.edits.map(({ id }) => id))
  const sent = new Set(edits.map(({ id }) => id))
  const fresh = edits.filter(({ id }) => !known.has(id))
  const since = job.edits.filter(({ revision }) => revision > base)
  const missed = since.filter(({ id }) => !sent.has(id))
  if (fresh.length === 0) return { status: 'saved', document: job.document, made: [], missed }
  const theirs = new PathTree()
  for (const { patches } of missed) theirs.add(patches)
  const apart = !fresh.some(({ kind, patches }) => kind === 'edit' && theirs.touches(patches))
  try {
    if (apart) {
      const top = make(job.document, fresh, job.revision, job.edits)
      try {
        return { status: 'saved', document: checkJob(top.document), made: top.made, missed }
      } catch (cause) {
        // Each for itself holds together, both do not: as if both had changed the same.
        if (!(cause instanceof JobError) || missed.length === 0) throw cause
      }
    }
    const start = applyPatches(
      job.document,
      [...since].reverse().flatMap(({ inverse }) => inverse),
    )
    const before = job.edits.filter(({ revision }) => revision <= base)
    const own = make(start, edits, base, before)
    return { status: 'branched', document: checkJob(own.document), made: own.made }
  } catch (cause) {
    if (cause instanceof Refused) return { status: 'refused', edit: cause.edit, message: cause.message }
    if (cause instanceof JobError) return firstBroken(job, fresh, cause)
    throw cause
  }
}

/** Which of the edits breaks the job. */
function firstBroken(job: KeptJob, fresh: readonly Edit[], cause: JobError): Merged {
  let document = job.document
  let log = job.edits
  for (const edit of fresh) {
    try {
      const one = make(document, [edit], log.at(-1)?.revision ?? job.revision, log)
      document = checkJob(one.document)
      log = [...log, ...one.made]
    } catch (broken) {
      if (broken instanceof Refused || broken instanceof JobError)
        return { status: 'refused', edit: edit.id, message: broken.message }
      throw broken
    }
  }
  return { status: 'refused', edit: fresh[fresh.length - 1].id, message: cause.message }
}
