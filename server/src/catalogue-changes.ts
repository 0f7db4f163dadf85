import {
  bringUpMaterial,
  bringUpRecipe,
  type Material,
  type MeasuredCurve,
  type Recipe,
  standingOf,
  withEvidence,
} from '@neotaxis/core'
import type { Transaction } from 'sequelize'
import { CatalogueChangeRow } from './models/catalogue-changes.ts'
import { MaterialRow, RecipeRow } from './models/index.ts'
import { Refusal } from './refusal.ts'

const gone = (): Refusal => new Refusal(404, 'no-material', 'This material is not in the shop any more.')

/** Earlier curves of a quantity are kept, so many of them. */
const MOST_CURVES = 50

export const readMaterial = (row: MaterialRow): Material => bringUpMaterial(JSON.parse(row.document)) as Material
export const readRecipe = (row: RecipeRow): Recipe => bringUpRecipe(JSON.parse(row.document)) as Recipe

/** Writes down what was changed, in the same turn as the change itself. */
async function note(
  transaction: Transaction,
  change: { materialId: string; recipeId?: string; by: string; what: string; before: string | null },
): Promise<void> {
  await CatalogueChangeRow.create({ recipeId: null, ...change, what: change.what.slice(0, 300), at: new Date() }, { transaction })
}

const inTurn = <T>(change: (transaction: Transaction) => Promise<T>): Promise<T> => MaterialRow.sequelize!.transaction(change)

/** A material with its recipes. */
async function whole(id: string, transaction: Transaction): Promise<Material> {
  const row = await MaterialRow.findByPk(id, { transaction })
  if (!row) throw gone()
  const recipes = await RecipeRow.findAll({ where: { materialId: id }, order: ['id'], transaction })
  return { ...readMaterial(row), recipes: recipes.map(readRecipe) }
}

/** Keeps a new or changed material; its recipes stay as they are. @param base the version that the change is based on; `null`: it is new @throws Refusal */
export const saveMaterial = (material: Material, base: number | null, by: string): Promise<Material> =>
  inTurn(async (transaction) => {
    const { id, name } = material
    const row = await MaterialRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE })
    if (base === null ? row : !row)
      throw base === null ? new Refusal(409, 'there-already', `There is a material “${name}” by this id already.`) : gone()
    if (row && row.version !== base)
      throw new Refusal(409, 'changed-since', `“${name}” was changed by somebody else meanwhile: look at it again.`)
    const kept = { ...material, version: (row?.version ?? 0) + 1, recipes: [] }
    const document = JSON.stringify(kept)
    await note(transaction, { materialId: id, by, what: row ? 'changed' : 'put into the shop', before: row?.document ?? null })
    if (row) await row.update({ version: kept.version, document }, { transaction })
    else await MaterialRow.create({ id, version: kept.version, document }, { transaction })
    return whole(id, transaction)
  })

/** Takes a material out of the shop, with its recipes; jobs that carry it keep it. @throws Refusal */
export const removeMaterial = (id: string, by: string): Promise<void> =>
  inTurn(async (transaction) => {
    const before = await whole(id, transaction)
    if ((await MaterialRow.count({ transaction })) <= 1) throw new Refusal(409, 'last', 'The last material stays: jobs need one.')
    await RecipeRow.destroy({ where: { materialId: id }, transaction })
    await MaterialRow.destroy({ where: { id }, transaction })
    await note(transaction, { materialId: id, by, what: 'taken out of the shop', before: JSON.stringify(before) })
  })

/** Puts a measured curve to a layer, in the place of what was measured there of the same on the same machine. @throws Refusal */
export const addCurve = (id: string, curve: MeasuredCurve, layer: number, by: string): Promise<Material> =>
  inTurn(async (transaction) => {
    const row = await MaterialRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE })
    if (!row) throw gone()
    const material = readMaterial(row)
    if (!material.layers[layer]) throw new Refusal(400, 'no-layer', `“${material.name}” has no such layer.`)
    const layers = material.layers.map((each, i) => {
      if (i !== layer) return each
      const isOlder = (one: MeasuredCurve): boolean =>
        one.quantity === curve.quantity && one.conditions.machine === curve.conditions.machine
      return { ...each, curves: [curve, ...(each.curves ?? []).filter((one) => !isOlder(one))].slice(0, MOST_CURVES) }
    })
    const version = row.version + 1
    const { untried: _, ...tried } = material
    await note(transaction, {
      materialId: id,
      by,
      what: `${curve.quantity} measured, ${curve.points.length} points`,
      before: row.document,
    })
    await row.update({ version, document: JSON.stringify({ ...tried, layers, version }) }, { transaction })
    return whole(id, transaction)
  })

/** Changes a recipe; evidence is added to, never taken away. @throws Refusal */
export const saveRecipe = (recipe: Recipe, by: string): Promise<Recipe> =>
  inTurn(async (transaction) => {
    const row = await RecipeRow.findByPk(recipe.id, { transaction, lock: transaction.LOCK.UPDATE })
    if (!row) throw new Refusal(404, 'no-recipe', 'This recipe is not here any more.')
    // The page may not have heard of what others found meanwhile. What is here is newer than what the page was given of the same run.
    const all: Recipe = { ...recipe, evidence: withEvidence(recipe.evidence, readRecipe(row).evidence) }
    await note(transaction, {
      materialId: row.materialId,
      recipeId: row.id,
      by,
      what: changeWords(readRecipe(row), all),
      before: row.document,
    })
    await row.update({ document: JSON.stringify(all) }, { transaction })
    return all
  })

/** Puts recipes to their materials; one that has the id of another takes its place, with the evidence of both. @throws Refusal */
export const bringRecipes = (
  brought: readonly { readonly material: string; readonly recipe: Recipe }[],
  by: string,
): Promise<void> =>
  inTurn(async (transaction) => {
    for (const { material, recipe } of brought) {
      if (!(await MaterialRow.findByPk(material, { transaction }))) throw gone()
      const row = await RecipeRow.findByPk(recipe.id, { transaction, lock: transaction.LOCK.UPDATE })
      if (row && row.materialId !== material)
        throw new Refusal(409, 'there-already', `“${recipe.name}” has the id of a recipe of another material.`)
      const before = row && readRecipe(row)
      const all: Recipe = before ? { ...recipe, evidence: withEvidence(recipe.evidence, before.evidence) } : recipe
      const document = JSON.stringify(all)
      if (row) await row.update({ document }, { transaction })
      else await RecipeRow.create({ id: recipe.id, materialId: material, document }, { transaction })
      const what = before ? changeWords(before, all) : `“${recipe.name}” is new, ${standingOf(recipe).kind}`
      await note(transaction, {
        materialId: material,
        recipeId: recipe.id,
        by,
        what,
        before: before ? JSON.stringify(before) : null,
      })
    }
  })

/**
 * Brings back how something was before a change: a material's own facts, one of its recipes, or all of what was taken out. What was
 * found about a recipe since stays with it; this is a change of its own, which can be taken back the same way. @throws Refusal
 */
export const bringBefore = (id: string, number: number, by: string): Promise<Material> =>
  inTurn(async (transaction) => {
    const change = await CatalogueChangeRow.findOne({ where: { materialId: id, number }, transaction })
    if (!change) throw new Refusal(404, 'no-change', 'This change is not written down here.')
    if (change.before === null) throw new Refusal(409, 'nothing-before', 'There was nothing before this change.')
    const row = await MaterialRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE })
    const what = (name: string): string => `“${name}” as it was before “${change.what}”`
    if (change.recipeId === null) {
      const { recipes, ...before } = bringUpMaterial(JSON.parse(change.before)) as Material
      const version = Math.max(row?.version ?? 0, before.version) + 1
      await note(transaction, { materialId: id, by, what: what(before.name), before: row?.document ?? null })
      const document = JSON.stringify({ ...before, version, recipes: [] })
      if (row) await row.update({ version, document }, { transaction })
      else await MaterialRow.create({ id, version, document }, { transaction })
      if (!row) for (const each of recipes) await putRecipe(transaction, id, each)
    } else {
      if (!row) throw gone()
      const before = bringUpRecipe(JSON.parse(change.before)) as Recipe
      const now = await RecipeRow.findByPk(before.id, { transaction, lock: transaction.LOCK.UPDATE })
      await note(transaction, { materialId: id, recipeId: before.id, by, what: what(before.name), before: now?.document ?? null })
      await putRecipe(transaction, id, before)
    }
    return whole(id, transaction)
  })

/** A recipe in its place, with what was found about it meanwhile. */
async function putRecipe(transaction: Transaction, materialId: string, recipe: Recipe): Promise<void> {
  const row = await RecipeRow.findByPk(recipe.id, { transaction, lock: transaction.LOCK.UPDATE })
  const all = row ? { ...recipe, evidence: withEvidence(recipe.evidence, readRecipe(row).evidence) } : recipe
  if (row) await row.update({ document: JSON.stringify(all) }, { transaction })
  else await RecipeRow.create({ id: recipe.id, materialId, document: JSON.stringify(all) }, { transaction })
}

/** Takes a recipe away. @throws Refusal */
export const removeRecipe = (id: string, by: string): Promise<void> =>
  inTurn(async (transaction) => {
    const row = await RecipeRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE })
    if (!row) throw new Refusal(404, 'no-recipe', 'This recipe is not here any more.')
    const { name } = readRecipe(row)
    await note(transaction, {
      materialId: row.materialId,
      recipeId: id,
      by,
      what: `“${name}” was taken away`,
      before: row.document,
    })
    await row.destroy({ transaction })
  })

const VALUES = [
  ['power', (v: number) => `${Number((100 * v).toFixed(1))} %`],
  ['speedMmS', (v: number) => `${v} mm/s`],
  ['passes', (v: number) => `${v} passes`],
  ['intervalMm', (v: number) => `${v} mm apart`],
  ['kerfMm', (v: number) => `kerf ${v} mm`],
] as const

/** What differs between two states of a recipe, in words. */
function changeWords(before: Recipe, after: Recipe): string {
  const changed = VALUES.flatMap(([name, tell]) => {
    const [a, b] = [before[name], after[name]]
    return a === b || b === undefined ? [] : [a === undefined ? tell(b) : `${tell(a)} → ${tell(b)}`]
  })
  const more = after.evidence.length - before.evidence.length
  const told = more > 0 ? [`${more} more in its evidence`] : []
  const other = before.name !== after.name ? [`is called “${after.name}” now`] : []
  const all = [...changed, ...other, ...told]
  return `“${before.name}”: ${all.length > 0 ? all.join(', ') : 'kept again'}`
}
