import type { JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { isFor } from '../material/material.ts'
import { processOf } from '../process/table.ts'

/**
 * The job with its operations as a recipe of their material says: those of its process, on its machine; what the recipe says nothing of
 * stays.
 * @param recipeId nothing is changed where the material has no such recipe
 */
export function byRecipe(job: JobDocument, recipeId: string): JobDocument {
  const operations = Object.fromEntries(
    Object.entries(job.operations).map(([id, operation]): [string, Operation] => {
      const recipe = operationMaterial(job, operation).recipes.find((each) => each.id === recipeId)
      if (!recipe || !isFor(recipe, operation.process, job.machine.id)) return [id, operation]
      const followed = { ...operation, recipe: recipeId, keptFrom: undefined } as Operation
      const names = processOf(followed).departs(followed, recipe)
      return [id, { ...followed, ...Object.fromEntries(names.map((name) => [name, recipe[name as keyof typeof recipe]])) }]
    }),
  )
  return { ...job, operations }
}
