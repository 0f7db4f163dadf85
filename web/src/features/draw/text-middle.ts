import { type Drawn, faceSize, type JobDocument, mainPiece } from '@neotaxis/core'
import { drawnFile } from '../../workers/engine.ts'
import type { DrawnAt } from './drawn-into.ts'
import { plainLetters } from './plain-letters.ts'

/** A text that is larger than this share of the workpiece gets a box as large. */
const SHARE = 0.9

/**
 * A text in the middle of the workpiece: as large as any, in a box where it would not go on.
 * @throws Error with a sentence where it cannot be written
 */
export async function textInTheMiddle(job: JobDocument, text: string): Promise<{ readonly drawn: Drawn; readonly at: DrawnAt }> {
  const { widthMm, heightMm } = faceSize(mainPiece(job))
  const plain = plainLetters(text)
  const at = { xMm: widthMm / 2, yMm: heightMm / 2, by: 'middle' } as const
  const { box } = await drawnFile(plain)
  const goes = box.x1 - box.x0 <= SHARE * widthMm && box.y1 - box.y0 <= SHARE * heightMm
  const along = { kind: 'box', widthMm: SHARE * widthMm, heightMm: SHARE * heightMm } as const
  return { drawn: goes ? plain : { ...plain, along, align: 'middle' }, at }
}
