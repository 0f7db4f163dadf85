import type { MeasuredCurve } from './curve.ts'
import type { Evidence } from './evidence.ts'

/** Settings that work for one process on one material and thickness with one machine. */
export interface Recipe {
  readonly id: string
  readonly process: 'picture' | 'relief' | 'area' | 'cut' | 'score'
  readonly name: string
  readonly machine: string
  readonly power: number
  readonly speedMmS: number
  readonly passes: number
  readonly intervalMm?: number
  readonly kerfMm?: number
  readonly air: boolean
  /** How the piece is prepared for it, in a word or two; absent: as it is. */
  readonly prepared?: string
  /** Whose settings they are, where nobody here found them. */
  readonly borrowedFrom?: string
  /** What was tried and what came out, oldest first: how well it is known follows from it (`standingOf`). */
  readonly evidence: readonly Evidence[]
}

/** Doses between which a process does what it should: below `from` too little, above `to` too much. */
export interface DoseWindow {
  readonly from: number
  readonly to: number
}

/** One layer of a material, with what light does to it. */
export interface MaterialLayer {
  readonly name: string
  readonly thicknessMm: number
  /** J/mm² at which it starts to mark and is fully dark, or gone. */
  readonly markDose: DoseWindow
  /** What the shop measured on it. */
  readonly curves?: readonly MeasuredCurve[]
}

/** Something that somebody does at the piece, and how long it takes. */
export interface HandWork {
  readonly text: string
  readonly minutes: number
}

/** One sheet material in one thickness. Doses hold for all its machines; recipes name theirs. */
export interface Material {
  readonly id: string
  readonly version: number
  readonly name: string
  readonly thicknessMm: number
  /** Colours of the surface, its burn and its cut edge, for the forecast: [r, g, b] 0–255. */
  readonly look: {
    readonly surface: Rgb
    readonly grain: Rgb
    readonly burn: Rgb
    readonly edge: Rgb
    readonly kind: 'wood' | 'plain'
  }
  /** From the beam inwards: coating, then base; at least one. Together as thick as the material. */
  readonly layers: readonly MaterialLayer[]
  /** J/mm in one pass that cut through all layers without charring. */
  readonly cutDose: DoseWindow
  /** What this material is known for, shown before every start. */
  readonly warnings?: readonly string[]
  /** Work by hand that it wants before and after it is burned. */
  readonly steps?: { readonly before: readonly HandWork[]; readonly after: readonly HandWork[] }
  readonly recipes: readonly Recipe[]
  /** What kind of surface it is: start values of pictures follow from it. */
  readonly finish?: Finish
}

export const FINISHES = [
  'bare-wood',
  'card',
  'glazed-ceramic',
  'lacquered-behind',
  'coated-metal',
  'slate',
  'leather',
  'clear-behind',
] as const

export type Finish = (typeof FINISHES)[number]

export type Rgb = readonly [number, number, number]

/** The layer that the beam meets first. */
export const topLayer = ({ layers }: Material): MaterialLayer => layers[0]

/** Whether a recipe is for a process on a machine. */
export const isFor = (recipe: Recipe, process: string, machine: string): boolean =>
  recipe.process === process && recipe.machine === machine

/** The recipe of a material for a process on a machine, if it has one. */
export const recipeFor = (material: Material, process: Recipe['process'], machine: string): Recipe | undefined =>
  material.recipes.find((recipe) => isFor(recipe, process, machine))

/** Energy along a line. @param watts that come out @returns J/mm of one pass */
export const lineDose = (watts: number, speedMmS: number): number => watts / speedMmS

/** Energy over an area. @param watts that come out @returns J/mm² of one pass */
export const areaDose = (watts: number, speedMmS: number, intervalMm: number): number => watts / (speedMmS * intervalMm)
