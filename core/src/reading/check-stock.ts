import Joi from 'joi'
import { JobError } from '../job/document/job-error.ts'
import type { StockPiece } from '../stock/stock-piece.ts'
import { pieceSchema } from './job-schema.ts'

const { grainDeg, ...said } = pieceSchema
/** What a shop says of a piece beyond what a job takes along is left out. */
const piece = Joi.object({
  id: Joi.string().max(64).required(),
  name: Joi.string().max(200).required(),
  material: Joi.string().max(64).required(),
  cents: Joi.number().integer().min(0).max(1e9).default(0),
  ...said,
  grainDeg: grainDeg.optional(),
}).options({ stripUnknown: true, presence: 'required' })

const list = Joi.array().max(10_000).required()

/** A piece of stock as it was said, with how many of it are there and by what it is found. */
export interface ListedPiece {
  readonly piece: StockPiece
  readonly count: number
  readonly code: string
}

/**
 * The stock of a shop, from what its server answers or a file with the same words: a list, or an object that holds it as `stock`.
 * @throws JobError with one sentence where it is none
 */
export function checkStock(value: unknown): ListedPiece[] {
  const all: unknown = Array.isArray(value) ? value : (value as { stock?: unknown } | null)?.stock
  const { error, value: items } = list.validate(all)
  if (error) throw new JobError('This is no list of stock.')
  return (items as unknown[]).map((item, i) => {
    const { error, value: checked } = piece.validate(item)
    if (error) throw new JobError(`Piece ${i + 1} of the stock: ${error.message}.`)
    const { count, code } = item as { count?: unknown; code?: unknown }
    return {
      piece: checked as StockPiece,
      count: typeof count === 'number' && Number.isFinite(count) ? count : 1,
      code: typeof code === 'string' ? code : '',
    }
  })
}
