import { micro } from '../../numeric/micro.ts'
import { cosSin } from '../../space/affine.ts'
import { poseBounds, readDeg } from '../../space/pose.ts'
import { type JobDocument, mainPieceId, type Placement, placesOf } from './document.ts'

/** How often some artwork lies on its workpiece, with all that is grouped with it. */
export type Repetition = InRows | AroundCircle

/** In rows, from left to right. */
export interface InRows {
  readonly count: number
  readonly columns: number
  /** From one to the next, mm. */
  readonly pitchXMm: number
  readonly pitchYMm: number
}

/** On a circle, one after the other the way the hands of a clock go. */
export interface AroundCircle {
  readonly count: number
  /** Of the circle that the middles lie on, mm. */
  readonly diameterMm: number
  /** Where the first one stands, seen from the middle: degrees, 0 to the right, −90 at the top. */
  readonly atDeg: number
  /** Over so much of the circle, degrees: all of it, or from the first to the last. */
  readonly overDeg: number
  /** Whether each is turned as it goes around; else all stand as the first one does. */
  readonly turned: boolean
}

export const isAround = (repetition: Repetition): repetition is AroundCircle => 'diameterMm' in repetition

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

/** The middle of the circle that a first box stands on. */
function circleMiddle([x, y]: readonly [number, number], { diameterMm, atDeg }: AroundCircle): readonly [number, number] {
  const [cos, sin] = cosSin(atDeg)
  return [x - (diameterMm / 2) * cos, y - (diameterMm / 2) * sin]
}

/** How a place like the first one lies as the i-th. @param middle of all that is repeated, where its first one lies */
type Laid = (like: Placement, i: number) => Pick<Placement, 'xMm' | 'yMm' | 'deg'>

function laying(repetition: Repetition, middle: readonly [number, number]): Laid {
  if (!isAround(repetition)) {
    const { columns, pitchXMm, pitchYMm } = repetition
    return ({ xMm, yMm }, i) => ({
      xMm: micro(xMm + (i % columns) * pitchXMm),
      yMm: micro(yMm + Math.floor(i / columns) * pitchYMm),
    })
  }
  const { count, overDeg, turned } = repetition
  const [cx, cy] = circleMiddle(middle, repetition)
  const step = overDeg >= 360 ? 360 / count : overDeg / Math.max(1, count - 1)
  return (like, i) => {
    const [cos, sin] = cosSin(step * i)
    const round = (x: number, y: number): readonly [number, number] => [
      cx + (x - cx) * cos - (y - cy) * sin,
      cy + (x - cx) * sin + (y - cy) * cos,
    ]
    const [w, h] = [like.widthMm / 2, like.heightMm / 2]
    const own = [like.xMm + w, like.yMm + h] as const
    if (turned) {
      const [x, y] = round(...own)
      return { xMm: micro(x - w), yMm: micro(y - h), deg: readDeg((like.deg ?? 0) + step * i) }
    }
    const [x, y] = round(...middle)
    return { xMm: micro(like.xMm + x - middle[0]), yMm: micro(like.yMm + y - middle[1]) }
  }
}

/** The middle of what is repeated, where its first one lies; undefined where nothing lies there. */
function firstMiddle(job: JobDocument, firsts: readonly string[]): readonly [number, number] | undefined {
  const boxes = firsts.map((place) => poseBounds(job.placements[place], job.placements[place]))
  if (boxes.length === 0) return undefined
  return [
    (Math.min(...boxes.map(({ x0 }) => x0)) + Math.max(...boxes.map(({ x1 }) => x1))) / 2,
    (Math.min(...boxes.map(({ y0 }) => y0)) + Math.max(...boxes.map(({ y1 }) => y1))) / 2,
  ]
}

/** The middle of the circle that some artwork is repeated around; undefined where it is not. @param root that it is kept under */
export function repeatedAround(job: JobDocument, root: string): readonly [number, number] | undefined {
  const repetition = job.repeats?.[root]
  if (!repetition || !isAround(repetition) || !job.nodes[root]) return undefined
  const on = job.placements[placesOf(job, root)[0]]?.on
  const firsts = repeatedRoots(job, root).flatMap((each) => firstOfRepeat(job, each, on) ?? [])
  const middle = firstMiddle(job, firsts)
  return middle && circleMiddle(middle, repetition)
}

/**
 * The job with all that is repeated laid as its first one lies: edges, names and pictures never slide apart. A text with a list shows an
 * entry at each place.
 */
export function relaid(job: JobDocument): JobDocument {
  if (!job.repeats) return job
  const placements: Record<string, Placement> = { ...job.placements }
  for (const [root, repetition] of Object.entries(job.repeats)) {
    if (!job.nodes[root]) continue
    const on = job.placements[placesOf(job, root)[0]]?.on
    const each = repeatedRoots(job, root).flatMap((own) => {
      const first = firstOfRepeat(job, own, on)
      return first === undefined ? [] : [{ own, first }]
    })
    const middle = firstMiddle(
      job,
      each.map(({ first }) => first),
    )
    if (!middle) continue
    const laid = laying(repetition, middle)
    for (const { own, first } of each) {
      for (const place of placesOf(job, own)) if (isCopy(own, place) && placements[place]?.on === on) delete placements[place]
      const entries = entriesOf(job, own)
      const like = placements[first]
      const entry = (i: number): Pick<Placement, 'entry'> => (entries === undefined ? {} : { entry: i % entries })
      placements[first] = { ...like, ...(repetition.count > 1 ? entry(0) : {}) }
      for (let i = 1; i < repetition.count; i++) placements[copyId(own, i)] = { ...like, ...entry(i), ...laid(like, i) }
    }
  }
  return { ...job, placements }
}
