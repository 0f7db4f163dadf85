import Joi from 'joi'

/** What may be done with artwork. */
export interface Licence {
  /** What it is called, or in the words of who made it. */
  readonly name: string
  /** Pieces with it may be sold. */
  readonly sell: boolean
  /** It may be changed. */
  readonly change: boolean
  /** Who must be named on the piece or beside it; empty: nobody. */
  readonly credit: string
}

/** Where artwork came from; a job keeps it with what was taken from the library. */
export interface Provenance {
  /** Id in the shop's library. */
  readonly library: string
  readonly origin: string
  readonly licence: Licence
}

/** A licence, as the library and jobs carry it. */
export const licenceSchema = Joi.object({
  name: Joi.string().allow('').max(200).required(),
  sell: Joi.boolean().required(),
  change: Joi.boolean().required(),
  credit: Joi.string().allow('').max(200).required(),
})

export const provenanceSchema = Joi.object({
  library: Joi.string().max(40).required(),
  origin: Joi.string().allow('').max(400).required(),
  licence: licenceSchema.required(),
})

/** One's own work: everything is allowed. */
export const OWN_WORK: Licence = { name: 'own work', sell: true, change: true, credit: '' }
