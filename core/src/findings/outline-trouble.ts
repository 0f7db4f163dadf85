import { freeName } from '../edits/free-name.ts'
import { withOutlineStep } from '../edits/outline-edits.ts'
import { filledBy, shapeArea } from '../geometry/clip.ts'
import { flattenPath } from '../geometry/path.ts'
import { type Ring, ringArea } from '../geometry/ring.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { difference } from '../job/patches/edit.ts'
import { outlineLines, outlinePaths } from '../lineage/evaluate.ts'
import { FLATTEN_MM } from '../lineage/local.ts'
import { keyOf, type Supply } from '../lineage/supply.ts'
import type { Burning } from '../process/process.ts'
import { burningsOf, processOf } from '../process/table.ts'
import type { Found } from './finding.ts'

const MOST_RINGS = 3000

/** Outlines that are cut and do not close, or cross themselves. */
export function outlineTrouble(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id) => {
    const { cutting } = processOf(job.operations[id])
    if (!cutting) return []
    return burningsOf(job, id, supply).flatMap((context) => {
      const made = cutting(context)
      return made.encloses ? [...openOutlines(context), ...selfCrossings(context, made.key)] : []
    })
  })
}

/** Gaps that a step of clean-up closes at once, mm. */
const GAP_MM = 0.5

function openOutlines({ job, id, piece: { node, place }, supply }: Burning): Found[] {
  const lines = outlineLines(job, node, supply, place)
  if (lines.length === 0) return []
  const [x, y] = lines[0]
  const step = freeName(job.nodes, 'join')
  const joined = difference(
    job,
    withOutlineStep(job, node, { kind: 'join', on: true, gapMm: GAP_MM }, { step, node: freeName(job.nodes, 'cleaned') }),
  )
  return [
    {
      id: `open:${id}`,
      kind: 'open-outline',
      severity: 'note',
      operation: id,
      x,
      y,
      message:
        lines.length === 1
          ? 'An outline does not close: it is cut as a line, without its kerf.'
          : `${lines.length} outlines do not close: they are cut as lines, without their kerf.`,
      fixes: [{ label: `Join ends up to ${GAP_MM} mm`, patches: joined }],
    },
  ]
}

function selfCrossings({ job, id, piece: { node, place }, supply }: Burning, key: string): Found[] {
  const crossed = supply.cache.get(
    keyOf('crossings', key),
    () => {
      const paths = outlinePaths(job, node, supply, place).filter(({ closed }) => closed)
      return paths.length > MOST_RINGS ? [] : paths.map((path) => flattenPath(path, FLATTEN_MM)).filter(crossesItself)
    },
    () => 100,
  )
  if (crossed.length === 0) return []
  return [
    {
      id: `crossing:${id}`,
      kind: 'crossing',
      severity: 'note',
      operation: id,
      x: crossed[0][0],
      y: crossed[0][1],
      message:
        crossed.length === 1
          ? 'An outline crosses itself: which side is the part is a guess.'
          : `${crossed.length} outlines cross themselves: which side is the part is a guess.`,
      fixes: [],
    },
  ]
}

/** Whether a ring crosses itself: where it does, its area by even-odd is not what goes around it. */
function crossesItself(ring: Ring): boolean {
  const whole = Math.abs(ringArea(ring))
  return Math.abs(shapeArea(filledBy('evenodd', [ring])) - whole) > Math.max(1e-3, 1e-4 * whole)
}
