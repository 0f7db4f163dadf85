import type { StockItem } from '@neotaxis/contract'
import {
  byRecipe,
  type JobDocument,
  type Material,
  mainPiece,
  onMaterial,
  type Workpiece,
  withPieceMore,
  withStock,
} from '@neotaxis/core'
import { pieceOf } from './stock-words.ts'

/** The job with a piece of stock laid in beside what lies there. @param id new */
export function withStockMore(job: JobDocument, item: StockItem, material: Material | undefined, id: string): JobDocument {
  const { id: key, cents, ...piece } = pieceOf(item)
  const materials = material && !job.materials[material.id] ? { ...job.materials, [material.id]: material } : job.materials
  if (!materials[piece.material]) return job
  const laid: Workpiece = { ...piece, surface: { kind: 'flat' }, pose: { xMm: 0, yMm: 0 }, stock: { id: key, cents } }
  return withPieceMore({ ...job, materials }, id, laid)
}

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
