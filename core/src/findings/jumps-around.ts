import { withOperation } from '../edits/change.ts'
import { burnOrder, type JobDocument, mainPiece } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { onceAround } from '../job/document/workpiece.ts'
import { difference } from '../job/patches/edit.ts'
import type { Supply } from '../lineage/supply.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'

/** Lines steeper than this go around rather than along, degrees. */
const AROUND_DEG = 45

/** How an operation fills, where it does. */
type Filled = Extract<Operation, { readonly strategy: unknown }>

/** Why a fill would turn a round piece to and fro; undefined where it only steps around, once over everything. */
function whyItJumps({ strategy, deg, crossDeg, shareMm }: Filled): string | undefined {
  if (strategy === 'patches') return 'fills patch by patch: the piece is turned to and fro between them'
  if (strategy === 'rings') return 'fills along rings: the piece is turned to and fro for each of them'
  if (shareMm !== undefined) return 'sweeps over each shape by itself: the piece is turned back from one to the next'
  const steep = (angle: number): boolean => Math.abs(Math.sin((angle * Math.PI) / 180)) > Math.sin((AROUND_DEG * Math.PI) / 180)
  if (steep(deg) || (crossDeg !== undefined && steep(deg + crossDeg)))
    return 'has lines that go around: the piece is turned to and fro for each'
  return undefined
}

/** A fill that turns what is round more often than it must: along the axis the head is quick, and the piece only steps. */
export function jumpsAround(job: JobDocument, _supply: Supply): Found[] {
  if (onceAround(mainPiece(job)) === undefined) return []
  return burnOrder(job).flatMap((id, place): Found[] => {
    const operation = job.operations[id]
    if (!('strategy' in operation)) return []
    const why = whyItJumps(operation)
    const at = why === undefined ? undefined : atOperation(job, 'jumps-around', id)
    if (!why || !at) return []
    const once = withOperation(job, id, { strategy: 'sweep', deg: 0, crossDeg: undefined, shareMm: undefined })
    return [
      {
        ...at,
        severity: 'note',
        message: `${place + 1} ${why}. Swept along the axis over everything at once, it only steps around.`,
        fixes: [{ label: 'One sweep along the axis', patches: difference(job, once) }],
      },
    ]
  })
}
