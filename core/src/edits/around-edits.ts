import type { Bounds } from '../geometry/bounds.ts'
import { type JobDocument, mainPiece, placeOf, sourceOf } from '../job/document/document.ts'
import { type InRows, isAround, repeatedRoots } from '../job/document/repeats.ts'
import { type FaceEnd, onceAround, outlineSize, type Workpiece } from '../job/document/workpiece.ts'
import { arcSeenAs, broughtRound, closedByGap, closedByScale, seenWidthMm } from '../rotary/around.ts'
import { diameterOn, widestMm } from '../rotary/round-face.ts'
import { poseBounds } from '../space/pose.ts'
import { groupedWith, laidAs, moved, turnedTo } from './change.ts'
import { firstRepetition, notRepeated, repeated, repetitionOf } from './repeat-edits.ts'

/** How what is repeated around closes: by its size, or by the room between. */
export type Closing = 'scale' | 'gap'

/**
 * The box around artwork and all that is grouped with it, face mm.
 * @param seen what is really seen of it, where that is known: a picture may have white around
 */
function boxAround(job: JobDocument, node: string, seen?: Bounds): Bounds {
  if (seen && groupedWith(job, node).length === 0) return seen
  const boxes = repeatedRoots(job, sourceOf(job, node)).map((root) => poseBounds(placeOf(job, root), placeOf(job, root)))
  return {
    x0: Math.min(...boxes.map(({ x0 }) => x0)),
    y0: Math.min(...boxes.map(({ y0 }) => y0)),
    x1: Math.max(...boxes.map(({ x1 }) => x1)),
    y1: Math.max(...boxes.map(({ y1 }) => y1)),
  }
}

/** @throws RangeError where the piece is flat */
function aroundOf(job: JobDocument): number {
  const around = onceAround(mainPiece(job))
  if (around === undefined) throw new RangeError('This piece is flat: nothing goes around it.')
  return around
}

/** How far artwork goes around, mm, with all that is grouped with it. */
export function reachAround(job: JobDocument, node: string, seen?: Bounds): number {
  const { y0, y1 } = boxAround(job, node, seen)
  return y1 - y0
}

/** Artwork, with its group, as much larger or smaller about its own middle. */
const scaled = (job: JobDocument, node: string, scale: number, seen?: Bounds): JobDocument => {
  const place = placeOf(job, sourceOf(job, node))
  const { x0, y0, x1, y1 } = boxAround(job, node, seen)
  // The middle of what is seen stays.
  const about = (own: number, kept: number): number => kept + (own - kept) * scale
  const middle = [
    about(place.xMm + place.widthMm / 2, (x0 + x1) / 2),
    about(place.yMm + place.heightMm / 2, (y0 + y1) / 2),
  ] as const
  return laidAs(job, node, { scale, byDeg: 0, middle })
}

/** A box as it is after its middle stayed and it was scaled. */
const grown = ({ x0, y0, x1, y1 }: Bounds, scale: number): Bounds => {
  const [cx, cy, w, h] = [(x0 + x1) / 2, (y0 + y1) / 2, ((x1 - x0) * scale) / 2, ((y1 - y0) * scale) / 2]
  return { x0: cx - w, y0: cy - h, x1: cx + w, y1: cy + h }
}

/** Artwork as large as it goes once around and meets itself. @throws RangeError where the piece is flat */
export const onceRound = (job: JobDocument, node: string, seen?: Bounds): JobDocument =>
  scaled(job, node, aroundOf(job) / reachAround(job, node, seen), seen)

/**
 * Artwork with its group so often around that it closes exactly: the last is as far from the first as any from the next.
 * @param how.count how often; absent: as often as changes its size least, or as there is room for
 * @param how.bands so many beside each other along the axis, evenly over the length of the face
 * @throws RangeError where the piece is flat
 */
export function timesRound(
  job: JobDocument,
  node: string,
  closing: Closing,
  { count, bands = 1, seen }: { readonly count?: number; readonly bands?: number; readonly seen?: Bounds | undefined } = {},
): JobDocument {
  const around = aroundOf(job)
  const once = repetitionOf(job, node) ? notRepeated(job, node) : job
  const before = boxAround(once, node, seen)
  const reach = before.y1 - before.y0
  const by = closing === 'gap' ? closedByGap(reach, around, count) : closedByScale(reach, around)
  const often = count ?? by.count
  const scale = closing === 'gap' ? 1 : around / often / reach
  const sized = scale === 1 ? once : scaled(once, node, scale, seen)
  const pitchYMm = around / often
  const { widthMm } = outlineSize(mainPiece(job).outline)
  const { x0, x1, y0 } = grown(before, scale)
  const pitchXMm = bands > 1 ? widthMm / bands : Math.max(1, x1 - x0)
  // The first band lies in the middle of its share; the first one around is that nearest to the seam, so that all lie on the face.
  const dx = bands > 1 ? pitchXMm / 2 - (x0 + x1) / 2 : 0
  const first = moved(sized, node, dx, often > 1 ? broughtRound(y0, pitchYMm) - y0 : 0)
  if (often * bands === 1) return first
  const rows: InRows = { ...firstRepetition(first, node), count: often * bands, columns: bands, pitchXMm, pitchYMm }
  return repeated(first, node, rows)
}

/** How often around artwork lies, and in how many bands; undefined where it lies otherwise. */
export function roundRows(
  job: JobDocument,
  node: string,
  seen?: Bounds,
): { readonly count: number; readonly bands: number; readonly gapMm: number } | undefined {
  const around = onceAround(mainPiece(job))
  const rows = repetitionOf(job, node)?.repetition
  if (around === undefined || !rows || isAround(rows)) return undefined
  const count = Math.ceil(rows.count / rows.columns)
  return { count, bands: rows.columns, gapMm: rows.pitchYMm - reachAround(job, node, seen) }
}

/** Artwork brought to a place around, by its middle. @param atMm face y, any number of turns */
function middleAt(job: JobDocument, node: string, atMm: number, seen?: Bounds): JobDocument {
  const { y0, y1 } = boxAround(job, node, seen)
  return moved(job, node, 0, broughtRound(atMm, aroundOf(job)) - (y0 + y1) / 2)
}

/** Artwork on the other side of what turns. @throws RangeError where the piece is flat */
export function acrossFrom(job: JobDocument, node: string): JobDocument {
  const { y0, y1 } = boxAround(job, node)
  return middleAt(job, node, (y0 + y1) / 2 + aroundOf(job) / 2)
}

/** Artwork brought round so that its middle lies on the face, not a turn beside it. */
export function onFace(job: JobDocument, node: string): JobDocument {
  if (onceAround(mainPiece(job)) === undefined) return job
  const { y0, y1 } = boxAround(job, node)
  const middle = (y0 + y1) / 2
  return middle >= 0 && middle < aroundOf(job) ? job : middleAt(job, node, middle)
}

/** The middle of a keep-out, face mm. */
function middleOfKeepOut({ keepOuts }: Workpiece, id: string): readonly [number, number] {
  const { pose, outline } = keepOuts[id]
  const { x0, y0, x1, y1 } = poseBounds(pose, outlineSize(outline))
  return [(x0 + x1) / 2, (y0 + y1) / 2]
}

/** Artwork centred on a place that is kept free, or opposite it: the handle of a cup. @throws RangeError where the piece is flat */
export function byKeepOut(job: JobDocument, node: string, id: string, isOpposite: boolean, seen?: Bounds): JobDocument {
  const [, y] = middleOfKeepOut(mainPiece(job), id)
  return middleAt(job, node, isOpposite ? y + aroundOf(job) / 2 : y, seen)
}

/** How thick what turns is where the middle of artwork lies, mm, and as a share of its widest place. */
function whereItLies(job: JobDocument, node: string, seen?: Bounds): { readonly diameterMm: number; readonly share: number } {
  const { surface, outline } = mainPiece(job)
  if (surface.kind === 'flat') throw new RangeError('This piece is flat.')
  const { x0, x1 } = boxAround(job, node, seen)
  const diameterMm = diameterOn(surface, outlineSize(outline).widthMm, (x0 + x1) / 2)
  return { diameterMm, share: diameterMm / widestMm(surface) }
}

/** How wide artwork is to the eye that looks at its middle from the front, mm. */
export function seenFromFront(job: JobDocument, node: string, seen?: Bounds): number | undefined {
  const { surface } = mainPiece(job)
  if (surface.kind === 'flat') return undefined
  const { diameterMm, share } = whereItLies(job, node, seen)
  return seenWidthMm(reachAround(job, node, seen) * share, diameterMm)
}

/** Artwork as large as it is to look from the front, mm. @throws RangeError where nothing looks as wide */
export function sizedAsSeen(job: JobDocument, node: string, seenMm: number, seen?: Bounds): JobDocument {
  const { surface } = mainPiece(job)
  if (surface.kind === 'flat') throw new RangeError('This piece is flat: it looks as wide as it is.')
  const { diameterMm, share } = whereItLies(job, node, seen)
  return scaled(job, node, arcSeenAs(seenMm, diameterMm) / share / reachAround(job, node, seen), seen)
}

/** How artwork is turned whose top is at an end of what turns, degrees clockwise. */
const UP: Record<FaceEnd, number> = { left: -90, right: 90 }

/** Artwork turned so that its top is at the lip of what turns, with what is grouped with it; at the left where nobody said where the lip is. */
export function uprightBy(job: JobDocument, node: string): JobDocument {
  const { surface } = mainPiece(job)
  return turnedTo(job, node, UP[surface.kind === 'flat' ? 'left' : (surface.lip ?? 'left')])
}
