import type { JobDocument } from '@neotaxis/core'
import type { Layer } from '../layer.ts'
import { faceSpace, standUpright } from './face.ts'
import { drawArtwork } from './source-pictures.ts'

/** Pictures of which nothing is made yet: pale, so that nobody takes them for burned. @param roots which */
export function waitingLayer(job: JobDocument, roots: readonly string[], repaint: () => void): Layer {
  const nodes = Object.fromEntries(Object.entries(job.nodes).filter(([id]) => roots.includes(id)))
  return {
    name: 'waiting',
    space: faceSpace(job),
    paint: (context, at) => {
      if (roots.length === 0) return
      standUpright(context, at)
      context.globalAlpha = 0.3
      drawArtwork(context, { ...job, nodes }, at.upright.view, repaint)
      context.globalAlpha = 1
    },
  }
}
