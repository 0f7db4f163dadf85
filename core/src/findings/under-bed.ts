import { sagittaMm } from '../curved/curved.ts'
import { isEmptyBounds } from '../geometry/bounds.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { archOf } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import { burnedBoundsOf } from '../process/extent.ts'
import { burningsOf, processOf } from '../process/table.ts'
import type { Found } from './finding.ts'

const mm = (value: number): string => String(Number(value.toFixed(1)))
/** So much less than the bed is a measurement, mm. */
const SAME_MM = 0.2

/** A curved face that would lie under the bed where it is burned: its curve, or how high it stands, cannot be what was measured. Heights are measured over the bed. */
export function underBed(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id): Found[] => {
    for (const context of burningsOf(job, id, supply)) {
      const { workpiece, workpieceId } = context.piece
      const box = burnedBoundsOf(context)
      if (isEmptyBounds(box) || workpiece.surface.kind !== 'flat' || workpiece.surface.heights) continue
      const arch = archOf(workpiece)
      if (!arch) continue
      const { radiusMm, crownMm, across } = arch
      const corners = [box.x0, box.x1].flatMap((x) => [box.y0, box.y1].map((y) => ({ x, y })))
      const downAt = (at: { readonly x: number; readonly y: number }): number => sagittaMm(radiusMm, at[across] - crownMm)
      const far = corners.reduce((a, b) => (downAt(b) > downAt(a) ? b : a))
      const down = downAt(far)
      // Where it is steeper than any beam reaches, there is another finding.
      if (!(down > workpiece.thicknessMm + SAME_MM)) continue
      const { subject } = processOf(context.operation)
      return [
        {
          id: `under-bed:${id}`,
          kind: 'under-bed',
          severity: 'ask',
          operation: id,
          workpiece: workpieceId,
          ...far,
          message: `${subject} reaches where the face lies ${mm(down)} mm under its crown, and its crown stands ${mm(workpiece.thicknessMm)} mm over the bed: measure how high it stands, and give that as its thickness.`,
          fixes: [],
        },
      ]
    }
    return []
  })
}
