import type { JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { standingOf } from '../material/evidence.ts'
import { type Material, type Recipe, recipeFor } from '../material/material.ts'
import { processOf } from '../process/table.ts'

const plainRecipe = ({ evidence: _, ...recipe }: Recipe): string => JSON.stringify(recipe, Object.keys(recipe).sort())

/** Whether the shop knows something of a material that the job's own snapshot does not: what was measured, settings, or how proven they are. */
export function knowsMore(shop: Material, snapshot: Material, machine: string): boolean {
  if (shop.id !== snapshot.id) return false
  if (shop.version > snapshot.version) return true
  const own = new Map(snapshot.recipes.map((recipe) => [recipe.id, recipe]))
  return shop.recipes.some((recipe) => {
    if (recipe.machine !== machine) return false
    const before = own.get(recipe.id)
    return !before || plainRecipe(before) !== plainRecipe(recipe) || standingOf(before).kind !== standingOf(recipe).kind
  })
}

/**
 * The job with what the shop knows of a material now. Operations that followed its recipe follow it still, with its values of today;
 * those without a recipe follow the one that was found since; what departed keeps its settings.
 */
export function withNewer(job: JobDocument, shop: Material): JobDocument {
  const operations = Object.fromEntries(
    Object.entries(job.operations).map(([id, operation]): [string, Operation] => {
      const old = operationMaterial(job, operation)
      const process = processOf(operation)
      if (old.id !== shop.id || process.silent?.(operation)) return [id, operation]
      const recipe = old.recipes.find((each) => each.id === operation.recipe)
      if (recipe && process.departs(operation, recipe).length > 0) return [id, operation]
      const known =
        shop.recipes.some((each) => each.id === operation.recipe) || recipeFor(shop, recipeName(operation), job.machine)
      return [id, known ? ({ ...process.onMaterial(operation, shop, job.machine), keptFrom: undefined } as Operation) : operation]
    }),
  )
  return { ...job, operations, materials: { ...job.materials, [shop.id]: shop } }
}

/** The process as recipes name it. */
const recipeName = ({ process }: Operation): Recipe['process'] => process as Recipe['process']
