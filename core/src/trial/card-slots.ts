import { type JobDocument, mainPiece } from '../job/document/document.ts'
import { faceSize } from '../job/document/workpiece.ts'
import { mapped } from '../space/affine.ts'
import { poseMap } from '../space/pose.ts'
import { cellsOf, trialOf } from './measured.ts'

type Point = readonly [number, number]

/** Where the slot of a cell is measured: a place on the middle of its cut, mm of the bed, and the way of the cut there. */
export interface SlotPlace {
  readonly cell: string
  readonly at: Point
  readonly along: Point
}

/** The middle of the front side of each cell of a card whose cells are cut out, row by row. */
export function slotPlaces(job: JobDocument): SlotPlace[] {
  const piece = mainPiece(job)
  const map = poseMap(piece.pose, faceSize(piece))
  return cellsOf(trialOf(job)).map((cell) => {
    const { xMm, yMm, widthMm, heightMm } = job.placements[job.operations[cell].at?.[0] ?? cell]
    return { cell, at: mapped(map, xMm + widthMm / 2, yMm + heightMm), along: [map[0], map[1]] }
  })
}
