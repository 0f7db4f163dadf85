import type { Edit, JobDocument, KeptEdit, Size } from '@neotaxis/core'
import Joi from 'joi'
import { count, document, id, moment, pieceSize, text, whole } from './words.ts'

/** A job as the board lists it. */
export interface JobBrief {
  readonly id: string
  readonly name: string
  readonly revision: number
  readonly branchOf: string | null
  readonly updatedAt: string
  /** The box around its face, and how thick it is. */
  readonly workpiece: Size & { readonly thicknessMm: number }
  /** Why this version cannot open it; null where it can. */
  readonly trouble: string | null
  readonly material: string
  readonly machine: string
  /** When it was last run to its end, where it was. */
  readonly ranAt?: string
  /** Its card, where it is made and known already. */
  readonly card?: CardFacts
}

export const cardFacts = whole({ content: Joi.string(), seconds: Joi.number().min(0), stop: count, ask: count, note: count })

export const jobBrief = whole({
  id,
  name: text,
  revision: count,
  branchOf: id.allow(null),
  updatedAt: moment,
  workpiece: pieceSize,
  trouble: text.allow(null),
  material: text,
  machine: text,
}).keys({ card: cardFacts.optional(), ranAt: moment.optional() })

/** A job with its newest document and its latest edits. */
export interface OpenedJob {
  readonly id: string
  readonly revision: number
  readonly branchOf: string | null
  readonly document: JobDocument
  readonly edits: readonly KeptEdit[]
}

const patches = Joi.array()
  .items(Joi.object({ path: Joi.array().items(Joi.string().max(120)).min(1).max(12).required(), value: Joi.any() }))
  .max(5000)
  .required()
const named = { id: id.required(), name: Joi.string().min(1).max(200).required(), patches }
const edit = Joi.alternatives(
  Joi.object<Edit>({ ...named, kind: Joi.valid('edit').required() }),
  Joi.object<Edit>({ ...named, kind: Joi.valid('undo', 'redo').required(), of: id.required() }),
)
const keptEdit = Joi.object({ id, name: Joi.string(), kind: Joi.valid('edit', 'undo', 'redo') }).unknown(true)

export const openedJob = whole({ id, revision: count, branchOf: id.allow(null), document, edits: Joi.array().items(keptEdit) })

/** Edits that a page made on a revision. */
export interface EditsSent {
  readonly base: number
  readonly edits: Edit[]
}

export const editsSent = Joi.object<EditsSent>({
  base: count.required(),
  edits: Joi.array().items(edit).min(1).max(2000).required(),
})

export interface EditsSince {
  readonly revision: number
  readonly edits: readonly KeptEdit[]
}

export const editsSince = whole({ revision: count, edits: Joi.array().items(keptEdit) })

/** What became of edits: taken, kept as a branch because others touched the same, or refused with the reason. */
export type SaveAnswer =
  | { readonly status: 'saved'; readonly base: number; readonly revision: number; readonly edits: readonly KeptEdit[] }
  | { readonly status: 'branched'; readonly branch: string; readonly branchName: string; readonly revision: number }
  | { readonly status: 'refused'; readonly edit: string; readonly message: string }

export const saveAnswer = Joi.alternatives(
  whole({ status: Joi.valid('saved'), base: count, revision: count, edits: Joi.array().items(keptEdit) }),
  whole({ status: Joi.valid('branched'), branch: id, branchName: Joi.string(), revision: count }),
  whole({ status: Joi.valid('refused'), edit: id, message: Joi.string() }),
)

/** What the board shows of a job beside its picture. */
export interface CardFacts {
  readonly content: string
  readonly seconds: number
  readonly stop: number
  readonly ask: number
  readonly note: number
}
