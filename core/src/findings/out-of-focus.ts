import { focusStrips, type SharpStrip, sagittaMm, sharpHalfWidth } from '../curved/curved.ts'
import { burnsInStrips } from '../curved/foci.ts'
import { heightAt } from '../curved/heights.ts'
import { followsFace } from '../curved/in-focus.ts'
import { withFollowing, withStrips } from '../edits/arch-edits.ts'
import { withLens } from '../edits/treatment-edits.ts'
import { type Bounds, isEmptyBounds, unite } from '../geometry/bounds.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { archOf, faceSize } from '../job/document/workpiece.ts'
import { difference } from '../job/patches/edit.ts'
import type { Supply } from '../lineage/supply.ts'
import { fittedLens } from '../machine/machine.ts'
import { burnedBoundsOf } from '../process/extent.ts'
import type { Burning } from '../process/process.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { sharpAlong } from '../rotary/profile.ts'
import type { Found } from './finding.ts'

/** Closer than this is the same, mm. */
const SAME_MM = 0.2

const mm = (value: number): string => String(Number(value.toFixed(1)))

/** What an operation burns on each workpiece: it has one focus there, however often it lies on it. */
function byWorkpiece(burnings: readonly Burning[]): { readonly context: Burning; readonly box: Bounds }[] {
  const all = new Map<string, { context: Burning; box: Bounds }>()
  for (const context of burnings) {
    const box = burnedBoundsOf(context)
    if (isEmptyBounds(box)) continue
    const { workpieceId } = context.piece
    const known = all.get(workpieceId)
    all.set(workpieceId, known ? { ...known, box: unite(known.box, box) } : { context, box })
  }
  return [...all.values()]
}

/** Of something stepped or bellied in a rotary: what is burned lies farther from the axis here than there. Its middle is in focus. */
function outAlong(context: Burning, box: Bounds, depthMm: number): Found | undefined {
  const { surface } = context.piece.workpiece
  if (surface.kind !== 'profile') return undefined
  const middle = (box.x0 + box.x1) / 2
  const [from, to] = sharpAlong(surface.places, middle, depthMm)
  if (box.x0 >= from - SAME_MM && box.x1 <= to + SAME_MM) return undefined
  const { subject } = processOf(context.operation)
  return {
    id: `out-of-focus:${context.id}`,
    kind: 'out-of-focus',
    severity: 'ask',
    operation: context.id,
    workpiece: context.piece.workpieceId,
    x: box.x0 < from ? box.x0 : box.x1,
    y: (box.y0 + box.y1) / 2,
    message: `${subject} goes from ${mm(box.x0)} to ${mm(box.x1)} mm along the piece, and with the focus in its middle it is sharp from ${mm(from)} to ${mm(to)} mm: elsewhere the piece is thicker or thinner.`,
    fixes: [],
  }
}

/** The lens follows the face from then on, where the machine moves it. */
const followFix = (job: JobDocument): Found['fixes'] =>
  job.machine.axes.z ? [{ label: 'Let the lens follow the face', patches: difference(job, withFollowing(job, true)) }] : []

/** It is burned in strips from then on, where the machine does not move its lens. */
const stripsFix = (job: JobDocument): Found['fixes'] =>
  job.machine.axes.z
    ? []
    : [{ label: 'Burn it in strips, and wait for each focus', patches: difference(job, withStrips(job, true)) }]

/** Places along a side of what is burned at which an uneven face is looked at. */
const LOOKS = 24

/** What is burned where an uneven face lies higher or lower than the lens stays sharp. */
function outOnUneven(
  job: JobDocument,
  { id, operation, piece: { workpiece, workpieceId } }: Burning,
  box: Bounds,
): Found | undefined {
  const { surface } = workpiece
  if (surface.kind !== 'flat' || !surface.heights) return undefined
  const { depthOfFocusMm, name } = fittedLens(job.machine)
  const far = { x: box.x0, y: box.y0, off: 0 }
  for (let i = 0; i <= LOOKS; i++)
    for (let k = 0; k <= LOOKS; k++) {
      const [x, y] = [box.x0 + ((box.x1 - box.x0) * i) / LOOKS, box.y0 + ((box.y1 - box.y0) * k) / LOOKS]
      const off = heightAt(surface.heights, faceSize(workpiece), x, y)
      if (Math.abs(off) > Math.abs(far.off)) Object.assign(far, { x, y, off })
    }
  if (Math.abs(far.off) <= depthOfFocusMm) return undefined
  return {
    id: `out-of-focus:${id}`,
    kind: 'out-of-focus',
    severity: 'ask',
    operation: id,
    workpiece: workpieceId,
    x: far.x,
    y: far.y,
    message: `${processOf(operation).subject} lies up to ${mm(Math.abs(far.off))} mm ${far.off > 0 ? 'higher' : 'lower'} than the piece is thick, and the ${name} lens is sharp for ${mm(depthOfFocusMm)} mm up and down.`,
    fixes: followFix(job),
  }
}

/** What is burned where a curved face falls away farther than the lens stays sharp: how wide it is sharp, and which lens would do. */
export function outOfFocus(job: JobDocument, supply: Supply): Found[] {
  const lens = fittedLens(job.machine)
  return burnOrder(job).flatMap((id) =>
    byWorkpiece(burningsOf(job, id, supply)).flatMap(({ context, box }): Found[] => {
      const along = outAlong(context, box, lens.depthOfFocusMm)
      if (along) return [along]
      const follows = followsFace(job, context.piece.workpiece)
      const uneven = follows ? undefined : outOnUneven(job, context, box)
      if (uneven) return [uneven]
      const { surface } = context.piece.workpiece
      if (surface.kind === 'flat' && surface.heights) return []
      const arch = archOf(context.piece.workpiece)
      if (!arch) return []
      const { radiusMm, crownMm, across } = arch
      const [from, to] = across === 'x' ? [box.x0, box.x1] : [box.y0, box.y1]
      const half = Math.max(Math.abs(from - crownMm), Math.abs(to - crownMm))
      const sharp = sharpHalfWidth(radiusMm, lens.depthOfFocusMm)
      if (half <= sharp) return []
      const far = Math.abs(from - crownMm) > Math.abs(to - crownMm) ? from : to
      const at = across === 'x' ? { x: far, y: (box.y0 + box.y1) / 2 } : { x: (box.x0 + box.x1) / 2, y: far }
      const told: Omit<Found, 'message' | 'fixes' | 'severity'> = {
        id: `out-of-focus:${id}`,
        kind: 'out-of-focus',
        operation: id,
        workpiece: context.piece.workpieceId,
        ...at,
      }
      const { subject } = processOf(context.operation)
      const away = `${subject} reaches ${mm(half)} mm from the crown, where the face lies ${mm(sagittaMm(radiusMm, half))} mm lower: the ${lens.name} lens is sharp ${mm(sharp)} mm to each side`
      const others = job.machine.lenses
        .filter(({ depthOfFocusMm }) => half <= sharpHalfWidth(radiusMm, depthOfFocusMm))
        .sort((a, b) => a.spotMm - b.spotMm)
      const fixes = others.slice(0, 1).map((other) => ({
        label: `Fit the ${other.name} lens: ±${mm(other.depthOfFocusMm)} mm, spot ${mm(other.spotMm)} mm`,
        patches: difference(job, withLens(job, other.id)),
      }))
      let strips: readonly SharpStrip[]
      try {
        strips = focusStrips(radiusMm, half, lens.depthOfFocusMm)
      } catch (cause) {
        return [{ ...told, severity: 'stop', message: `${away}. ${(cause as Error).message}`, fixes: [] }]
      }
      if (follows || burnsInStrips(job, context.piece.workpiece)) return []
      return [
        {
          ...told,
          severity: 'ask',
          message: `${away}; all of it takes ${strips.length} strips, each in a focus of its own.`,
          fixes: [...fixes, ...followFix(job), ...stripsFix(job)],
        },
      ]
    }),
  )
}
