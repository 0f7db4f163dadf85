import {
  type Bounds,
  type JobDocument,
  mainPiece,
  mappedRings,
  onceAround,
  outlineOfFace,
  outlineSize,
  poseMap,
  type View,
} from '@neotaxis/core'
import { surfaceColour } from '../../stage/layers/face.ts'

/** What of the texture is drawn at most, px along a side. */
const MOST_PX = 2048
/** Finer is not seen on something that turns, px on a mm. */
const FINE = 10
const HATCH_PX = 12

interface Marks {
  readonly seam: string
  readonly free: string
  readonly selected: string
  readonly halo: string
}

/** How the whole face is painted for something that turns. */
export function textureView(job: JobDocument): View {
  const { widthMm, heightMm } = outlineSize(mainPiece(job).outline)
  const pxPerMm = Math.min(FINE, MOST_PX / widthMm, MOST_PX / heightMm)
  return {
    x: 0,
    y: 0,
    pxPerMm,
    widthPx: Math.max(1, Math.round(widthMm * pxPerMm)),
    heightPx: Math.max(1, Math.round(heightMm * pxPerMm)),
  }
}

/** Draws the face as it is wound around: the forecast, what is kept free, the seam, and the boxes of what is selected. */
export function drawFace(
  context: CanvasRenderingContext2D,
  job: JobDocument,
  burn: CanvasImageSource | undefined,
  boxes: readonly Bounds[],
  { seam, free, selected, halo }: Marks,
): void {
  const { pxPerMm, widthPx, heightPx } = textureView(job)
  const piece = mainPiece(job)
  const around = onceAround(piece)
  context.fillStyle = surfaceColour(job)
  context.fillRect(0, 0, widthPx, heightPx)
  if (burn) context.drawImage(burn, 0, 0, widthPx, heightPx)
  const wide = Math.max(2, heightPx / 260)
  // What crosses the seam is drawn on both sides of it.
  const turns = around === undefined ? [0] : [-around, 0, around]
  for (const { outline, pose } of Object.values(piece.keepOuts))
    for (const by of turns) {
      context.save()
      context.beginPath()
      for (const ring of mappedRings(poseMap(pose, outlineSize(outline)), outlineOfFace(outline))) {
        for (let i = 0; i < ring.length; i += 2) context.lineTo(ring[i] * pxPerMm, (ring[i + 1] + by) * pxPerMm)
        context.closePath()
      }
      context.strokeStyle = free
      context.lineWidth = wide
      context.stroke()
      context.clip()
      context.globalAlpha = 0.6
      context.beginPath()
      for (let x = -heightPx; x < widthPx; x += HATCH_PX) {
        context.moveTo(x, heightPx)
        context.lineTo(x + heightPx, 0)
      }
      context.stroke()
      context.restore()
    }
  context.setLineDash([5 * wide, 4 * wide])
  context.strokeStyle = seam
  context.lineWidth = wide
  context.beginPath()
  for (const y of [0, heightPx]) {
    context.moveTo(0, y)
    context.lineTo(widthPx, y)
  }
  context.stroke()
  context.setLineDash([])
  for (const [colour, thick] of [
    [halo, 2.4 * wide],
    [selected, wide],
  ] as const)
    for (const { x0, y0, x1, y1 } of boxes)
      for (const by of turns) {
        context.strokeStyle = colour
        context.lineWidth = thick
        context.strokeRect(x0 * pxPerMm, (y0 + by) * pxPerMm, (x1 - x0) * pxPerMm, (y1 - y0) * pxPerMm)
      }
}
