import type { Machine } from '../../machine/machine.ts'
import { measuredCurve } from '../../material/answer.ts'
import { turnOnPower } from '../../material/level-powers.ts'
import { type Material, recipeFor } from '../../material/material.ts'
import { picture } from '../picture/picture.ts'
import { rowProcess } from '../picture/rows.ts'
import type { Process } from '../process.ts'
import { commonOf, followedIfKnown } from '../recipe.ts'
import type { ReliefOperation } from './settings.ts'

export type { ReliefOperation } from './settings.ts'

/** Weakest marks from where the material starts to mark, even in depth where depth was measured. */
function fromRecipe(of: readonly string[], material: Material, machine: Machine): ReliefOperation {
  const recipe = recipeFor(material, 'relief', machine)
  const base = picture.fromRecipe(of, material, machine)
  const { power, speedMmS, passes, intervalMm } = { ...base, ...recipe }
  const burn = { ...base, power, speedMmS, passes, intervalMm: intervalMm ?? base.intervalMm }
  const measured = measuredCurve(material, 'depth', machine.id)
  const { recipe: _, ...rest } = burn
  return {
    ...rest,
    process: 'relief',
    ...(recipe ? commonOf(recipe) : burn.recipe ? { recipe: burn.recipe } : {}),
    minPower: turnOnPower(material, machine, burn),
    evenIn: measured ? 'depth' : 'power',
  }
}

/** Carves: grey is power from the material's onset up, so that depth follows it. */
export const relief: Process<ReliefOperation> = {
  ...rowProcess,
  name: 'relief',
  // Programs of the first versions called it so: the same job gives the same bytes.
  inProgram: 'picture',
  form: 'heights',
  turn: 1,
  fromRecipe,
  onMaterial: (operation, material, machine) =>
    followedIfKnown(operation, 'relief', material, machine, fromRecipe, ['intervalMm']),
}
