import type { JobDocument } from '../job/document/document.ts'
import type { Material } from '../material/material.ts'
import { onMaterial } from './on-material.ts'

/** The longest name of a job. */
const MOST_LETTERS = 200

/** A job of its own that tries another one out on a cheaper material: all lies as it will lie, and no piece of stock is taken for it. */
export function proofOf(job: JobDocument, material: Material): JobDocument {
  const { limits: _, lookedAt: __, ...kept } = onMaterial(job, material)
  const workpieces = Object.fromEntries(Object.entries(kept.workpieces).map(([id, { stock: ___, ...piece }]) => [id, piece]))
  return { ...kept, workpieces, name: `proof of ${job.name}`.slice(0, MOST_LETTERS), meant: {} }
}
