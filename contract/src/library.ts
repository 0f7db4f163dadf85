import { type Drawn, drawnSchema, type Licence, licenceSchema } from '@neotaxis/core'
import Joi from 'joi'
import { type AssetFacts, assetFacts } from './assets.ts'
import { id, moment, sha256, text, whole } from './words.ts'

/** Artwork that is kept across jobs. */
export interface Artwork {
  readonly id: string
  readonly name: string
  readonly asset: string
  readonly facts: AssetFacts
  readonly drawn?: Drawn
  readonly tags: readonly string[]
  readonly origin: string
  readonly licence: Licence
  readonly createdAt: string
}

/** What people say of it. */
export type ArtworkSaid = Pick<Artwork, 'name' | 'tags' | 'origin' | 'licence'>

const said = {
  name: Joi.string().trim().min(1).max(200),
  tags: Joi.array().items(Joi.string().trim().min(1).max(40)).unique().max(30),
  origin: text.max(400),
  licence: licenceSchema,
}

export const artwork = Joi.object<Artwork>({
  id: id.required(),
  asset: sha256.required(),
  facts: assetFacts.required(),
  drawn: drawnSchema.optional(),
  name: text.required(),
  tags: Joi.array().items(text).required(),
  origin: text.required(),
  licence: licenceSchema.required(),
  createdAt: moment.required(),
})

export type NewArtwork = ArtworkSaid & { readonly asset: string; readonly drawn?: Drawn }

export const newArtwork = whole(said).keys({ asset: sha256.required(), drawn: drawnSchema.optional() }).required()

export const artworkChange = Joi.object<Partial<ArtworkSaid>>(said).min(1).required()
