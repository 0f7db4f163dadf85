import { describe, expect, it } from 'vitest'
import type { JobDocument } from '../job/document/document.ts'
import { checkJob } from '../reading/check-job.ts'
import { greyPicture, sampleJob } from '../testing/sample-job.ts'
import { byRecipe } from './by-recipe.ts'

const job = sampleJob({ picture: greyPicture(10, 10, () => 0) })
const material = Object.values(job.materials)[0]

function withRecipe(change: object): JobDocument {
  const cut = material.recipes.find(({ process, machine }) => process === 'cut' && machine === job.machine.id)!
  const mine = { ...cut, id: 'slow', name: 'slow and clean', speedMmS: 7, power: 0.5, passes: 2, ...change }
  return { ...job, materials: { [material.id]: { ...material, recipes: [...material.recipes, mine] } } }
}

describe('operations by a recipe', () => {
  it('have its values where they are of its process, and keep what it says nothing of', () => {
    const made = byRecipe(withRecipe({}), 'slow')
    expect(made.operations.cut).toMatchObject({ recipe: 'slow', speedMmS: 7, power: 0.5, passes: 2 })
    expect(made.operations.engrave).toBe(job.operations.engrave)
    expect(() => checkJob(JSON.parse(JSON.stringify(made)))).not.toThrow()
  })

  it('stay as they are where it is for another machine, or unknown', () => {
    expect(byRecipe(withRecipe({ machine: 'scan-20' }), 'slow').operations.cut).toBe(job.operations.cut)
    expect(byRecipe(job, 'nothing').operations).toEqual(job.operations)
  })
})
