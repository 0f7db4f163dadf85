import type { MeshExtent } from '@neotaxis/core'
import Joi from 'joi'
import { count, sha256, text, whole } from './words.ts'

/** What is known of a file that was brought in. */
export interface AssetFacts {
  readonly asset: string
  readonly widthPx: number
  readonly heightPx: number
  readonly hasAlpha: boolean
  readonly pixelsPerMm?: number
  /** What is told of how a picture was read. */
  readonly notices?: readonly string[]
  readonly mesh?: MeshExtent
  readonly drawing?: {
    readonly widthMm: number
    readonly heightMm: number
    readonly shapes: number
    readonly notices: readonly string[]
  }
  /** Of a PDF: which of its pages it is. */
  readonly pdf?: { readonly page: number; readonly pages: number }
  /** Of a font: what it is called. */
  readonly font?: { readonly name: string }
}

const mm = Joi.number()

export const assetFacts = Joi.object<AssetFacts>({
  asset: sha256.required(),
  widthPx: count.required(),
  heightPx: count.required(),
  hasAlpha: Joi.boolean().required(),
  pixelsPerMm: Joi.number().greater(0),
  notices: Joi.array().items(text),
  mesh: Joi.object({ width: mm, height: mm, depth: mm }).unknown(true),
  drawing: whole({ widthMm: mm, heightMm: mm, shapes: count, notices: Joi.array().items(text) }),
  pdf: whole({ page: count, pages: count }),
  font: whole({ name: text }),
}).unknown(true)

export interface Font {
  readonly asset: string
  readonly name: string
  readonly shipped: boolean
}

export const font = whole({ asset: sha256, name: text, shipped: Joi.boolean() })
