import type { MeasuredCurve } from './curve.ts'
import type { Evidence } from './evidence.ts'

/** Processes that a material has recipes for: those that burn it. */
export const RECIPE_PROCESSES = ['picture', 'relief', 'area', 'cut', 'score'] as const
export type RecipeProcess = (typeof RECIPE_PROCESSES)[number]

/** A process as one that recipes are for. @throws RangeError where none is */
export function recipeProcess(name: string): RecipeProcess {
  const found = RECIPE_PROCESSES.find((each) => each === name)
  if (!found) throw new RangeError('There are no recipes for this process.')
  return found
}

/** Settings that work for one process on one material and thickness with one machine. */
export interface Recipe {
  readonly id: string
  readonly process: RecipeProcess
  readonly name: string
  readonly machine: string
  /** The lens that it was found with; absent: nobody said. */
  readonly lens?: string
  readonly power: number
  readonly speedMmS: number
  readonly passes: number
  readonly intervalMm?: number
  readonly kerfMm?: number
  readonly air: boolean
  /** Pulses a second, and how long each lasts, ns; absent: as the source stands. */
  readonly pulseHz?: number
  readonly pulseNs?: number
  /** How the piece is prepared for it, in a word or two; absent: as it is. */
  readonly prepared?: string
  /** Whose settings they are, or what they were worked out from, where nobody here found them. */
  readonly borrowedFrom?: string
  /** By how much what was worked out may be off, share. */
  readonly mayBeOff?: number
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
  /** Of a coating: J/mm² between which all of it is lifted, and nothing but it. */
  readonly liftDose?: DoseWindow
  /** J/mm² on its face from which the layer below is harmed. */
  readonly harmsBelow?: number
  /** What the shop measured on it. */
  readonly curves?: readonly MeasuredCurve[]
}

/** Something that looks like a material and is not. */
export interface LookAlike {
  readonly name: string
  readonly toldBy: string
  /** It must never be lasered. */
  readonly forbidden?: true
}

/** Ways of work by hand at a piece. */
export const HAND_WORK = ['clean', 'coat', 'mask', 'wash', 'sand', 'fill', 'peel'] as const

/** Something that somebody does at the piece, and how long it takes. */
export interface HandWork {
  /** Absent: something else. */
  readonly work?: (typeof HAND_WORK)[number]
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
  /** J/mm² over a whole face from which a piece of this thickness warps; absent: nobody saw it. */
  readonly warpDose?: number
  /** Nobody has tried it yet: its doses are a guess. */
  readonly untried?: true
  /** What it is besides its thickness: the same in every thickness, so that recipes can be worked out from one to the other. */
  readonly family?: string
  /** What this material is known for, shown before every start. */
  readonly warnings?: readonly string[]
  /** What its smoke is, and how it burns; both in the list before every start. */
  readonly fumes?: string
  readonly fire?: string
  /** Why it must never be lasered; absent: it may be. */
  readonly forbidden?: string
  /** What it is taken for, and how the two are told apart. */
  readonly lookAlikes?: readonly LookAlike[]
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

/**
 * The recipe of a material for a process on a machine, if it has one: the one that was found with the lens that is fitted, else one of
 * which nobody said the lens, else one of another lens.
 */
export function recipeFor(
  material: Material,
  process: Recipe['process'],
  { id, lens }: { readonly id: string; readonly lens?: string },
): Recipe | undefined {
  const all = material.recipes.filter((recipe) => isFor(recipe, process, id))
  return all.find((recipe) => recipe.lens === lens) ?? all.find((recipe) => recipe.lens === undefined) ?? all[0]
}

/** Energy along a line. @param watts that come out @returns J/mm of one pass */
export const lineDose = (watts: number, speedMmS: number): number => watts / speedMmS

/** Energy over an area. @param watts that come out @returns J/mm² of one pass */
export const areaDose = (watts: number, speedMmS: number, intervalMm: number): number => watts / (speedMmS * intervalMm)
