import { type FittedCurve, fitCurve, type MeasuredCurve, type Quantity } from './curve.ts'
import { type Material, topLayer } from './material.ts'

const fits = new WeakMap<MeasuredCurve, FittedCurve>()

/** What was measured of a quantity on this material; on this machine, if it was measured there. */
export function readingsOf(material: Material, quantity: Quantity, machine?: string): MeasuredCurve | undefined {
  const all = topLayer(material).curves?.filter((curve) => curve.quantity === quantity) ?? []
  return all.find(({ conditions }) => conditions.machine === machine) ?? all[0]
}

/** The same, fitted. */
export function measuredCurve(material: Material, quantity: Quantity, machine?: string): FittedCurve | undefined {
  const curve = readingsOf(material, quantity, machine)
  if (!curve) return undefined
  let fit = fits.get(curve)
  if (!fit) {
    fit = fitCurve(curve)
    fits.set(curve, fit)
  }
  return fit
}

/**
 * How dark a dose turns the surface, 0 untouched to 1: by the shop's measurements; where there are none, by the window in
 * which the material marks, on a rise that is steep first and flattens.
 */
export function toneOf(material: Material, doseJPerMm2: number, machine?: string): number {
  const curve = measuredCurve(material, 'tone', machine)
  if (curve) return doseJPerMm2 <= curve.from && curve.from > 0 ? 0 : Math.min(1, Math.max(0, curve.at(doseJPerMm2)))
  const { from, to } = topLayer(material).markDose
  const share = (doseJPerMm2 - from) / (to - from)
  return share <= 0 ? 0 : share >= 1 ? 1 : share ** 0.7
}

/**
 * How far a burned dot reaches beyond its own way at either end, mm, so that an even half tone comes out as dark as it was
 * measured: half of all dots, each with unburned neighbours, grow it by 2·e·½ a pitch. 0 where nobody measured dot gain.
 */
export function dotReach(material: Material, machine?: string): number {
  const curve = readingsOf(material, 'gain', machine)
  const interval = curve?.conditions.intervalMm
  if (!interval) return 0
  return Math.max(0, (measuredCurve(material, 'gain', machine)!.at(0.5) - 0.5) * interval)
}

/** How deep a dose goes, mm; undefined where nobody measured. */
export function depthOf(material: Material, doseJPerMm2: number, machine?: string): number | undefined {
  const curve = measuredCurve(material, 'depth', machine)
  return curve && Math.min(material.thicknessMm, Math.max(0, curve.at(doseJPerMm2)))
}
