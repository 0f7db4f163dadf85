import { type Machine, powerFor, spotMm, wattsAt } from '../machine/machine.ts'
import { type Material, recipeFor, topLayer } from '../material/material.ts'
import { type AreaOperation, area } from '../process/area/area.ts'
import { type ScoreOperation, score } from '../process/score/score.ts'

/** Lines this share of the spot apart leave no rim of coating between them. */
const FINE = 0.5
/** What lies under the coating is kept under this share of what harms it. */
const KEPT_UNDER = 0.8
/** A cleaning pass takes off what was left of the coating's soot: so much of what lifts it, as fast as the machine goes. */
const CLEANS = 0.3
/** The power that is aimed at: a source is steady there, and there is room on both sides. */
const STEADY = 0.4

/** Whether a coating on a material can be lifted with nothing below harmed, by what is known of its doses. */
export function canBeLifted(material: Material): boolean {
  const { liftDose, harmsBelow = Infinity } = topLayer(material)
  return liftDose !== undefined && material.layers.length > 1 && KEPT_UNDER * harmsBelow > liftDose.from
}

/** A speed and a power that leave a dose over lines so far apart. */
function settingsFor(machine: Machine, dose: number, intervalMm: number, top: number): { power: number; speedMmS: number } {
  const most = machine.safePower ?? 1
  const steady = wattsAt(machine, Math.min(most, STEADY)) / (dose * intervalMm)
  const speedMmS = Number(Math.min(top, steady).toPrecision(2))
  const power = Math.min(most, powerFor(machine, dose * intervalMm * speedMmS))
  return { power: Math.ceil(power * 1000 - 1e-6) / 1000, speedMmS }
}

/**
 * The coating lifted from an area and nothing below it harmed: filled in the middle of the window in which it lifts, then a fast and
 * weak pass that cleans, and the edge last. A recipe for areas is followed where there is one.
 */
export function liftedCoating(
  of: readonly string[],
  material: Material,
  machine: Machine,
): { readonly lift: AreaOperation; readonly clean: AreaOperation; readonly edge: ScoreOperation } {
  const { liftDose, harmsBelow = Infinity } = topLayer(material)
  if (!liftDose) throw new Error(`The face of ${material.name} is no coating that lifts.`)
  const most = Math.min(liftDose.to, KEPT_UNDER * harmsBelow)
  const dose = Math.sqrt(liftDose.from * most)
  const plain = { recipe: undefined, passes: 1, air: false }
  const intervalMm = Number((FINE * spotMm(machine)).toFixed(3))
  const top = area.topSpeed(machine)
  const filled = area.fromRecipe(of, material, machine)
  const known = recipeFor(material, 'area', machine) !== undefined
  // The edge is followed by a line of its own: the fill ends where that begins.
  const inset = spotMm(machine)
  const lift: AreaOperation = known
    ? filled
    : { ...filled, ...plain, intervalMm, insetMm: inset, ...settingsFor(machine, dose, intervalMm, 0.5 * top) }
  const clean: AreaOperation = {
    ...lift,
    ...plain,
    deg: lift.deg + 90,
    ...settingsFor(machine, CLEANS * liftDose.from, lift.intervalMm, top),
  }
  const lined = score.fromRecipe(of, material, machine)
  const edge: ScoreOperation = recipeFor(material, 'score', machine)
    ? lined
    : { ...lined, ...plain, ...settingsFor(machine, dose, spotMm(machine), 0.25 * top) }
  return { lift, clean, edge }
}
