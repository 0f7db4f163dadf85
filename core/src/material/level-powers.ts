import { type Machine, spotMm, wattsAt } from '../machine/machine.ts'
import { inverse } from '../numeric/monotone.ts'
import { depthOf, measuredCurve, readingsOf, toneOf } from './answer.ts'
import { areaDose, type Material, topLayer } from './material.ts'

/** Settings by which grey is burned as power. */
export interface Burn {
  /** Share of full power of the strongest mark, 0–1, and of the weakest; 0 where grey is not burned as power. */
  readonly power: number
  readonly minPower: number
  /** What is even from mark to mark: the power, or by the material's measured curve the depth, or the tone. */
  readonly evenIn: 'power' | 'depth' | 'tone'
  readonly speedMmS: number
  readonly intervalMm: number
  readonly passes: number
  /** Share of the power in each pass, 0–1; a pass without one has all of it. */
  readonly passPowers: readonly number[]
}

/** Dose of one pass at a power, J/mm². */
const doseAt = (machine: Machine, burn: Burn, power: number): number =>
  areaDose(wattsAt(machine, power), burn.speedMmS, burn.intervalMm)

/**
 * The burn as its dose was measured: lines further apart than the spot is wide, and than those of the wedge were, do not
 * share their energy, so that each gets as much as at that distance.
 */
export function asMeasured<B extends Burn>(material: Material, machine: Machine, burn: B, quantity: 'tone' | 'depth'): B {
  const conditions = readingsOf(material, quantity, machine.id)?.conditions
  const measured = conditions?.machine === machine.id ? (conditions.intervalMm ?? 0) : 0
  return { ...burn, intervalMm: Math.min(burn.intervalMm, Math.max(spotMm(machine), measured)) }
}

const passShares = ({ passes, passPowers }: Pick<Burn, 'passes' | 'passPowers'>): number[] =>
  Array.from({ length: passes }, (_, i) => passPowers[i] ?? 1)

/** Share of the power in a pass, 0–1. */
export const passShare = ({ passPowers }: Pick<Burn, 'passPowers'>, pass: number): number => passPowers[pass] ?? 1

/** Dose of some passes at a power, J/mm². @param passes default all */
export const passesDose = (machine: Machine, burn: Burn, power: number, passes = burn.passes): number =>
  passShares(burn)
    .slice(0, passes)
    .reduce((sum, share) => sum + doseAt(machine, burn, power * share), 0)

/**
 * Power for each mark level 0–255 in a full pass, 0–1: off for none, then from the weakest mark's to the strongest's.
 * Even in power: `P = Pmin + (Pmax − Pmin)·m`. Even in depth or tone: the measured curve is solved for the power that
 * gives the value in between, so that depth or tone is linear in the mark. Without a curve it is even in power.
 */
export function levelPowers(material: Material, machine: Machine, burn: Burn): Float64Array {
  const { power: most, minPower: least, evenIn } = burn
  const value = (power: number): number | undefined => {
    if (evenIn === 'power') return undefined
    const dose = passesDose(machine, asMeasured(material, machine, burn, evenIn), power)
    return evenIn === 'depth'
      ? depthOf(material, dose, machine.id)
      : evenIn === 'tone'
        ? toneOf(material, dose, machine.id)
        : undefined
  }
  const low = value(least)
  const high = value(most)
  return Float64Array.from({ length: 256 }, (_, level) => {
    if (level === 0) return 0
    const m = level / 255
    if (low === undefined || high === undefined || !(high > low)) return least + (most - least) * m
    return inverse((power) => value(power)!, low + (high - low) * m, least, most)
  })
}

/**
 * The power at which a material just starts to answer, at these settings, 0–1: from the measured curve of depth, else of
 * tone, else from the window in which it marks.
 */
export function turnOnPower(material: Material, machine: Machine, burn: Omit<Burn, 'evenIn' | 'minPower'>): number {
  const depth = measuredCurve(material, 'depth', machine.id)
  const curve = depth ?? measuredCurve(material, 'tone', machine.id)
  const dose = curve ? curve.onset : topLayer(material).markDose.from
  const full = asMeasured(material, machine, { ...burn, minPower: 0, evenIn: 'power' as const }, depth ? 'depth' : 'tone')
  const power = inverse((share) => passesDose(machine, full, share), dose, 0, burn.power)
  return Math.round(power * 1000) / 1000
}

/** Darkness of each mark level after some passes, 0–255. @param passes default all */
export function levelTones(material: Material, machine: Machine, burn: Burn, passes = burn.passes): Uint8Array {
  const lines = asMeasured(material, machine, burn, 'tone')
  return Uint8Array.from(levelPowers(material, machine, burn), (power) =>
    Math.round(255 * toneOf(material, passesDose(machine, lines, power, passes), machine.id)),
  )
}

/** Depth of each mark level after all passes, mm; undefined where nobody measured. */
export function levelDepths(material: Material, machine: Machine, burn: Burn): Float64Array | undefined {
  if (depthOf(material, 1, machine.id) === undefined) return undefined
  const lines = asMeasured(material, machine, burn, 'depth')
  return Float64Array.from(levelPowers(material, machine, burn), (power) =>
    power === 0 ? 0 : (depthOf(material, passesDose(machine, lines, power), machine.id) ?? 0),
  )
}
