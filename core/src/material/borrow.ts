import { fittedLens, type Machine, powerFor, spotMm, wattsAt } from '../machine/machine.ts'
import { standingOf } from './evidence.ts'
import { areaDose, isFor, lineDose, type Material, type Recipe, type RecipeProcess } from './material.ts'

/** A recipe that others can be worked out from. */
interface Lender {
  readonly recipe: Recipe
  readonly material: Material
  readonly machine: Machine
  /** What it leaves by all passes: J/mm² where it has an interval, else J/mm. */
  readonly dose: number
}

/** What is worked out may be off by this, share: from two thicknesses between which it lies; from one; for another machine. */
const BETWEEN = 0.08
const FROM_ONE = 0.12
const BY_MACHINE = 0.12

const doseOf = ({ power, speedMmS, passes, intervalMm }: Recipe, machine: Machine): number => {
  const watts = wattsAt(machine, power)
  return passes * (intervalMm === undefined ? lineDose(watts, speedMmS) : areaDose(watts, speedMmS, intervalMm))
}

/** Whether two materials are the same in different thicknesses. */
const isKin = (a: Material, b: Material): boolean => a.id === b.id || (a.family !== undefined && a.family === b.family)

const thick = (mm: number): string => `${Number(mm.toFixed(2))} mm`

/**
 * A recipe that nobody found here, worked out from those of the same material in other thicknesses or on other machines: what marks
 * a surface takes the same dose however thick it is; what goes through takes a dose that grows with the thickness, on a straight line
 * through the two nearest, in proportion where there is one. How far it may be off is told with it.
 * @returns undefined where there is nothing to work it out from
 */
export function borrowed(
  material: Material,
  process: RecipeProcess,
  machine: Machine,
  all: readonly Material[],
  machines: readonly Machine[],
): Recipe | undefined {
  const lenders = all
    .filter((each) => isKin(each, material))
    .flatMap((each): Lender[] =>
      each.recipes.flatMap((recipe) => {
        const on = machines.find(({ id }) => id === recipe.machine)
        const isSame = each.id === material.id && recipe.machine === machine.id
        if (!isFor(recipe, process, recipe.machine) || !on || isSame || standingOf(recipe).kind !== 'proven') return []
        return [{ recipe, material: each, machine: on, dose: doseOf(recipe, on) }]
      }),
    )
  // The nearest first: the same machine, then the thickness that is least away.
  const away = ({ material: { thicknessMm } }: Lender): number => Math.abs(Math.log(thicknessMm / material.thicknessMm))
  const ranked = [...lenders].sort(
    (a, b) => Number(a.machine.id !== machine.id) - Number(b.machine.id !== machine.id) || away(a) - away(b),
  )
  const [nearest] = ranked
  if (!nearest) return undefined
  const goesThrough = nearest.recipe.intervalMm === undefined
  const other = ranked.find(
    (each) => each.machine.id === nearest.machine.id && each.material.thicknessMm !== nearest.material.thicknessMm,
  )
  const { dose, from, off } = goesThrough ? throughDose(material, nearest, other) : surfaceDose(material, nearest)
  const elsewhere = nearest.machine.id !== machine.id
  return {
    id: '',
    process,
    name: nearest.recipe.name,
    machine: machine.id,
    lens: fittedLens(machine).id,
    ...settingsFor(dose, nearest, machine),
    ...(nearest.recipe.kerfMm === undefined
      ? {}
      : { kerfMm: Number(((nearest.recipe.kerfMm * spotMm(machine)) / spotMm(nearest.machine)).toFixed(2)) }),
    air: nearest.recipe.air && machine.hasAir,
    ...(nearest.recipe.prepared === undefined ? {} : { prepared: nearest.recipe.prepared }),
    borrowedFrom: `${from}${elsewhere ? `${from ? ', ' : ''}${nearest.machine.name}` : ''}`,
    mayBeOff: Number((off + (elsewhere ? BY_MACHINE : 0)).toFixed(2)),
    evidence: [],
  }
}

interface Worked {
  readonly dose: number
  readonly from: string
  readonly off: number
}

/** What goes through: on a straight line over the thickness. */
function throughDose(material: Material, near: Lender, far: Lender | undefined): Worked {
  const [t, a] = [material.thicknessMm, near.material.thicknessMm]
  if (t === a) return { dose: near.dose, from: '', off: FROM_ONE / 2 }
  const share = Math.abs(Math.log(t / a))
  if (!far) return { dose: (near.dose * t) / a, from: thick(a), off: FROM_ONE + share / 3 }
  const b = far.material.thicknessMm
  const dose = near.dose + ((far.dose - near.dose) * (t - a)) / (b - a)
  const names = [a, b].sort((x, y) => x - y).map(thick)
  const isBetween = (t - a) * (t - b) <= 0
  const from = names.join(' and ')
  // Beyond both: a line that falls or gives too little is no use, and the further out the less is known.
  const least = (0.7 * near.dose * t) / a
  return isBetween ? { dose, from, off: BETWEEN } : { dose: Math.max(dose, least), from, off: FROM_ONE + share / 2 }
}

/** What marks a surface: the same on any thickness. */
const surfaceDose = (material: Material, near: Lender): Worked =>
  material.thicknessMm === near.material.thicknessMm
    ? { dose: near.dose, from: '', off: FROM_ONE / 2 }
    : { dose: near.dose, from: thick(near.material.thicknessMm), off: BETWEEN }

/** Settings that leave a dose on a machine: the lender's, but for the speed; where that is too much or too little, its power or passes. */
function settingsFor(
  dose: number,
  { recipe, machine: lent }: Lender,
  machine: Machine,
): Pick<Recipe, 'power' | 'speedMmS' | 'passes' | 'intervalMm'> {
  // Lines as far apart, measured in spots.
  const intervalMm =
    recipe.intervalMm === undefined ? undefined : Number(((recipe.intervalMm * spotMm(machine)) / spotMm(lent)).toFixed(3))
  const most = machine.safePower ?? 1
  const watts = Math.min(wattsAt(machine, most), wattsAt(lent, recipe.power))
  const top = Math.min(machine.axes.x.speedMmS, Math.max(recipe.speedMmS, 0.5))
  const per = intervalMm ?? 1
  let { passes } = recipe
  const least = intervalMm === undefined ? 1 : 10
  while (passes < 50 && (watts * passes) / (dose * per) < least) passes++
  const speed = Math.min(top, (watts * passes) / (dose * per))
  const speedMmS = Math.max(0.1, Number(speed.toPrecision(3)))
  const power = Math.min(most, Number(powerFor(machine, (dose * per * speedMmS) / passes).toFixed(3)))
  return { power, speedMmS, passes, ...(intervalMm === undefined ? {} : { intervalMm }) }
}
