import { faceSize, type JobDocument, mainPiece } from '@neotaxis/core'
import type { Layer } from '../layer.ts'
import { faceSpace, standUpright } from './face.ts'
import { haloedWord } from './haloed-word.ts'

/** Places nearer to each other than this have no words, CSS px. */
const LEGIBLE_PX = 44

/** An uneven face: the places at which it is probed, and how far each lies under the highest, mm. */
export function heightsLayer(
  job: JobDocument,
  look: { readonly line: string; readonly ink: string; readonly halo: string },
): Layer {
  const piece = mainPiece(job)
  const { surface } = piece
  const { widthMm, heightMm } = faceSize(piece)
  return {
    name: 'heights',
    space: faceSpace(job),
    paint: (context, at) => {
      const heights = surface.kind === 'flat' ? surface.heights : undefined
      if (!heights) return
      standUpright(context, at)
      const { view } = at.upright
      const { columns, rows, mm } = heights
      const [dx, dy] = [widthMm / (columns - 1), heightMm / (rows - 1)]
      const isProbed = mm.some((each) => each !== 0)
      context.strokeStyle = look.line
      context.lineWidth = 1.4
      mm.forEach((each, i) => {
        const [x, y] = [((i % columns) * dx - view.x) * view.scale, (Math.floor(i / columns) * dy - view.y) * view.scale]
        context.beginPath()
        context.arc(x, y, 3.5, 0, 2 * Math.PI)
        context.stroke()
        if (isProbed && dx * view.scale >= LEGIBLE_PX)
          haloedWord(context, look, each > -0.05 ? '0' : each.toFixed(1), [x, y - 12])
      })
    },
  }
}
