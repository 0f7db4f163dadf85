import { type Blank, faceSize, type JobDocument, mainPiece } from '@neotaxis/core'

/** The workpiece of a job, as proposals are told of it. */
export function blankOf(job: JobDocument): Blank {
  const piece = mainPiece(job)
  return { ...faceSize(piece), thicknessMm: piece.thicknessMm, outline: piece.outline, pose: piece.pose }
}
