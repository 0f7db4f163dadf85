import { combine, shapeArea } from '../geometry/clip.ts'
import { outlineOfFace, type PieceOutline, type Workpiece } from '../job/document/workpiece.ts'

/** A thing on the shelf as a job needs it: what of it is the same wherever it lies. */
export interface StockPiece extends Pick<Workpiece, 'outline' | 'thicknessMm' | 'keepOuts' | 'marks' | 'grainDeg'> {
  /** Id in stock. */
  readonly id: string
  readonly name: string
  /** Id of its material. */
  readonly material: string
  /** What one of it is worth, hundredths of the shop's currency. */
  readonly cents: number
}

/** What lies within the edge of a face, holes left out, mm². */
export const outlineArea = (outline: PieceOutline): number => shapeArea(combine('union', outlineOfFace(outline)))
