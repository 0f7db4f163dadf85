import type { StockItem, StockKind } from '@neotaxis/contract'
import { formatLength, type LengthUnit, outlineSize, type StockPiece } from '@neotaxis/core'

export const KINDS: Readonly<Record<StockKind, string>> = { sheet: 'whole sheet', offcut: 'offcut', blank: 'blank' }
export const KINDS_MANY: Readonly<Record<StockKind, string>> = { sheet: 'whole sheets', offcut: 'offcuts', blank: 'blanks' }

/** “300 × 200 mm”, of an odd piece the box around it. */
export function sizeWords({ outline }: Pick<StockPiece, 'outline'>, unit: LengthUnit): string {
  if (outline.kind === 'circle') return `⌀ ${formatLength(outline.diameterMm, unit)}`
  const { widthMm, heightMm } = outlineSize(outline)
  return `${formatLength(widthMm, unit).replace(/\s*\D+$/, '')} × ${formatLength(heightMm, unit)}`
}

/** What of a thing on the shelf a job takes along. */
export const pieceOf = (item: StockItem): StockPiece => ({
  id: item.id,
  name: item.name,
  material: item.material,
  outline: item.outline,
  thicknessMm: item.thicknessMm,
  keepOuts: item.keepOuts,
  marks: item.marks,
  ...(item.grainDeg === undefined ? {} : { grainDeg: item.grainDeg }),
  cents: item.cents,
})
