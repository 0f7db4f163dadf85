import { placementError } from '../camera/placement-error.ts'
import type { BedView } from '../camera/rectify.ts'
import { type JobDocument, mainPiece } from '../job/document/document.ts'
import { faceSize } from '../job/document/workpiece.ts'
import { mapped } from '../space/affine.ts'
import { poseBounds, poseMap } from '../space/pose.ts'
import { cellsOf, trialOf } from './measured.ts'

/** A cell is looked at so far inside its edge, mm, and what is untouched around it between these distances. */
const INSIDE_MM = 1
const AROUND_MM = { from: 0.7, to: 1.9 } as const
/** A burn is looked for so far around where it should be, mm. */
const FARTHEST_MM = 4
/** The dark square has to be so much darker than what is around it, or nothing can be told by it. */
const LEAST_CONTRAST = 0.12

/** The part of the bed that a card lies on, to be looked at in so many pixels for a millimetre. */
export function cardView(job: JobDocument, pxPerMm: number): BedView {
  const piece = mainPiece(job)
  const { x0, y0, x1, y1 } = poseBounds(piece.pose, faceSize(piece))
  return {
    x: x0 - FARTHEST_MM,
    y: y0 - FARTHEST_MM,
    pxPerMm,
    widthPx: Math.ceil((x1 - x0 + 2 * FARTHEST_MM) * pxPerMm),
    heightPx: Math.ceil((y1 - y0 + 2 * FARTHEST_MM) * pxPerMm),
  }
}

interface Patch {
  readonly light: number
  readonly around: number
}

/** The middle value of some lights: dirt and scratches count for nothing. */
function middle(values: number[]): number {
  values.sort((a, b) => a - b)
  return values[values.length >> 1]
}

/**
 * How dark each cell of a card is in a photo of it: its light against the untouched material around it, as a share of what the square
 * burned fully dark has against its own. So neither lamps nor the colour of the material count.
 * @param light of the photo, rectified onto the card's face as `view` says; any scale
 * @param expected how dark the forecast is there, any scale: where the card lies in the photo is found by it
 * @returns tones 0–1 by cell, and how much darker than what is untouched the dark square is, a share @throws RangeError with a sentence
 * where the card is not seen
 */
export function tonesOfCard(
  job: JobDocument,
  light: ArrayLike<number>,
  expected: ArrayLike<number>,
  view: BedView,
): { readonly tones: ReadonlyMap<string, number>; readonly contrast: number } {
  const trial = trialOf(job)
  if (trial.full === undefined || !job.placements[trial.full])
    throw new RangeError('This card has no square that is fully dark: tones cannot be told by a photo of it.')
  const { widthPx, heightPx, pxPerMm } = view
  // What is burned may turn lighter: slate, coated metal.
  const seen = (map: ArrayLike<number>) => placementError(map, expected, widthPx, heightPx, 1 / pxPerMm, FARTHEST_MM)
  const off = seen(light) ?? seen(Float32Array.from(light, (v) => -v))
  if (!off)
    throw new RangeError(
      'The card is not seen in the photo: leave it where it was burned, take your hands away, and light the bed.',
    )
  const piece = mainPiece(job)
  const toBed = poseMap(piece.pose, faceSize(piece))
  const patch = (place: string): Patch => {
    const { xMm, yMm, widthMm, heightMm } = job.placements[place]
    const [x, y] = mapped(toBed, xMm + widthMm / 2, yMm + heightMm / 2)
    const [cx, cy] = [(x + off.dxMm - view.x) * pxPerMm, (y + off.dyMm - view.y) * pxPerMm]
    // Cards lie straight or turned by quarters; a little skew stays within what is left free at the edge.
    const half = (Math.min(widthMm, heightMm) / 2) * pxPerMm
    const inner = half - INSIDE_MM * pxPerMm
    const [near, far] = [half + AROUND_MM.from * pxPerMm, half + AROUND_MM.to * pxPerMm]
    const own: number[] = []
    const ring: number[] = []
    for (let py = Math.floor(cy - far); py <= cy + far; py++)
      for (let px = Math.floor(cx - far); px <= cx + far; px++) {
        if (px < 0 || py < 0 || px >= widthPx || py >= heightPx) continue
        const away = Math.max(Math.abs(px + 0.5 - cx), Math.abs(py + 0.5 - cy))
        if (away <= inner) own.push(light[py * widthPx + px])
        else if (away >= near && away <= far) ring.push(light[py * widthPx + px])
      }
    if (own.length === 0 || ring.length === 0) throw new RangeError('A part of the card lies outside the photo.')
    // Labels stand beside some cells: most of what is around is untouched, so the upper part of it is.
    ring.sort((a, b) => a - b)
    return { light: middle(own), around: ring[Math.floor(0.6 * ring.length)] }
  }
  const full = patch(trial.full)
  const whole = 1 - full.light / full.around
  if (!(Math.abs(whole) > LEAST_CONTRAST))
    throw new RangeError(
      'The dark square of the card can hardly be told from the material in this photo: more light, or measure it by hand.',
    )
  const place = (cell: string): string => job.operations[cell].at?.[0] ?? cell
  const tones = new Map(
    cellsOf(trial).map((cell) => {
      const { light: own, around } = patch(place(cell))
      return [cell, Number(Math.min(1, Math.max(0, (1 - own / around) / whole)).toFixed(3))]
    }),
  )
  return { tones, contrast: Number(whole.toFixed(4)) }
}
