import type { JobDocument, Workpiece } from '@neotaxis/core'
import type { Job } from '../models/index.ts'

/** What lists tell of a job: kept beside its document, so that no list reads documents. */
export interface JobBrief {
  readonly workpiece: Workpiece
  readonly material: string
  readonly machine: string
}

/** A document as it stands in the table of jobs. */
export function jobColumns(document: JobDocument): { name: string; document: string; brief: string } {
  const { name, workpiece, material, machine } = document
  const brief: JobBrief = { workpiece, material: material.name, machine: machine.name }
  return { name, document: JSON.stringify(document), brief: JSON.stringify(brief) }
}

/** A job as the board lists it. */
export interface JobListed extends JobBrief {
  readonly id: string
  readonly name: string
  readonly revision: number
  readonly branchOf: string | null
  readonly updatedAt: string
}

export const listed = (row: Job): JobListed => ({
  id: row.id,
  name: row.name,
  revision: row.revision,
  branchOf: row.branchOf,
  updatedAt: row.updatedAt.toISOString(),
  ...(JSON.parse(row.brief) as JobBrief),
})

/** What `listed` reads: no documents. */
export const LISTED = ['id', 'name', 'revision', 'branchOf', 'updatedAt', 'brief']
