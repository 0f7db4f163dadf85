import type { Machine, Material, Recipe } from '@neotaxis/core'
import { Router } from 'express'
import { MachineRow, MaterialRow, RecipeRow } from '../models/index.ts'

/** The shop's materials with their recipes, and its machines. */
export function catalogueRoutes(): Router {
  const routes = Router()
  routes.get('/materials', async (_request, response) => {
    const recipes = (await RecipeRow.findAll({ order: ['id'] })).map((row) => ({
      materialId: row.materialId,
      recipe: JSON.parse(row.document) as Recipe,
    }))
    const materials = (await MaterialRow.findAll({ order: ['id'] })).map((row): Material => {
      const own = recipes.filter(({ materialId }) => materialId === row.id).map(({ recipe }) => recipe)
      return { ...(JSON.parse(row.document) as Material), recipes: own }
    })
    response.json({ materials })
  })
  routes.get('/machines', async (_request, response) => {
    response.json({ machines: (await MachineRow.findAll({ order: ['id'] })).map((row) => JSON.parse(row.document) as Machine) })
  })
  return routes
}
