import { type Machine, spotMm, wattsAt } from '../machine/machine.ts'
import { measuredCurve } from '../material/answer.ts'
import { type Material, type Recipe, recipeFor } from '../material/material.ts'
import { turnOnPower } from '../plan/level-powers.ts'
import type { CutOperation, PictureOperation } from './document.ts'

/** A setting for a process nobody has tried yet on this material and machine. */
const guessed = (process: Recipe['process'], machine: Machine): Recipe => ({
  id: 'guessed',
  process,
  name: 'not tried yet',
  machine: machine.id,
  power: 0.2,
  speedMmS: process === 'cut' ? 10 : Math.min(200, machine.maxSpeedMmS.x),
  passes: 1,
  intervalMm: 0.127,
  kerfMm: 0.15,
  air: process === 'cut' && machine.hasAir,
  proof: { kind: 'guessed' },
})

/** A picture operation from a recipe. */
export function pictureOperation(node: string, material: Material, machine: Machine): PictureOperation {
  const recipe = recipeFor(material, 'picture', machine.id) ?? guessed('picture', machine)
  const { power, speedMmS, passes, air } = recipe
  return {
    kind: 'picture',
    node,
    ...(recipe.id === 'guessed' ? {} : { recipe: recipe.id }),
    power,
    speedMmS,
    passes,
    intervalMm: recipe.intervalMm ?? 0.127,
    bothWays: true,
    minPower: 0,
    evenIn: 'power',
    passPowers: [],
    air,
  }
}

/**
 * A relief from a recipe: weakest marks from where the material starts to mark, even in depth where depth was measured.
 */
export function reliefOperation(node: string, material: Material, machine: Machine): PictureOperation {
  const recipe = recipeFor(material, 'relief', machine.id)
  const base = pictureOperation(node, material, machine)
  const { power, speedMmS, passes, intervalMm } = { ...base, ...recipe }
  const burn = { ...base, power, speedMmS, passes, intervalMm: intervalMm ?? base.intervalMm }
  const measured = measuredCurve(material, 'depth', machine.id)
  const { recipe: _, ...rest } = burn
  return {
    ...rest,
    ...(recipe ? { recipe: recipe.id, air: recipe.air } : burn.recipe ? { recipe: burn.recipe } : {}),
    minPower: turnOnPower(material, machine, burn),
    evenIn: measured ? 'depth' : 'power',
  }
}

/** A cut from a recipe. */
export function cutOperation(node: string, material: Material, machine: Machine): CutOperation {
  const recipe = recipeFor(material, 'cut', machine.id) ?? guessed('cut', machine)
  const { power, speedMmS, passes, air } = recipe
  return {
    kind: 'cut',
    node,
    ...(recipe.id === 'guessed' ? {} : { recipe: recipe.id }),
    power,
    speedMmS,
    passes,
    kerfMm: recipe.kerfMm ?? 0.15,
    air,
  }
}

/** A line that marks without cutting is as dark as a full area: its dose, over the width of the spot. */
const SCORE_SPEED_MM_S = 60

/**
 * Lines that are scored: by the recipe where there is one, else with the dose that marks an area fully, over the spot's width,
 * and well below what cuts. The speed is lowered where full power is not enough for it.
 */
export function scoreOperation(node: string, material: Material, machine: Machine): CutOperation {
  const recipe = recipeFor(material, 'score', machine.id)
  const width = spotMm(machine)
  if (recipe) {
    const { id, power, speedMmS, passes, air } = recipe
    return { kind: 'cut', node, recipe: id, power, speedMmS, passes, kerfMm: width, air }
  }
  const dose = Math.min(material.markDose.to * width, 0.5 * material.cutDose.from)
  const speedMmS = Math.max(1, Math.min(SCORE_SPEED_MM_S, machine.maxSpeedMmS.x, wattsAt(machine, 1) / dose))
  let [low, high] = [0, 1]
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2
    if (wattsAt(machine, middle) < dose * speedMmS) low = middle
    else high = middle
  }
  return {
    kind: 'cut',
    node,
    power: Math.round(1000 * high) / 1000,
    speedMmS: Math.round(10 * speedMmS) / 10,
    passes: 1,
    kerfMm: width,
    air: false,
  }
}
