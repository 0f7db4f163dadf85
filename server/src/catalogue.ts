import { MACHINES, MATERIALS } from '@neotaxis/core'
import { MachineRow, MaterialRow, RecipeRow } from './models/index.ts'

/** Puts the shipped materials, recipes and machines into the database where they are missing; what the shop changed stays. */
export async function fillCatalogue(): Promise<void> {
  for (const machine of MACHINES)
    await MachineRow.findOrCreate({
      where: { id: machine.id },
      defaults: { id: machine.id, version: machine.version, document: JSON.stringify(machine) },
    })
  for (const { recipes, ...material } of MATERIALS) {
    await MaterialRow.findOrCreate({
      where: { id: material.id },
      defaults: { id: material.id, version: material.version, document: JSON.stringify({ ...material, recipes: [] }) },
    })
    for (const recipe of recipes)
      await RecipeRow.findOrCreate({
        where: { id: recipe.id },
        defaults: { id: recipe.id, materialId: material.id, document: JSON.stringify(recipe) },
      })
  }
}
