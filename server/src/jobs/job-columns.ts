import { faceSize, type JobDocument, mainPiece, materialOf, type Size } from '@neotaxis/core'
import type { Job } from '../models/index.ts'

/** What lists tell of a job: kept beside its document, so that no list reads documents. */
export interface JobBrief {
  /** The box around its face, and how thick it is. */
  readonly workpiece: Size & { readonly thicknessMm: number }
  readonly material: string
  readonly machine: string
}

/** A document as it stands in the table of jobs. */
export function jobColumns(document: JobDocument): { name: string; document: string; brief: string } {
  return { name: document.name, document: JSON.stringify(document), brief: JSON.stringify(briefOf(document)) }
}

export function briefOf(document: JobDocument): JobBrief {
  const piece = mainPiece(document)
  const { widthMm, heightMm } = faceSize(piece)
  return {
    workpiece: { widthMm, heightMm, thicknessMm: piece.thicknessMm },
    material: materialOf(document).name,
    machine: document.machine.name,
  }
}

/** A job as the board lists it. */
export interface JobListed extends JobBrief {
  readonly id: string
  readonly name: string
  readonly revision: number
  readonly branchOf: string | null
  readonly updatedAt: string
  /** Why it cannot be opened by this version; null where it can. */
  readonly trouble: string | null
}

export const listed = (row: Job): JobListed => ({
  id: row.id,
  name: row.name,
  revision: row.revision,
  branchOf: row.branchOf,
  updatedAt: row.updatedAt.toISOString(),
  trouble: row.trouble,
  ...(JSON.parse(row.brief) as JobBrief),
})

/** What `listed` reads: no documents. */
export const LISTED = ['id', 'name', 'revision', 'branchOf', 'updatedAt', 'brief', 'trouble']
