import type { Material } from './material.ts'

/** A material that nobody here has tried: its doses are those of most sheets, and said to be so. */
export const untriedMaterial = (id: string): Material => ({
  id,
  version: 1,
  name: 'New material',
  thicknessMm: 3,
  look: { surface: [214, 206, 192], grain: [204, 196, 182], burn: [84, 62, 46], edge: [64, 48, 38], kind: 'plain' },
  layers: [{ name: 'sheet', thicknessMm: 3, markDose: { from: 0.1, to: 0.6 } }],
  cutDose: { from: 2.5, to: 5 },
  untried: true,
  recipes: [],
})

/**
 * The same material in another thickness: what its surface takes stays, what goes through it grows with it. Its recipes stay with the
 * other; what can be worked out from them is borrowed, and says so.
 */
export function inThickness(material: Material, thicknessMm: number, id: string): Material {
  const share = thicknessMm / material.thicknessMm
  const mm = (v: number): number => Number((v * share).toFixed(4))
  const { from, to } = material.cutDose
  const { warpDose, layers, family = material.id } = material
  // A coating is as thick on a thick sheet as on a thin one: what is under it takes the difference.
  const [first, ...rest] = layers
  const coated = first.liftDose !== undefined && rest.length > 0 && thicknessMm > first.thicknessMm
  const under = (thicknessMm - first.thicknessMm) / (material.thicknessMm - first.thicknessMm)
  const scaled = coated
    ? [first, ...rest.map((layer) => ({ ...layer, thicknessMm: Number((layer.thicknessMm * under).toFixed(4)) }))]
    : layers.map((layer) => ({ ...layer, thicknessMm: mm(layer.thicknessMm) }))
  return {
    ...material,
    id,
    version: 1,
    thicknessMm,
    family,
    layers: scaled,
    cutDose: { from: Number((from * share).toPrecision(3)), to: Number((to * share).toPrecision(3)) },
    ...(warpDose === undefined ? {} : { warpDose: Number((warpDose * share).toPrecision(3)) }),
    untried: true,
    recipes: [],
  }
}
