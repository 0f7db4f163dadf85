import type { BlankPiece } from '../camera/blanks/blank-piece.ts'
import { type JobDocument, mainPieceId, placesOf, withPiece } from '../job/document/document.ts'
import { faceSize, type Workpiece } from '../job/document/workpiece.ts'
import { micro } from '../numeric/micro.ts'
import { onEach, withPieceMore } from './piece-edits.ts'

/**
 * The job with blanks that were seen on the bed as its workpieces, each where it lies: the first becomes the one that is looked at, with
 * what lies on it in its middle; the others come beside it. Those that are like the first get the same artwork, turned as they lie.
 * @param ids new ones, for all but the first @param blanks `like`: which of them each is like, the first of its kind itself
 */
export function onBlanks(
  job: JobDocument,
  blanks: readonly { readonly piece: BlankPiece; readonly like: number }[],
  thicknessMm: number,
  ids: readonly string[],
): JobDocument {
  if (blanks.length === 0) return job
  const main = mainPieceId(job)
  const [first, ...others] = blanks
  let now = onBlank(job, first.piece, thicknessMm, main)
  const like = now.workpieces[main]
  const alike = [main]
  others.forEach(({ piece, like: of }, i) => {
    const id = ids[i]
    const made: Workpiece = { ...like, ...piece, thicknessMm }
    now = withPieceMore(now, id, made)
    // Where it lies is what was seen, not where there is room.
    now = withPiece(now, { pose: piece.pose }, id)
    if (of === 0) alike.push(id)
  })
  if (alike.length < 2) return now
  const roots = [...new Set(Object.values(now.placements).flatMap(({ of, on }) => (on === main ? [of] : [])))]
  return roots.reduce((sum, root) => (placesOf(sum, root).length === 1 ? onEach(sum, root, alike) : sum), now)
}

/** One workpiece as a blank that was seen: what lies on it stays in the middle of its face. */
function onBlank(job: JobDocument, piece: BlankPiece, thicknessMm: number, id: string): JobDocument {
  const before = faceSize(job.workpieces[id])
  const now = withPiece(job, { ...piece, thicknessMm, marks: {} }, id)
  const after = faceSize(now.workpieces[id])
  const [dx, dy] = [(after.widthMm - before.widthMm) / 2, (after.heightMm - before.heightMm) / 2]
  const placements = Object.fromEntries(
    Object.entries(now.placements).map(([key, place]) => [
      key,
      place.on === id ? { ...place, xMm: micro(place.xMm + dx), yMm: micro(place.yMm + dy) } : place,
    ]),
  )
  return { ...now, placements }
}
