import type { JobDocument } from '../job/document/document.ts'
import { mainPiece } from '../job/document/document.ts'
import { archOf, faceSize, type Workpiece } from '../job/document/workpiece.ts'
import { fittedLens } from '../machine/machine.ts'
import { sagittaMm } from './curved.ts'
import { heightAt } from './heights.ts'

/** How much higher than it is thick a face lies at a place, face mm; undefined where it is level. Under its crown it is less than 0. */
export function riseOf(piece: Pick<Workpiece, 'surface' | 'outline'>): ((xMm: number, yMm: number) => number) | undefined {
  const { surface } = piece
  if (surface.kind !== 'flat') return undefined
  const size = faceSize(piece)
  const { heights } = surface
  if (heights) return (x, y) => heightAt(heights, size, x, y)
  const arch = archOf(piece)
  if (!arch) return undefined
  const { radiusMm, crownMm, across } = arch
  // Beyond its edges there is no face: as at the edge.
  return (x, y) => -sagittaMm(radiusMm, Math.min(crownMm, Math.abs((across === 'x' ? x : y) - crownMm)))
}

/** Whether the lens follows a face while it burns: it was asked to, and the machine moves it. */
export const followsFace = ({ machine }: Pick<JobDocument, 'machine'>, { surface }: Pick<Workpiece, 'surface'>): boolean =>
  surface.kind === 'flat' && surface.follows === true && machine.axes.z !== undefined

/**
 * How high the focus is set, mm over the bed: on the piece; under a crown that the lens does not follow half of its depth, so that it is sharp
 * as wide as can be.
 */
export function focusMm(job: JobDocument): number {
  const piece = mainPiece(job)
  const arch = archOf(piece)
  const uneven = piece.surface.kind === 'flat' && piece.surface.heights
  if (!arch || uneven || followsFace(job, piece)) return piece.thicknessMm
  return Math.max(
    0,
    piece.thicknessMm - Math.min(fittedLens(job.machine).depthOfFocusMm, sagittaMm(arch.radiusMm, arch.crownMm) / 2),
  )
}
