import { micro } from '../../numeric/micro.ts'
import { type JobDocument, mainPieceId, type Placement, placesOf } from './document.ts'

/** How often some artwork lies on its workpiece, with all that is grouped with it: in rows, from left to right. */
export interface Repetition {
  readonly count: number
  readonly columns: number
  /** From one to the next, mm. */
  readonly pitchXMm: number
  readonly pitchYMm: number
}

/** The families that a repetition is about: its root, and what is grouped with it. */
export function repeatedRoots({ groups }: Pick<JobDocument, 'groups'>, root: string): string[] {
  const group = groups?.[root]
  return group === undefined ? [root] : [root, ...Object.keys(groups!).filter((id) => id !== root && groups![id] === group)]
}

/** What a place is called that a repetition makes: the i-th, from 1. */
const copyId = (root: string, i: number): string => `${root.slice(0, 34)}-r${i}`
const isCopy = (root: string, place: string): boolean => /^-r\d+$/.test(place.slice(Math.min(34, root.length)))

/** The one of a root's places that a repetition begins with. */
export const firstOfRepeat = (job: JobDocument, root: string, on = mainPieceId(job)): string | undefined =>
  placesOf(job, root).find((place) => job.placements[place].on === on && !isCopy(root, place))

/** How many entries the list of a text has; undefined where it has none. */
export function entriesOf(job: JobDocument, root: string): number | undefined {
  const node = job.nodes[root]
  return node?.kind === 'drawing' && node.drawn?.kind === 'text' ? node.drawn.series?.entries.length : undefined
}

/**
 * The job with all that is repeated laid as its first one lies: edges, names and pictures never slide apart. A text with a list shows an
 * entry at each place.
 */
export function relaid(job: JobDocument): JobDocument {
  if (!job.repeats) return job
  const placements: Record<string, Placement> = { ...job.placements }
  for (const [root, { count, columns, pitchXMm, pitchYMm }] of Object.entries(job.repeats)) {
    if (!job.nodes[root]) continue
    const on = job.placements[placesOf(job, root)[0]]?.on
    for (const each of repeatedRoots(job, root)) {
      const first = firstOfRepeat(job, each, on)
      if (first === undefined) continue
      for (const place of placesOf(job, each)) if (isCopy(each, place) && placements[place]?.on === on) delete placements[place]
      const entries = entriesOf(job, each)
      const like = placements[first]
      const entry = (i: number): Pick<Placement, 'entry'> => (entries === undefined ? {} : { entry: i % entries })
      placements[first] = { ...like, ...(count > 1 ? entry(0) : {}) }
      for (let i = 1; i < count; i++)
        placements[copyId(each, i)] = {
          ...like,
          ...entry(i),
          xMm: micro(like.xMm + (i % columns) * pitchXMm),
          yMm: micro(like.yMm + Math.floor(i / columns) * pitchYMm),
        }
    }
  }
  return { ...job, placements }
}
