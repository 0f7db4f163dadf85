import { type JobDocument, mainPiece, mappedRings, outlineOfFace, outlineSize, poseMap } from '@neotaxis/core'
import type { Layer } from '../layer.ts'
import { faceSpace, ringsPath, standUpright } from './face.ts'

/** Hatching lies so far apart, CSS px. */
const APART = 7

/** Places of the workpiece where nothing may be burned: hatched, with a dashed edge. */
export function keepOutLayer(job: JobDocument, colour: string): Layer {
  const keepOuts = Object.values(mainPiece(job).keepOuts)
  return {
    name: 'keep-outs',
    space: faceSpace(job),
    paint: (context, at) => {
      if (keepOuts.length === 0) return
      standUpright(context, at)
      const { view, size } = at.upright
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
