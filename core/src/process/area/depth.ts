import { RANGES } from '../../job/document/ranges.ts'
import type { Machine } from '../../machine/machine.ts'
import { depthOf, measuredCurve } from '../../material/answer.ts'
import { asMeasured, passesDose } from '../../material/level-powers.ts'
import type { Material } from '../../material/material.ts'
import { inverse } from '../../numeric/monotone.ts'
import { burnOfArea } from './burned-area.ts'
import type { AreaOperation } from './settings.ts'

/** How deep a fill goes after all passes, mm, by the material's measured curve; undefined where nobody measured. */
export function depthOfFill(operation: AreaOperation, material: Material, machine: Machine): number | undefined {
  const burn = asMeasured(material, machine, burnOfArea(operation), 'depth')
  return depthOf(material, passesDose(machine, burn, operation.power), machine.id)
}

/** What gives a depth, or why nothing does: a sentence. */
export type Deepened = { readonly change: Pick<AreaOperation, 'passes' | 'power' | 'passPowers'> } | { readonly not: string }

/**
 * The fewest passes at no more than the present power that go so deep, and the power at which they do: speed and interval stay.
 * @param depthMm wanted, mm
 */
export function deepened(operation: AreaOperation, depthMm: number, material: Material, machine: Machine): Deepened {
  if (depthOfFill(operation, material, machine) === undefined)
    return { not: 'How deep it goes was not measured on this material: burn a depth wedge on the bench first.' }
  if (depthMm >= material.thicknessMm)
    return { not: `The material is ${material.thicknessMm} mm thick: a fill must leave a ground.` }
  const at = (passes: number, power: number): number =>
    depthOfFill({ ...operation, passes, power, passPowers: undefined }, material, machine)!
  const { power } = operation
  let passes = 1
  while (passes < RANGES.passes.max && at(passes, power) < depthMm) passes++
  const most = at(passes, power)
  const measuredTo = measuredCurve(material, 'depth', machine.id)!
  if (depthMm > measuredTo.at(measuredTo.to))
    return { not: `This material was measured down to ${measuredTo.at(measuredTo.to).toFixed(1)} mm: deeper is not known.` }
  if (most < depthMm)
    return {
      not: `${passes} passes at this power and speed go ${most.toFixed(2)} mm deep: set more power, or less speed, first.`,
    }
  // A power as it is typed: whole tenths of a per cent, the next one up.
  const exact = inverse((share) => at(passes, share), depthMm, 0, power)
  return { change: { passes, power: Math.min(power, Math.ceil(exact * 1000 - 1e-6) / 1000), passPowers: undefined } }
}
