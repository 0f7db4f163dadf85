import { type JobDocument, mainPiece, onceAround, outlineSize } from '@neotaxis/core'
import type { Layer } from '../../stage/layer.ts'
import { faceSpace, standUpright } from '../../stage/layers/face.ts'
import { haloedWord } from '../../stage/layers/haloed-word.ts'

interface Look {
  readonly line: string
  readonly ink: string
  readonly halo: string
}

/** How far the seam is drawn beyond the face, and the words beside it, CSS px. */
const BEYOND = 14
const BESIDE = 12

/** The face of something that turns, laid flat: its seam at rear and front, the quarters around, and its ends. */
export function roundLayer(job: JobDocument, { line, ink, halo }: Look): Layer {
  const piece = mainPiece(job)
  const around = onceAround(piece)
  const { widthMm } = outlineSize(piece.outline)
  const { surface } = piece
  return {
    name: 'round',
    space: faceSpace(job),
    paint: (context, at) => {
      if (around === undefined || surface.kind === 'flat') return
      standUpright(context, at)
      const { view } = at.upright
      const [left, right] = [-view.x * view.scale, (widthMm - view.x) * view.scale]
      const y = (mm: number): number => (mm - view.y) * view.scale
      context.strokeStyle = line
      context.lineWidth = 1.6
      context.setLineDash([7, 5])
      context.beginPath()
      for (const mm of [0, around]) {
        context.moveTo(left - BEYOND, y(mm))
        context.lineTo(right + BEYOND, y(mm))
      }
      context.stroke()
      context.setLineDash([])
      context.lineWidth = 1.2
      context.beginPath()
      for (const quarter of [0.25, 0.5, 0.75]) {
        context.moveTo(left - 9, y(quarter * around))
        context.lineTo(left - 2, y(quarter * around))
        context.moveTo(right + 2, y(quarter * around))
        context.lineTo(right + 9, y(quarter * around))
      }
      context.stroke()
      const word = (text: string, px: number, py: number, align: CanvasTextAlign, turn = 0): void =>
        haloedWord(context, { ink, halo }, text, [px, py], { align, turn })
      const middle = y(around / 2)
      const ends = { left: [] as string[], right: [] as string[] }
      if (surface.lip) ends[surface.lip].push('lip: this end up')
      if (surface.held) ends[surface.held].push('held here')
      if (ends.left.length > 0) word(ends.left.join(' · '), left - BEYOND - BESIDE, middle, 'center', -Math.PI / 2)
      if (ends.right.length > 0) word(ends.right.join(' · '), right + BEYOND + BESIDE, middle, 'center', Math.PI / 2)
      word(`seam · once around ${Number(around.toFixed(2))} mm`, right, y(around) + BESIDE, 'right')
    },
  }
}
