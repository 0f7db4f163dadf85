import { curveSchema, type Material, type MeasuredCurve, materialSchema, type Recipe, recipeSchema } from '@neotaxis/core'
import Joi from 'joi'
import { count, id, moment, text, whole } from './words.ts'

/** A material with what is known of it besides its recipes, and on which version that is based; `null`: it is new. */
export interface MaterialSaved {
  readonly material: Material
  readonly base: number | null
}
export const materialSaved = whole({ material: materialSchema, base: count.allow(null) })

/** What was measured on a layer; it takes the place of what was measured there before, which is kept to look at. */
export interface CurveAdded {
  readonly curve: MeasuredCurve
  /** From the beam inwards. */
  readonly layer: number
}
export const curveAdded = whole({ curve: curveSchema, layer: Joi.number().integer().min(0).max(19) })

/** Recipes for materials that are in the shop: new ones, or in place of those with the same id. */
export interface RecipesBrought {
  readonly recipes: readonly { readonly material: string; readonly recipe: Recipe }[]
}
export const recipesBrought = whole({
  recipes: Joi.array()
    .items(whole({ material: id, recipe: recipeSchema }))
    .min(1)
    .max(2000),
})

/** Something that was changed in the catalogue. */
export interface CatalogueChange {
  readonly number: number
  readonly at: string
  /** Who; empty where nobody signs in. */
  readonly by: string
  readonly what: string
  readonly recipe: string | null
  /** How it was before is kept: it can be brought back. */
  readonly goesBack: boolean
}
export const catalogueChange = whole({
  number: count,
  at: moment,
  by: text,
  what: text,
  recipe: id.allow(null),
  goesBack: Joi.boolean().required(),
})

/** The change before which something is brought back. */
export interface BroughtBack {
  readonly number: number
}
export const broughtBack = whole({ number: count })
