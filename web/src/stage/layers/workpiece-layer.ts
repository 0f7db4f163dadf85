import type { JobDocument } from '@neotaxis/core'
import type { Layer } from '../layer.ts'
import { facePath, faceSpace, standUpright, surfaceColour } from './face.ts'

/** The workpiece with its shadow: what of the bed is seen through it, or its bare surface. @param bed colour of the bed */
export function workpieceLayer(job: JobDocument, { bed, bare }: { readonly bed: string; readonly bare: () => boolean }): Layer {
  return {
    name: 'workpiece',
    space: faceSpace(job),
    paint: (context, at) => {
      standUpright(context, at)
      layOnBed(context, facePath(job, at.upright.view), bare() ? surfaceColour(job) : bed)
    },
  }
}

/** A workpiece with its shadow. The context is in CSS px, upright. */
export function layOnBed(context: CanvasRenderingContext2D, face: Path2D, colour: string): void {
  // A soft shadow in a few steps: a real blur costs more than all the rest.
  context.strokeStyle = 'rgb(0 0 0 / 2.5%)'
  context.fillStyle = 'rgb(0 0 0 / 2.5%)'
  context.lineJoin = 'round'
  context.translate(0, 3)
  for (const by of [0, 1, 2, 3, 4, 6, 8]) {
    context.lineWidth = 2 * by
    context.fill(face, 'evenodd')
    if (by > 0) context.stroke(face)
  }
  context.translate(0, -3)
  context.fillStyle = colour
  context.fill(face, 'evenodd')
}
