import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { isTried } from '../job/document/trial.ts'
import { standingOf } from '../material/evidence.ts'
import type { Recipe } from '../material/material.ts'
import { processOf } from '../process/table.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'
import { TOLD_SETTINGS, type ToldSettings } from './told-settings.ts'

/** Operations that left a recipe which is proven: what it proved says nothing of them any more. */
export function departed(job: JobDocument): Found[] {
  return burnOrder(job).flatMap((id, place): Found[] => {
    const operation = job.operations[id]
    const recipe = operationMaterial(job, operation).recipes.find((one) => one.id === operation.recipe)
    const at = atOperation(job, 'departed', id)
    if (!at || !recipe || isTried(job, id) || standingOf(recipe).kind !== 'proven') return []
    const names = processOf(operation).departs(operation, recipe)
    if (names.length === 0) return []
    const told = names.map((name) => {
      const words = TOLD_SETTINGS.find(([each]) => each === name)
      if (!words) return name === 'air' ? `air ${operation.air ? 'on' : 'off'}` : name
      const [key, word, tell] = words
      const [own, proven] = [operation as ToldSettings, recipe as ToldSettings]
      return `${word} ${tell(own[key]!)}, not ${tell(proven[key]!)}`
    })
    return [
      {
        ...at,
        severity: 'note',
        message: `${place + 1} left “${recipe.name}”, which is proven: ${told.join('; ')}.`,
        fixes: [
          {
            label: 'Back to the recipe',
            patches: names.map((name) => ({ path: ['operations', id, name], value: recipe[name as keyof Recipe] })),
          },
        ],
      },
    ]
  })
}
