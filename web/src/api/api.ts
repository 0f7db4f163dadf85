import type { Edit, ImportRule, JobDocument, KeptEdit, Machine, Material, MeshExtent, Size } from '@neotaxis/core'
import { call, json, read } from './call.ts'

export interface JobBrief {
  readonly id: string
  readonly name: string
  readonly revision: number
  readonly branchOf: string | null
  readonly updatedAt: string
  /** The box around its face, and how thick it is. */
  readonly workpiece: Size & { readonly thicknessMm: number }
  /** Why this version cannot open it; null where it can. */
  readonly trouble?: string | null
  readonly material: string
  readonly machine: string
}

export interface OpenedJob {
  readonly id: string
  readonly revision: number
  readonly branchOf: string | null
  readonly document: JobDocument
  readonly edits: readonly KeptEdit[]
}

export type SaveAnswer =
  | { readonly status: 'saved'; readonly base: number; readonly revision: number; readonly edits: readonly KeptEdit[] }
  | { readonly status: 'branched'; readonly branch: string; readonly branchName: string; readonly revision: number }
  | { readonly status: 'refused'; readonly edit: string; readonly message: string }

export interface AssetFacts {
  readonly asset: string
  readonly widthPx: number
  readonly heightPx: number
  readonly hasAlpha: boolean
  readonly pixelsPerMm?: number
  readonly mesh?: MeshExtent
  readonly drawing?: {
    readonly widthMm: number
    readonly heightMm: number
    readonly shapes: number
    readonly notices: readonly string[]
  }
  /** Of a font: what it is called. */
  readonly font?: { readonly name: string }
}

export interface Font {
  readonly asset: string
  readonly name: string
  readonly shipped: boolean
}

export interface CardFacts {
  readonly content: string
  readonly seconds: number
  readonly stop: number
  readonly ask: number
  readonly note: number
}

export const api = {
  jobs: (search: string) => read<{ jobs: JobBrief[] }>(call(`/jobs?search=${encodeURIComponent(search)}`)),
  job: (id: string) => read<OpenedJob>(call(`/jobs/${id}`)),
  editsSince: (id: string, revision: number) =>
    read<{ revision: number; edits: KeptEdit[] }>(call(`/jobs/${id}/edits?since=${revision}`)),
  saveEdits: (id: string, base: number, edits: readonly Edit[]) =>
    read<SaveAnswer>(call(`/jobs/${id}/edits`, json({ base, edits }))),
  createJob: (job: JobDocument) => read<JobBrief>(call('/jobs', json({ job }))),
  openFile: (file: Blob) =>
    read<JobBrief>(call('/jobs/file', { method: 'POST', headers: { 'Content-Type': 'application/zip' }, body: file })),
  openProgram: (file: File) =>
    read<JobBrief>(
      call(`/jobs/program?name=${encodeURIComponent(file.name.replace(/\.\w+$/, ''))}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/octet-stream' },
        body: file,
      }),
    ),
  copyJob: (id: string) => read<JobBrief>(call(`/jobs/${id}/copy`, { method: 'POST' })),
  deleteJob: (id: string) => call(`/jobs/${id}`, { method: 'DELETE' }),
  restoreJob: (id: string) => call(`/jobs/${id}/restore`, { method: 'POST' }),
  card: (id: string) => read<CardFacts>(call(`/jobs/${id}/card`)),
  bringIn: (file: Blob) =>
    read<AssetFacts>(call('/assets', { method: 'POST', headers: { 'Content-Type': 'application/octet-stream' }, body: file })),
  fonts: () => read<{ fonts: Font[] }>(call('/fonts')),
  materials: () => read<{ materials: Material[] }>(call('/materials')),
  machines: () => read<{ machines: Machine[] }>(call('/machines')),
  importRules: () => read<{ rules: ImportRule[] }>(call('/import-rules')),
  saveImportRules: (rules: readonly ImportRule[]) =>
    read<{ rules: ImportRule[] }>(
      call('/import-rules', { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ rules }) }),
    ),
}
