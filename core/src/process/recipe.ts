import type { OperationBase } from '../job/document/operation.ts'
import type { Machine } from '../machine/machine.ts'
import { type Material, type Recipe, recipeFor } from '../material/material.ts'

/** A setting for a process nobody has tried yet on this material and machine. */
export const guessed = (process: Recipe['process'], machine: Machine): Recipe => ({
  id: 'guessed',
  process,
  name: 'not tried yet',
  machine: machine.id,
  power: 0.2,
  speedMmS: process === 'cut' ? 10 : Math.min(200, machine.axes.x.speedMmS),
  passes: 1,
  intervalMm: 0.127,
  kerfMm: 0.15,
  air: process === 'cut' && machine.hasAir,
  evidence: [],
})

/** What an operation takes from a recipe, whatever its process is. */
export const commonOf = (
  recipe: Recipe,
): Pick<OperationBase, 'power' | 'speedMmS' | 'passes' | 'air' | 'recipe' | 'prepared' | 'pulseHz' | 'pulseNs'> => {
  const { id, power, speedMmS, passes, air, prepared, pulseHz, pulseNs } = recipe
  return {
    ...(id === 'guessed' ? {} : { recipe: id }),
    ...(prepared === undefined ? {} : { prepared }),
    ...(pulseHz === undefined ? {} : { pulseHz }),
    ...(pulseNs === undefined ? {} : { pulseNs }),
    power,
    speedMmS,
    passes,
    air,
  }
}

/** Names of the values in which settings differ from a recipe that says them. */
export function departures<S extends object>(settings: S, recipe: Recipe, names: readonly (keyof S & keyof Recipe)[]): string[] {
  return names.filter((name) => recipe[name] !== undefined && (settings[name] as unknown) !== recipe[name])
}

/**
 * An operation with the values of a recipe for another material or machine; without one its settings stay, and follow none.
 * @param made by that recipe, or as good as can be worked out @param names of its own settings that a recipe says
 */
export function followed<S extends OperationBase>(operation: S, made: S, names: readonly (keyof S)[] = []): S {
  const { power, speedMmS, passes, air, recipe, prepared, pulseHz, pulseNs } = made
  const own = Object.fromEntries(names.map((name) => [name, made[name]]))
  const pulses = { ...(pulseHz !== undefined && { pulseHz }), ...(pulseNs !== undefined && { pulseNs }) }
  return { ...operation, ...own, ...pulses, power, speedMmS, passes, air, recipe, prepared }
}

/** The same where a recipe says so, else what it was. */
export function followedIfKnown<S extends OperationBase>(
  operation: S,
  process: Recipe['process'],
  material: Material,
  machine: Machine,
  make: (of: readonly string[], material: Material, machine: Machine) => S,
  names: readonly (keyof S & keyof Recipe)[],
): S {
  const recipe = recipeFor(material, process, machine)
  if (!recipe) return { ...operation, recipe: undefined }
  return followed(
    operation,
    make(operation.of, material, machine),
    names.filter((name) => recipe[name] !== undefined),
  )
}
