import type { JobBrief } from '@neotaxis/contract'
import { faceSize, type JobDocument, mainPiece, materialOf } from '@neotaxis/core'
import type { Job } from '../models/index.ts'

/** What lists tell of a job: kept beside its document, so that no list reads documents. */
export type JobColumns = Pick<JobBrief, 'workpiece' | 'material' | 'machine'>

/** A document as it stands in the table of jobs. */
export function jobColumns(document: JobDocument): { name: string; document: string; brief: string } {
  return { name: document.name, document: JSON.stringify(document), brief: JSON.stringify(briefOf(document)) }
}

export function briefOf(document: JobDocument): JobColumns {
  const piece = mainPiece(document)
  const { widthMm, heightMm } = faceSize(piece)
  return {
    workpiece: { widthMm, heightMm, thicknessMm: piece.thicknessMm },
    material: materialOf(document).name,
    machine: document.machine.name,
  }
}

export const listed = (row: Job): JobBrief => ({
  id: row.id,
  name: row.name,
  revision: row.revision,
  branchOf: row.branchOf,
  updatedAt: row.updatedAt.toISOString(),
  trouble: row.trouble,
  ...(JSON.parse(row.brief) as JobColumns),
})

/** What `listed` reads: no documents. */
export const LISTED = ['id', 'name', 'revision', 'branchOf', 'updatedAt', 'brief', 'trouble']
