import type { JobDocument } from '../job/document/document.ts'
import { archOf, type Workpiece } from '../job/document/workpiece.ts'
import { fittedLens } from '../machine/machine.ts'
import { focusStrips, STEEPEST } from './curved.ts'

/** A focus of a curved face: how deep under its crown it is set, and where the face is sharp then, face mm. */
export interface FaceFocus {
  readonly underMm: number
  readonly across: 'x' | 'y'
  /** Stretches across the face, one over the crown or one to each side of it. */
  readonly spans: readonly (readonly [fromMm: number, toMm: number])[]
}

/** Whether a face is burned in strips, with a pause for each focus: it was asked to, it is curved, and the machine does not move its lens. */
export const burnsInStrips = ({ machine }: Pick<JobDocument, 'machine'>, { surface }: Pick<Workpiece, 'surface'>): boolean =>
  surface.kind === 'flat' && surface.strips === true && surface.arch !== undefined && !surface.heights && !machine.axes.z

/**
 * The foci of a piece from its crown down, each twice the depth of focus under the one before. The last one reaches past the edge of
 * the face: what is burned out there belongs to some strip as well.
 * @returns nothing where one focus does for all of it, or where it is not burned in strips
 */
export function fociOf(job: Pick<JobDocument, 'machine'>, piece: Workpiece): FaceFocus[] {
  const arch = archOf(piece)
  if (!arch || !burnsInStrips(job, piece)) return []
  const { radiusMm, crownMm, across } = arch
  const half = Math.min(crownMm, STEEPEST * radiusMm)
  const foci = new Map<number, [number, number][]>()
  for (const { fromMm, toMm, focusMm } of focusStrips(radiusMm, half, fittedLens(job.machine).depthOfFocusMm)) {
    const from = fromMm <= -half ? -Infinity : crownMm + fromMm
    const to = toMm >= half ? Infinity : crownMm + toMm
    foci.set(focusMm, [...(foci.get(focusMm) ?? []), [from, to]])
  }
  if (foci.size < 2) return []
  return [...foci].sort(([a], [b]) => a - b).map(([underMm, spans]) => ({ underMm, across, spans }))
}
