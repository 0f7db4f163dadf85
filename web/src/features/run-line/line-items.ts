import { burns, type JobDocument, type Step, stretchesOf } from '@neotaxis/core'
import { BLOCK_GAP } from '../../parts/Block.tsx'

/** One thing that stands in the line: what is burned, what the machine waits for, or a folded group of both. */
export type LineItem =
  | { readonly kind: 'burn'; readonly id: string; readonly operation: string; readonly off: boolean; readonly group?: string }
  | { readonly kind: 'stop'; readonly id: string; readonly step: Exclude<Step, { kind: 'burn' }>; readonly group?: string }
  | { readonly kind: 'group'; readonly id: string; readonly name: string; readonly steps: readonly string[] }

/** What stands in the line of a job, in its order. @param folded names of the groups that are one block */
export function lineItems(job: Pick<JobDocument, 'steps' | 'order'>, folded: readonly string[]): LineItem[] {
  return stretchesOf(job).flatMap(({ group, steps }): LineItem[] => {
    if (group !== undefined && folded.includes(group)) return [{ kind: 'group', id: `group:${steps[0]}`, name: group, steps }]
    return steps.map((id): LineItem => {
      const step = job.steps[id]
      const within = group === undefined ? {} : { group }
      if (step.kind === 'burn') return { kind: 'burn', id, operation: step.operation, off: !burns(step), ...within }
      return { kind: 'stop', id, step, ...within }
    })
  })
}

/** The steps that an item stands for. */
export const stepsOfItem = (item: LineItem): readonly string[] => (item.kind === 'group' ? item.steps : [item.id])

/** The operations that burn in an item. */
export const burnedIn = (job: Pick<JobDocument, 'steps'>, item: LineItem): string[] =>
  stepsOfItem(item).flatMap((id) => {
    const step = job.steps[id]
    return burns(step) ? [step.operation] : []
  })

/** Where steps go that are put in the place of an item: their place among the steps that stay. */
export function placeAmong(items: readonly LineItem[], moved: LineItem, over: LineItem): number {
  const after = items.indexOf(over) > items.indexOf(moved)
  const rest = items.filter((item) => item !== moved)
  const before = rest.slice(0, rest.indexOf(over) + (after ? 1 : 0))
  return before.reduce((sum, item) => sum + stepsOfItem(item).length, 0)
}

const SMALLEST = 104
/** What takes no time of the machine. */
const NARROW = 46

/**
 * Widths of blocks in proportion to their times, none smaller than can be read and grasped.
 * @param fixed px of those that have no time; undefined: by its time
 */
export function blockWidths(
  seconds: readonly number[],
  room: number,
  { smallest = SMALLEST, fixed = [] }: { readonly smallest?: number; readonly fixed?: readonly (number | undefined)[] } = {},
): number[] {
  const narrow = fixed.reduce<number>((sum, px = 0) => sum + px, 0)
  const timed = seconds.flatMap((_, i) => (fixed[i] === undefined ? [i] : []))
  const width = Math.max(0, room - narrow - BLOCK_GAP * Math.max(0, seconds.length - 1))
  const shares = shared(
    timed.map((i) => seconds[i]),
    width,
    Math.min(smallest, width / Math.max(1, timed.length)),
  )
  return seconds.map((_, i) => fixed[i] ?? shares[timed.indexOf(i)])
}

function shared(seconds: readonly number[], width: number, least: number): number[] {
  let narrow = new Set<number>()
  for (;;) {
    const free = seconds.reduce((sum, s, i) => (narrow.has(i) ? sum : sum + s), 0)
    const left = width - narrow.size * least
    const small = seconds.flatMap((s, i) => (!narrow.has(i) && (free > 0 ? (s / free) * left : 0) < least ? [i] : []))
    if (small.length === 0) return seconds.map((s, i) => (narrow.has(i) ? least : (s / free) * left))
    narrow = new Set([...narrow, ...small])
    if (narrow.size === seconds.length) return seconds.map(() => width / seconds.length)
  }
}

/** How wide the items of a line are, px. @param seconds of every operation */
export function itemWidths(
  job: Pick<JobDocument, 'steps'>,
  items: readonly LineItem[],
  seconds: (operation: string) => number,
  room: number,
): { readonly seconds: readonly number[]; readonly widths: readonly number[]; readonly starts: readonly number[] } {
  const times = items.map((item) => burnedIn(job, item).reduce((sum, id) => sum + seconds(id), 0))
  const fixed = items.map((item) => (burnedIn(job, item).length === 0 ? NARROW : undefined))
  const widths = blockWidths(times, room, { fixed })
  const starts = widths.map((_, i) => widths.slice(0, i).reduce((sum, w) => sum + w + BLOCK_GAP, 0))
  return { seconds: times, widths, starts }
}
