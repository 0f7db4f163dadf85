import type { Path } from '../../geometry/path.ts'
import { withoutDoubles } from './doubles.ts'
import { joined } from './join.ts'
import { startingAt, withNodeChanged } from './nodes.ts'
import { simplified } from './simplify.ts'
import { erased, withFilledHoles, withoutSpecks } from './sizes.ts'
import type { OutlineStep, Spot, StepReport } from './steps.ts'
import { stretched } from './stretch.ts'

export interface Cleaned {
  readonly paths: readonly Path[]
  /** What each step did; of one that is off: nothing. */
  readonly reports: readonly (StepReport | undefined)[]
}

const nodesOf = (paths: readonly Path[]): number =>
  paths.reduce((sum, { kinds, closed }) => sum + kinds.length + (closed ? 0 : 1), 0)

/**
 * Outlines after clean-up, step by step.
 * @param paths mm, from the artwork's corner @param size of the artwork, mm: places in steps are shares of it
 */
export function cleaned(
  paths: readonly Path[],
  steps: readonly OutlineStep[],
  size: { readonly widthMm: number; readonly heightMm: number },
  progress?: (done: number) => void,
): Cleaned {
  let now = paths
  const reports = steps.map((step, i) => {
    progress?.(i / steps.length)
    if (!step.on) return undefined
    const before = now
    const { paths: made, offMm, trouble } = one(before, step, size)
    now = made
    return {
      removed: Math.max(0, before.length - made.length),
      fewerNodes: nodesOf(before) - nodesOf(made),
      ...(offMm === undefined ? {} : { offMm }),
      ...(trouble === undefined ? {} : { trouble }),
    }
  })
  return { paths: now, reports }
}

function one(
  paths: readonly Path[],
  step: OutlineStep,
  { widthMm, heightMm }: { readonly widthMm: number; readonly heightMm: number },
): { readonly paths: readonly Path[]; readonly offMm?: number; readonly trouble?: string } {
  const mm = ({ x, y }: Spot): [number, number] => [x * widthMm, y * heightMm]
  const orTrouble = (made: readonly Path[] | undefined, trouble: string) => (made ? { paths: made } : { paths, trouble })
  switch (step.kind) {
    case 'specks':
      return { paths: withoutSpecks(paths, step.areaMm2) }
    case 'erase':
      return {
        paths: erased(paths, {
          x: step.x * widthMm,
          y: step.y * heightMm,
          width: step.width * widthMm,
          height: step.height * heightMm,
          touched: step.touched,
        }),
      }
    case 'join':
      return { paths: joined(paths, step.gapMm) }
    case 'fill':
      return { paths: withFilledHoles(paths, step.areaMm2) }
    case 'doubles':
      return { paths: withoutDoubles(paths, step.withinMm) }
    case 'simplify': {
      const made = simplified(paths, step.toleranceMm)
      return { paths: made.paths, offMm: made.off }
    }
    case 'stretch':
      return orTrouble(stretched(paths, [...mm(step.from), ...mm(step.to)], step.as), 'Both places must lie on one outline.')
    case 'node':
      return orTrouble(
        withNodeChanged(paths, step.change, mm(step.at), step.to && mm(step.to)),
        'There is no such node any more.',
      )
    case 'start':
      return orTrouble(startingAt(paths, ...mm(step.at)), 'There is no closed outline here.')
  }
}
