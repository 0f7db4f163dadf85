import { type JobDocument, mainPiece, mappedRings, outlineOfFace, outlineSize, poseMap } from '@neotaxis/core'
import type { Layer } from '../layer.ts'
import { faceSpace, ringsPath, standUpright } from './face.ts'

/** Half of the cross of a mark, CSS px. */
const MARK_PX = 9
/** Hatching lies so far apart, CSS px. */
const APART = 7

/** Places of the workpiece where nothing may be burned, hatched, with a dashed edge; and marks by which it is found. */
export function keepOutLayer(job: JobDocument, colour: string): Layer {
  const { keepOuts: kept, marks } = mainPiece(job)
  const keepOuts = Object.values(kept)
  return {
    name: 'keep-outs',
    space: faceSpace(job),
    paint: (context, at) => {
      if (keepOuts.length === 0 && Object.keys(marks).length === 0) return
      standUpright(context, at)
      const { view, size } = at.upright
      context.strokeStyle = colour
      context.lineWidth = 1.4
      for (const { xMm, yMm } of Object.values(marks)) {
        const [x, y] = [(xMm - view.x) * view.scale, (yMm - view.y) * view.scale]
        context.beginPath()
        context.arc(x, y, 5, 0, 2 * Math.PI)
        context.moveTo(x - MARK_PX, y)
        context.lineTo(x + MARK_PX, y)
        context.moveTo(x, y - MARK_PX)
        context.lineTo(x, y + MARK_PX)
        context.stroke()
      }
      if (keepOuts.length === 0) return
      const rings = keepOuts.flatMap(({ outline, pose }) =>
        mappedRings(poseMap(pose, outlineSize(outline)), outlineOfFace(outline)),
      )
      const path = ringsPath(rings, view)
      context.strokeStyle = colour
      context.lineWidth = 1.4
      context.setLineDash([6, 4])
      context.stroke(path)
      context.setLineDash([])
      context.clip(path)
      context.lineWidth = 1
      context.globalAlpha = 0.55
      context.beginPath()
      for (let x = -size.height; x < size.width; x += APART) {
        context.moveTo(x, size.height)
        context.lineTo(x + size.height, 0)
      }
      context.stroke()
    },
  }
}
