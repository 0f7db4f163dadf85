import {
  archOf,
  faceSize,
  fittedLens,
  fociOf,
  followsFace,
  type JobDocument,
  mainPiece,
  STEEPEST,
  sharpHalfWidth,
} from '@neotaxis/core'
import type { Layer } from '../layer.ts'
import { facePath, faceSpace, standUpright } from './face.ts'

/** A curved face: what lies out of focus is veiled, the crown and the edges of what is sharp are lines. */
export function archLayer(job: JobDocument, { line, veil }: { readonly line: string; readonly veil: string }): Layer {
  const piece = mainPiece(job)
  const arch = archOf(piece)
  const { widthMm, heightMm } = faceSize(piece)
  return {
    name: 'arch',
    space: faceSpace(job),
    paint: (context, at) => {
      // Heights that were found say more.
      if (!arch || (piece.surface.kind === 'flat' && piece.surface.heights)) return
      standUpright(context, at)
      const { view } = at.upright
      context.clip(facePath(job, view), 'evenodd')
      const isAcross = arch.across === 'x'
      const px = (mm: number): number => (mm - (isAcross ? view.x : view.y)) * view.scale
      const [low, high] = isAcross
        ? [-view.y * view.scale, (heightMm - view.y) * view.scale]
        : [-view.x * view.scale, (widthMm - view.x) * view.scale]
      // Where the lens follows, all of it is sharp; where a hand sets it for each strip, what none of them takes in is not.
      const foci = fociOf(job, piece)
      const sharp = followsFace(job, piece)
        ? arch.crownMm
        : foci.length > 0
          ? Math.min(arch.crownMm, STEEPEST * arch.radiusMm)
          : sharpHalfWidth(arch.radiusMm, fittedLens(job.machine).depthOfFocusMm)
      const [from, to] = [px(arch.crownMm - sharp), px(arch.crownMm + sharp)]
      const [first, last] = [px(0), px(2 * arch.crownMm)]
      const box = (a: number, b: number): void => {
        if (b <= a) return
        if (isAcross) context.fillRect(a, low, b - a, high - low)
        else context.fillRect(low, a, high - low, b - a)
      }
      context.fillStyle = veil
      box(first, Math.max(first, from))
      box(Math.min(last, to), last)
      context.strokeStyle = line
      context.lineWidth = 1.4
      const stroke = (a: number, dash: readonly number[]): void => {
        context.setLineDash([...dash])
        context.beginPath()
        context.moveTo(...(isAcross ? ([a, low] as const) : ([low, a] as const)))
        context.lineTo(...(isAcross ? ([a, high] as const) : ([high, a] as const)))
        context.stroke()
      }
      stroke(px(arch.crownMm), [2, 5])
      if (from > first) stroke(from, [7, 5])
      if (to < last) stroke(to, [7, 5])
      // Where one strip ends and the next begins: each edge is told by both.
      for (const edge of new Set(foci.flatMap(({ spans }) => spans.flat()))) if (Number.isFinite(edge)) stroke(px(edge), [7, 5])
    },
  }
}
