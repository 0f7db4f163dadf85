import type { Machine } from '../../machine/machine.ts'
import { type Material, recipeFor } from '../../material/material.ts'
import type { Process } from '../process.ts'
import { commonOf, followedIfKnown, guessed } from '../recipe.ts'
import { rowProcess } from './rows.ts'
import type { PictureOperation } from './settings.ts'

export { burnsRows, MAX_DOTS } from './rows.ts'
export type { PictureOperation, RowSettings } from './settings.ts'

function fromRecipe(of: readonly string[], material: Material, machine: Machine): PictureOperation {
  const recipe = recipeFor(material, 'picture', machine) ?? guessed('picture', machine)
  return {
    process: 'picture',
    of,
    ...commonOf(recipe),
    intervalMm: recipe.intervalMm ?? 0.127,
    bothWays: true,
    minPower: 0,
    evenIn: 'power',
    passPowers: [],
  }
}

/** Burns a prepared picture dot by dot. */
export const picture: Process<PictureOperation> = {
  ...rowProcess,
  name: 'picture',
  inProgram: 'picture',
  form: 'dots',
  turn: 1,
  fromRecipe,
  onMaterial: (operation, material, machine) =>
    followedIfKnown(operation, 'picture', material, machine, fromRecipe, ['intervalMm']),
}
