import { type Blank, faceSize, type JobDocument, mainPiece, outlineSize, type StockPiece } from '@neotaxis/core'

/** The workpiece of a job, as proposals are told of it. */
export function blankOf(job: JobDocument): Blank {
  const piece = mainPiece(job)
  return { ...faceSize(piece), thicknessMm: piece.thicknessMm, outline: piece.outline, pose: piece.pose }
}

/** A piece of stock, as proposals are told of it. */
export const blankOfStock = ({ outline, thicknessMm }: StockPiece): Blank => ({ ...outlineSize(outline), thicknessMm, outline })
