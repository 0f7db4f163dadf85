import { pieceSchema, type Rates, type StockPiece } from '@neotaxis/core'
import Joi from 'joi'
import { count, id, moment, sha256, text, whole } from './words.ts'

/** Whole sheets as they are bought, what was left of them, and things of a shape of their own that are bought or made alike. */
export const STOCK_KINDS = ['sheet', 'offcut', 'blank'] as const
export type StockKind = (typeof STOCK_KINDS)[number]

/** What lies on the shelf. */
export interface StockItem extends StockPiece {
  readonly kind: StockKind
  /** Typed or scanned, it is found by it: also the one of the jig that holds it. */
  readonly code: string
  /** How many of it are there. */
  readonly count: number
  /** Where it lies. */
  readonly shelf: string
  readonly note: string
  readonly photo: string | null
  /** The recipe that is used on it before others: its id. */
  readonly recipe: string | null
  /** The job that makes the jig for it. */
  readonly jig: string | null
  readonly areaMm2: number
  readonly updatedAt: string
}

/** What people say of it. */
export type StockSaid = Omit<StockItem, 'id' | 'code' | 'areaMm2' | 'updatedAt'>

/** What nobody said of a piece yet. */
export const UNSAID = {
  keepOuts: {},
  marks: {},
  count: 1,
  shelf: '',
  note: '',
  photo: null,
  recipe: null,
  jig: null,
  cents: 0,
} as const

const cents = Joi.number().integer().min(0).max(1e9)
const { grainDeg, ...piece } = pieceSchema
const grain = { grainDeg: grainDeg.optional() }
const said = {
  name: Joi.string().trim().min(1).max(200),
  kind: Joi.valid(...STOCK_KINDS),
  material: id,
  count: Joi.number().integer().min(0).max(100_000),
  shelf: text.max(200),
  note: text.max(2000),
  photo: sha256.allow(null),
  recipe: id.allow(null),
  jig: id.allow(null),
  cents,
  ...piece,
}
const each = Object.entries(said) as [string, Joi.Schema][]

export const stockItem = whole({ ...said, id, code: Joi.string(), areaMm2: Joi.number().min(0), updatedAt: moment }).keys(grain)

export const newStock = whole(said).keys(grain).required()

export const stockChange = Joi.object<Partial<StockSaid>>({
  ...Object.fromEntries(each.map(([key, schema]) => [key, schema.optional()])),
  grainDeg: Joi.number().min(-360).max(360).allow(null),
})
  .min(1)
  .required()

export interface StockAsked {
  readonly search: string
}
export const stockAsked = Joi.object<StockAsked>({ search: text.max(100).default('') })

/** What a run took from stock. */
export interface StockUse {
  readonly id: string
  readonly stockId: string
  readonly runId: string
  /** The job’s name. */
  readonly name: string
  readonly material: string
  readonly areaMm2: number
  readonly cents: number
  /** What went otherwise than it should: it was not there any more. */
  readonly note: string
  readonly at: string
}

export const stockUse = whole({
  id,
  stockId: id,
  runId: id,
  name: text,
  material: text,
  areaMm2: Joi.number().min(0),
  cents,
  note: text,
  at: moment,
})

export const usesAsked = Joi.object<{ readonly stock?: string; readonly run?: string }>({ stock: id, run: id })

/** What was used in a month of one material. */
export interface MonthUse {
  /** As in 2026-11. */
  readonly month: string
  readonly material: string
  readonly areaMm2: number
  readonly cents: number
  readonly runs: number
}

export const monthUse = whole({ month: Joi.string(), material: text, areaMm2: Joi.number(), cents: Joi.number(), runs: count })

export const rates = Joi.object<Rates>({
  currency: Joi.string().trim().min(1).max(6).required(),
  machineHourCents: cents.required(),
  handHourCents: cents.required(),
  runMinutes: Joi.number().min(0).max(600).required(),
})
