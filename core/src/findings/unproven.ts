import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { fittedLens } from '../machine/machine.ts'
import { standingOf } from '../material/evidence.ts'
import type { Recipe } from '../material/material.ts'
import { processOf } from '../process/table.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'

const recipeOf = (job: JobDocument, id: string): Recipe | undefined =>
  operationMaterial(job, job.operations[id]).recipes.find((one) => one.id === job.operations[id].recipe)

/** Recipes that nobody here has proven, or that failed lately; what is tried on a card is not asked about. */
export function unproven(job: JobDocument): Found[] {
  if (job.trial) return []
  return burnOrder(job).flatMap((id, place): Found[] => {
    const operation = job.operations[id]
    const recipe = recipeOf(job, id)
    const at = atOperation(job, 'unproven', id)
    // Settings without a recipe are told where they are made, and so is what left its recipe.
    if (!at || !recipe || processOf(operation).departs(operation, recipe).length > 0) return []
    const standing = standingOf(recipe)
    const { lens } = job.machine
    if (recipe.lens !== undefined && recipe.lens !== lens)
      return [
        {
          ...at,
          severity: 'note',
          message: `“${recipe.name}”, which ${place + 1} follows, was found with another lens than the ${fittedLens(job.machine).name} that is fitted: try it on scrap before good material.`,
          fixes: [],
        },
      ]
    if (standing.kind === 'doubtful')
      return [
        {
          ...at,
          severity: 'ask',
          message: `“${recipe.name}”, which ${place + 1} follows, failed ${standing.failed} times since it last worked: try it on scrap before good material.`,
          fixes: [],
        },
      ]
    if (standing.kind !== 'borrowed') return []
    const off = standing.mayBeOff === undefined ? '' : `, and may be ${Math.round(100 * standing.mayBeOff)} % off`
    return [
      {
        ...at,
        severity: 'note',
        message: `${place + 1} follows a recipe that is borrowed from ${standing.from}${off}: try it on scrap before good material.`,
        fixes: [],
      },
    ]
  })
}
