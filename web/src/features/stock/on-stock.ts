import type { StockItem } from '@neotaxis/contract'
import { byRecipe, type JobDocument, type Material, mainPiece, onMaterial, withStock } from '@neotaxis/core'
import { pieceOf } from './stock-words.ts'

/** The job on a piece of stock: of its material, thickness and outline, with the recipe that is used on it before others. */
export function onStockItem(
  job: JobDocument,
  item: StockItem,
  material: Material | undefined,
  placements?: JobDocument['placements'],
): JobDocument {
  const isOther = material !== undefined && mainPiece(job).material !== material.id
  const on = withStock(isOther ? onMaterial(job, material) : job, pieceOf(item))
  const laid = placements ? { ...on, placements: { ...on.placements, ...placements } } : on
  return item.recipe ? byRecipe(laid, item.recipe) : laid
}
