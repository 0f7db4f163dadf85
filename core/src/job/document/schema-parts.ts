import Joi from 'joi'

/** What things of a document are called among themselves. */
export const id = Joi.string().pattern(/^[A-Za-z0-9_-]{1,40}$/)

/** What people call them. */
export const name = Joi.string().max(200)

/** A number that must be there, within its range. */
export const within = ({ min, max }: { readonly min: number; readonly max: number }): Joi.NumberSchema =>
  Joi.number().min(min).max(max).required()

/** Outlines whose ground an operation leaves out. */
export const sparedSchema = Joi.array().items(id).max(500).unique().optional()
