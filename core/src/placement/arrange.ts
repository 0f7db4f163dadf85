import { groupedWith, moved } from '../edits/change.ts'
import { type Bounds, unite } from '../geometry/bounds.ts'
import { type JobDocument, sourceOf } from '../job/document/document.ts'

/** Some artwork, and the box around it on the face, mm. */
export interface Boxed {
  readonly node: string
  readonly box: Bounds
}

/** On which side things are brought to one line. */
export type Side = 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom'

const LINES: Readonly<Record<Side, (box: Bounds) => number>> = {
  left: ({ x0 }) => x0,
  centre: ({ x0, x1 }) => (x0 + x1) / 2,
  right: ({ x1 }) => x1,
  top: ({ y0 }) => y0,
  middle: ({ y0, y1 }) => (y0 + y1) / 2,
  bottom: ({ y1 }) => y1,
}
const isAcross = (side: Side): boolean => side === 'left' || side === 'centre' || side === 'right'

/** What moves as one: families once, whatever of them is named; what is grouped together, with the box around all that is named of it. */
export function asOne(job: JobDocument, items: readonly Boxed[]): Boxed[] {
  const found = new Map<string, Boxed>()
  for (const { node, box } of items) {
    const root = sourceOf(job, node)
    const key = [root, ...groupedWith(job, root)].sort()[0]
    const known = found.get(key)
    found.set(key, { node: known?.node ?? node, box: known ? unite(known.box, box) : box })
  }
  return [...found.values()]
}

/** The job with artwork brought to a side of a box, each as far as it is away from there. */
export function aligned(job: JobDocument, items: readonly Boxed[], side: Side, to: Bounds): JobDocument {
  const line = LINES[side](to)
  return asOne(job, items).reduce((sum, { node, box }) => {
    const by = line - LINES[side](box)
    return isAcross(side) ? moved(sum, node, by, 0) : moved(sum, node, 0, by)
  }, job)
}

/** The job with artwork set so that the gaps between its pieces are alike; the outermost stay. @param axis along which */
export function spreadEvenly(job: JobDocument, items: readonly Boxed[], axis: 'x' | 'y'): JobDocument {
  const [from, to] = axis === 'x' ? (['x0', 'x1'] as const) : (['y0', 'y1'] as const)
  const all = asOne(job, items).sort((a, b) => a.box[from] + a.box[to] - b.box[from] - b.box[to])
  if (all.length < 3) return job
  const length = all.reduce((sum, { box }) => sum + box[to] - box[from], 0)
  const gap = (Math.max(...all.map(({ box }) => box[to])) - all[0].box[from] - length) / (all.length - 1)
  let at = all[0].box[from]
  return all.reduce((sum, { node, box }) => {
    const by = at - box[from]
    at += box[to] - box[from] + gap
    return axis === 'x' ? moved(sum, node, by, 0) : moved(sum, node, 0, by)
  }, job)
}
