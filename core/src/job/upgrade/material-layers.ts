import { isRecord } from './stored.ts'

/** A recipe of version 4 as it is now: how often it was proven is the first of its evidence. */
export function bringUpRecipe(value: unknown): unknown {
  if (!isRecord(value) || !('proof' in value)) return value
  const { proof, ...recipe } = value
  if (!isRecord(proof)) return { ...recipe, evidence: [] }
  if (proof.kind === 'borrowed') return { ...recipe, borrowedFrom: proof.from, evidence: [] }
  const { power, speedMmS, passes, intervalMm, air } = recipe
  const set = { power, speedMmS, passes, ...(intervalMm === undefined ? {} : { intervalMm }), air }
  return {
    ...recipe,
    evidence: proof.kind === 'proven' && proof.times !== 0 ? [{ kind: 'earlier', times: proof.times, set }] : [],
  }
}

/** A material of version 4 as it is now: of one layer. What is none comes back as it is, for the schema to refuse. */
export function bringUpMaterial(value: unknown): unknown {
  if (!isRecord(value)) return value
  const { markDose, curves, ...material } = value
  const recipes = Array.isArray(value.recipes) ? value.recipes.map(bringUpRecipe) : value.recipes
  if ('layers' in value) return { ...value, recipes }
  const layer = { name: value.name, thicknessMm: value.thicknessMm, markDose, ...(curves === undefined ? {} : { curves }) }
  return { ...material, layers: [layer], recipes }
}
