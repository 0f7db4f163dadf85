import type { JobDocument } from '@neotaxis/core'
import type { Layer } from '../layer.ts'
import { facePath, faceSpace, standUpright, surfaceColour } from './face.ts'
import { drawArtwork } from './source-pictures.ts'

/** The pictures as they came, in their places on the bare workpiece. */
export function artworkLayer(job: JobDocument, shown: boolean, repaint: () => void): Layer {
  return {
    name: 'artwork',
    space: faceSpace(job),
    paint: (context, at) => {
      if (!shown) return
      standUpright(context, at)
      context.fillStyle = surfaceColour(job)
      context.fill(facePath(job, at.upright.view), 'evenodd')
      drawArtwork(context, job, at.upright.view, repaint)
    },
  }
}
