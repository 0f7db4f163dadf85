import {
  bringUpMachine,
  bringUpMaterial,
  bringUpRecipe,
  type Machine,
  type Material,
  type Recipe,
  withEvidence,
} from '@neotaxis/core'
import express, { Router } from 'express'
import { MachineRow, MaterialRow, RecipeRow } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import { bodyOf, on } from './endpoint.ts'
import { importRules } from './import-rules.ts'

async function materials(): Promise<Material[]> {
  const recipes = (await RecipeRow.findAll({ order: ['id'] })).map((row) => ({
    materialId: row.materialId,
    recipe: bringUpRecipe(JSON.parse(row.document)) as Recipe,
  }))
  return (await MaterialRow.findAll({ order: ['id'] })).map((row): Material => {
    const own = recipes.filter(({ materialId }) => materialId === row.id).map(({ recipe }) => recipe)
    return { ...(bringUpMaterial(JSON.parse(row.document)) as Material), recipes: own }
  })
}

/** The shop's materials with their recipes; all of the catalogue as one file. */
export function catalogueRoutes(): Router {
  const routes = Router()
  on(routes, 'materials', async (_request, response) => {
    response.json({ materials: await materials() })
  })
  on(routes, 'saveRecipe', express.json({ limit: '1mb' }), async (request, response) => {
    const recipe = bodyOf('saveRecipe', request) as Recipe
    // The page may not have heard of what others found meanwhile: evidence is added to, never taken away.
    const kept = await RecipeRow.sequelize!.transaction(async (transaction) => {
      const row = await RecipeRow.findByPk(recipe.id, { transaction, lock: transaction.LOCK.UPDATE })
      if (!row || recipe.id !== request.params.id) throw new Refusal(404, 'no-recipe', 'This recipe is not here any more.')
      const { evidence } = bringUpRecipe(JSON.parse(row.document)) as Recipe
      // What is here is newer than what the page was given of the same run.
      const all: Recipe = { ...recipe, evidence: withEvidence(recipe.evidence, evidence) }
      await row.update({ document: JSON.stringify(all) }, { transaction })
      return all
    })
    response.json({ recipe: kept })
  })
  on(routes, 'catalogue', async (_request, response) => {
    const machines = (await MachineRow.findAll({ order: ['id'] })).map(
      (row) => bringUpMachine(JSON.parse(row.document)) as Machine,
    )
    response
      .set('Content-Disposition', 'attachment; filename="catalogue.json"')
      .json({ materials: await materials(), machines, importRules: await importRules() })
  })
  return routes
}
