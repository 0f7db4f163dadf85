import type { JobDocument } from '../job/document/document.ts'
import { applyPatches, type Edit } from '../job/patches/edit.ts'
import { type KeptEdit, mergeEdits } from '../reading/merge.ts'

/** A job of the keeper: its first document, and what was made of it. */
export interface KeptHere {
  readonly id: string
  readonly first: JobDocument
  document: JobDocument
  revision: number
  edits: KeptEdit[]
  readonly branchOf: string | null
}

/** What the keeper answers: as the server does. */
export type KeeperAnswer =
  | { readonly status: 'saved'; readonly base: number; readonly revision: number; readonly edits: readonly KeptEdit[] }
  | { readonly status: 'branched'; readonly branch: string; readonly branchName: string; readonly revision: number }
  | { readonly status: 'refused'; readonly edit: string; readonly message: string }

/** Keeps jobs in memory by the same rules as the server keeps them in its database: what tests hold both against. */
export class EditKeeper {
  readonly jobs = new Map<string, KeptHere>()

  add(id: string, document: JobDocument): void {
    this.jobs.set(id, { id, first: document, document, revision: 0, edits: [], branchOf: null })
  }

  private job(id: string): KeptHere {
    const job = this.jobs.get(id)
    if (!job) throw new Error(`There is no job ${id}.`)
    return job
  }

  open(id: string) {
    const { revision, document, edits, branchOf } = this.job(id)
    return { id, revision, document, edits: [...edits], branchOf }
  }

  since(id: string, revision: number) {
    const job = this.job(id)
    return { revision: job.revision, edits: job.edits.filter((edit) => edit.revision > revision) }
  }

  save(id: string, base: number, edits: readonly Edit[]): KeeperAnswer {
    const job = this.job(id)
    const known = new Set(job.edits.map((edit) => edit.id))
    const fresh = new Set(edits.map((edit) => edit.id).filter((edit) => !known.has(edit)))
    const earlier = [...this.jobs.values()].find(
      ({ branchOf, edits: own }) => branchOf === id && own.some((edit) => fresh.has(edit.id)),
    )
    if (earlier) {
      const merged = mergeEdits(earlier, earlier.revision, edits)
      if (merged.status === 'refused') return merged
      this.put(earlier, merged.document, merged.made)
      return { status: 'branched', branch: earlier.id, branchName: earlier.document.name, revision: earlier.revision }
    }
    const merged = mergeEdits(job, base, edits)
    if (merged.status === 'refused') return merged
    if (merged.status === 'saved') {
      this.put(job, merged.document, merged.made)
      return { status: 'saved', base, revision: job.revision, edits: job.edits.filter(({ revision }) => revision > base) }
    }
    const branchName = `${merged.document.name} (branch)`.slice(0, 200)
    const branch: KeptHere = {
      id: `branch ${this.jobs.size} of ${id}`,
      first: job.first,
      document: { ...merged.document, name: branchName },
      revision: base + merged.made.length,
      edits: [...job.edits.filter(({ revision }) => revision <= base), ...merged.made],
      branchOf: id,
    }
    this.jobs.set(branch.id, branch)
    return { status: 'branched', branch: branch.id, branchName, revision: branch.revision }
  }

  private put(job: KeptHere, document: JobDocument, made: readonly KeptEdit[]): void {
    job.document = document
    job.revision += made.length
    job.edits.push(...made)
  }

  /** What the edits of a job make of its first document: what it must be, but for the name of a branch. */
  replayed(id: string): JobDocument {
    const { first, edits } = this.job(id)
    return applyPatches(
      first,
      edits.flatMap(({ patches }) => patches),
    )
  }
}
