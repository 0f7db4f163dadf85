import type { BroughtBack, CurveAdded, MaterialSaved, RecipesBrought } from '@neotaxis/contract'
import { bringUpMachine, type Machine, type Material, type Recipe } from '@neotaxis/core'
import express, { Router } from 'express'
import { literal } from 'sequelize'
import { identityOf } from '../access/identity.ts'
import {
  addCurve,
  bringBefore,
  bringRecipes,
  readMaterial,
  readRecipe,
  removeMaterial,
  removeRecipe,
  saveMaterial,
  saveRecipe,
} from '../catalogue-changes.ts'
import { CatalogueChangeRow } from '../models/catalogue-changes.ts'
import { MachineRow, MaterialRow, RecipeRow } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import { bodyOf, idIn, on } from './endpoint.ts'
import { importRules } from './import-rules.ts'

async function materials(): Promise<Material[]> {
  const recipes = (await RecipeRow.findAll({ order: ['id'] })).map((row) => ({
    materialId: row.materialId,
    recipe: readRecipe(row),
  }))
  return (await MaterialRow.findAll({ order: ['id'] })).map((row): Material => {
    const own = recipes.filter(({ materialId }) => materialId === row.id).map(({ recipe }) => recipe)
    return { ...readMaterial(row), recipes: own }
  })
}

/** A table of recipes with their evidence is at most so large on the way here. */
const json = express.json({ limit: '4mb' })

const by = (request: Parameters<typeof identityOf>[0]): string => identityOf(request)?.name ?? ''

/** The shop's materials with their recipes and what was measured; all of the catalogue as one file. */
export function catalogueRoutes(): Router {
  const routes = Router()
  on(routes, 'materials', async (_request, response) => {
    response.json({ materials: await materials() })
  })
  on(routes, 'saveMaterial', json, async (request, response) => {
    const { material, base } = bodyOf('saveMaterial', request) as MaterialSaved
    if (material.id !== idIn(request)) throw new Refusal(400, 'bad-request', 'This is another material.')
    response.json({ material: await saveMaterial(material, base, by(request)) })
  })
  on(routes, 'removeMaterial', async (request, response) => {
    await removeMaterial(idIn(request), by(request))
    response.status(204).end()
  })
  on(routes, 'addCurve', json, async (request, response) => {
    const { curve, layer } = bodyOf('addCurve', request) as CurveAdded
    response.status(201).json({ material: await addCurve(idIn(request), curve, layer, by(request)) })
  })
  on(routes, 'materialHistory', async (request, response) => {
    const rows = await CatalogueChangeRow.findAll({
      where: { materialId: idIn(request) },
      order: [['number', 'DESC']],
      limit: 200,
      // What was before may be long: here only whether it is there.
      attributes: { exclude: ['before'], include: [[literal('`before` IS NOT NULL'), 'goesBack']] },
    })
    const changes = rows.map((row) => ({
      number: row.number,
      at: new Date(row.at).toISOString(),
      by: row.by,
      what: row.what,
      recipe: row.recipeId,
      goesBack: Boolean(row.get('goesBack')),
    }))
    response.json({ changes })
  })
  on(routes, 'bringBefore', json, async (request, response) => {
    const { number } = bodyOf('bringBefore', request) as BroughtBack
    response.json({ material: await bringBefore(idIn(request), number, by(request)) })
  })
  on(routes, 'bringRecipes', json, async (request, response) => {
    const { recipes } = bodyOf('bringRecipes', request) as RecipesBrought
    await bringRecipes(recipes, by(request))
    response.status(204).end()
  })
  on(routes, 'saveRecipe', json, async (request, response) => {
    const recipe = bodyOf('saveRecipe', request) as Recipe
    if (recipe.id !== request.params.id) throw new Refusal(404, 'no-recipe', 'This recipe is not here any more.')
    response.json({ recipe: await saveRecipe(recipe, by(request)) })
  })
  on(routes, 'removeRecipe', async (request, response) => {
    await removeRecipe(idIn(request), by(request))
    response.status(204).end()
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
