import type { StockItem, StockSaid } from '@neotaxis/contract'
import { outlineArea } from '@neotaxis/core'
import { customAlphabet } from 'nanoid'
import type { Stock } from '../models/stock.ts'

/** Characters that nobody takes for each other when they are read from a label. */
const code = customAlphabet('23456789ABCDEFGHJKMNPQRSTVWXYZ', 6)
/** A code that nothing has: 700 million of them. */
export const newCode = (): string => code()

/** A code as it may be typed or scanned: in small letters, with what labels carry around it. */
export const typedCode = (typed: string): string =>
  typed
    .trim()
    .toUpperCase()
    .replace(/^NEOTAXIS:/, '')
    .replaceAll(/[\s-]/g, '')

type Shape = Pick<StockSaid, 'outline' | 'keepOuts' | 'marks' | 'grainDeg'>

export const shapeOf = ({ piece }: Pick<Stock, 'piece'>): Shape => JSON.parse(piece) as Shape

/** A thing on the shelf as it is told. */
export const told = (row: Stock): StockItem => ({
  id: row.id,
  code: row.code,
  kind: row.kind,
  name: row.name,
  material: row.material,
  thicknessMm: row.thicknessMm,
  ...shapeOf(row),
  count: row.count,
  shelf: row.shelf,
  note: row.note,
  photo: row.photo,
  recipe: row.recipe,
  jig: row.jig,
  cents: row.cents,
  areaMm2: row.areaMm2,
  updatedAt: new Date(row.updatedAt).toISOString(),
})

/** What is said of a thing as it stands in the table. @param before what was said so far */
export function columnsOf(said: Partial<StockSaid> & { readonly grainDeg?: number | null }, before?: Shape): Partial<Stock> {
  const { outline, keepOuts, marks, grainDeg, ...rest } = said
  if (outline === undefined && keepOuts === undefined && marks === undefined && grainDeg === undefined) return rest
  const shape = {
    ...before,
    ...(outline && { outline }),
    ...(keepOuts && { keepOuts }),
    ...(marks && { marks }),
    ...(grainDeg !== undefined && { grainDeg: grainDeg ?? undefined }),
  } as Shape
  return { ...rest, piece: JSON.stringify(shape), ...(outline && { areaMm2: outlineArea(outline) }) }
}
