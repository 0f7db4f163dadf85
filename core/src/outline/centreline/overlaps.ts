import type { Branch, Skeleton } from './graph.ts'
import type { Middles } from './refine.ts'

/** A branch as it runs in the middle of its stroke, px. */
export interface Followed extends Middles {
  readonly branch: Branch
}

/** One end of a branch: its first point, or its last. */
export interface End {
  readonly line: number
  readonly last: boolean
}

/** What two ends become that belong to one stroke. */
export interface Joint {
  readonly ends: readonly [End, End]
  /** The corner that both run to; absent: one goes on as the other. */
  readonly corner?: { readonly x: number; readonly y: number }
  /** So far from the knot both strokes lie in one another, px: their middles are those of both together there. */
  readonly within: number
}

export interface Overlaps {
  readonly joints: readonly Joint[]
  /** Lines that are the middle of two strokes that lie in one another, and no stroke of their own. */
  readonly gone: ReadonlySet<number>
}

/** Strokes that meet at less than this lie in one another for a while, and part with a tip, degrees. */
const SHARP_DEG = 85
/** The middle of a tip runs along the bisector of its strokes to within this, degrees. */
const ALONG_DEG = 32
/** Strokes go on behind a crossing in their own direction to within this, degrees. */
const STRAIGHT_DEG = 16
/** Where strokes lie in one another ends so many half widths beyond the knot. */
const BEYOND = 1.1
/** What smoothing carries along, px. */
const CARRIED = 3
/** Widths of the stroke over which its direction is taken. */
const WINDOW = 2.5
/** The middle of strokes that lie in one another is no longer than this many half widths of it, for angles from about 12° on. */
const LONGEST = 9
/** A tip that was thinned away lies no farther than this from the bend, in half widths. */
const FAR = 4
/** A line at a bend that is no tip is a rough edge where it is shorter than this, in half widths. */
const SHORT = 1.7
/** Where two strokes are expected to meet and where they are seen to, in widths. */
const NEAR = 1.1
/** How far a stroke may lie beside itself behind a crossing, in widths. */
const BESIDE = 0.4

/** Where a stroke leaves what it shares with another, and where it goes: straight through its next points. */
interface Leaving {
  readonly end: End
  readonly x: number
  readonly y: number
  /** Outwards, away from the knot. */
  readonly dx: number
  readonly dy: number
  readonly half: number
}

const DEGREE = Math.PI / 180
const angleOf = (ax: number, ay: number, bx: number, by: number): number =>
  Math.acos(Math.min(1, Math.max(-1, ax * bx + ay * by)))

/**
 * Strokes that meet at a sharp angle, or cross at one, lie in one another for a while; thinned, they are one line there. Told by
 * where they come from: at a tip two strokes run on to where their middles meet, at a crossing each goes on as it came.
 * @param reach px from the middle to the edge at a pixel @param isInk whether there is ink at a place, px
 */
export function overlaps(
  lines: readonly Followed[],
  knots: Skeleton['knots'],
  reach: (pixel: number) => number,
  isInk: (x: number, y: number) => boolean,
): Overlaps {
  const ends = knots.map((): End[] => [])
  lines.forEach(({ branch: { from, to, closed } }, line) => {
    if (closed) return
    if (from >= 0) ends[from].push({ line, last: false })
    if (to >= 0) ends[to].push({ line, last: true })
  })
  const wide = (knot: number): number => Math.max(...knots[knot].pixels.map(reach))
  const joints: Joint[] = []
  const gone = new Set<number>()
  const taken = new Set<string>()
  const free = (...list: readonly End[]): boolean =>
    list.every(({ line, last }) => !gone.has(line) && !taken.has(`${line} ${last}`))
  const take = (joint: Joint): void => {
    joints.push(joint)
    for (const { line, last } of joint.ends) taken.add(`${line} ${last}`)
  }
  const length = (line: number): number => lines[line].x.length
  // Tips: the third line at a knot is free, and runs between the other two turned about.
  knots.forEach((knot, k) => {
    if (ends[k].length !== 3) return
    const [stem] = ends[k]
      .filter(({ line, last }) => (last ? lines[line].branch.from : lines[line].branch.to) < 0)
      .sort((p, q) => length(p.line) - length(q.line))
    if (!stem) return
    const arms = ends[k].filter((end) => end !== stem)
    if (!free(stem, ...arms) || arms[0].line === arms[1].line) return
    const within = BEYOND * wide(k) + CARRIED
    const corner = tipOf(
      arms.map((end) => leaving(lines[end.line], end, knot, within)),
      knot,
      lines[stem.line],
      stem,
      LONGEST * wide(k),
    )
    if (corner) {
      gone.add(stem.line)
      take({ ends: [arms[0], arms[1]], corner, within })
    } else if (length(stem.line) < SHORT * wide(k)) {
      // A rough edge at a bend: the stroke goes on.
      gone.add(stem.line)
      take({ ends: [arms[0], arms[1]], within: 0 })
    }
  })
  /** Strokes that go on behind what they share: of both ways to pair them the straighter. */
  const through = (a: readonly Leaving[], b: readonly Leaving[], within: number): boolean => {
    const [[p, q], [r, t]] = [a, b]
    const pairs = [
      [
        [p, r],
        [q, t],
      ],
      [
        [p, t],
        [q, r],
      ],
    ] as const
    const [best] = pairs
      .map((pair) => ({ pair, off: Math.max(...pair.map(([u, v]) => bend(u, v))) }))
      .sort((u, v) => u.off - v.off)
    if (best.off > 1) return false
    for (const [u, v] of best.pair) take({ ends: [u.end, v.end], within })
    return true
  }
  const isThere = (leave: Leaving | undefined): leave is Leaving => leave !== undefined
  // Tips that were thinned away: two ends at a bend.
  knots.forEach((knot, k) => {
    if (ends[k].length !== 2 || !free(...ends[k])) return
    const [p, q] = ends[k]
    const half = Math.max(wide(k), 1)
    const within = BEYOND * half + CARRIED
    const [a, b] = [p, q].map((end) => leaving(lines[end.line], end, knot, within))
    const met = a && b && crossing(a, b)
    const sharp = a && b && angleOf(a.dx, a.dy, b.dx, b.dy) < SHARP_DEG * DEGREE
    const there = met && sharp && Math.hypot(met.x - knot.x, met.y - knot.y) < FAR * half && isInk(met.x, met.y)
    take(there ? { ends: [p, q], corner: met, within } : { ends: [p, q], within: 0 })
  })
  // Crossings: a line between two knots, at each of which two others leave; each of them goes on at the other knot.
  lines.forEach(({ branch: { from, to, closed } }, line) => {
    if (closed || from < 0 || to < 0 || from === to || ends[from].length !== 3 || ends[to].length !== 3) return
    if (length(line) > LONGEST * Math.max(wide(from), wide(to))) return
    const here = ends[from].filter((end) => end.line !== line)
    const there = ends[to].filter((end) => end.line !== line)
    if (here.length !== 2 || there.length !== 2 || !free({ line, last: false }, { line, last: true }, ...here, ...there)) return
    const within = BEYOND * Math.max(wide(from), wide(to)) + CARRIED
    const a = here.map((end) => leaving(lines[end.line], end, knots[from], within)).filter(isThere)
    const b = there.map((end) => leaving(lines[end.line], end, knots[to], within)).filter(isThere)
    if (a.length === 2 && b.length === 2 && through(a, b, within)) gone.add(line)
  })
  // Crossings at one knot: opposite strokes are one.
  knots.forEach((knot, k) => {
    if (ends[k].length !== 4 || !free(...ends[k])) return
    const within = BEYOND * wide(k) + CARRIED
    const all = ends[k].map((end) => leaving(lines[end.line], end, knot, within)).filter(isThere)
    if (all.length !== 4) return
    const round = [...all].sort((p, q) => Math.atan2(p.dy, p.dx) - Math.atan2(q.dy, q.dx))
    through([round[0], round[1]], [round[2], round[3]], within)
  })
  return { joints, gone }
}

/** Where two strokes meet whose middles are one from a knot on; undefined where they are no such two. */
function tipOf(
  [a, b]: readonly (Leaving | undefined)[],
  knot: { readonly x: number; readonly y: number },
  stem: Followed,
  { last }: End,
  longest: number,
): { readonly x: number; readonly y: number } | undefined {
  if (!a || !b || stem.x.length > longest) return undefined
  const between = angleOf(a.dx, a.dy, b.dx, b.dy)
  const met = between < SHARP_DEG * DEGREE && between > 4 * DEGREE ? crossing(a, b) : undefined
  if (!met) return undefined
  // They meet behind the knot, and the ink goes on to there.
  const way = Math.hypot(a.dx + b.dx, a.dy + b.dy)
  const [ox, oy] = [met.x - knot.x, met.y - knot.y]
  const out = Math.hypot(ox, oy)
  if (out > 1.5 && angleOf(ox / out, oy / out, -(a.dx + b.dx) / way, -(a.dy + b.dy) / way) > ALONG_DEG * DEGREE) return undefined
  const tip = last ? 0 : stem.x.length - 1
  return Math.hypot(met.x - stem.x[tip], met.y - stem.y[tip]) > NEAR * (a.half + b.half) ? undefined : met
}

/** Where two strokes would meet that go back the way they came; undefined where they hardly do. */
function crossing(a: Leaving, b: Leaving): { readonly x: number; readonly y: number } | undefined {
  const det = a.dx * b.dy - a.dy * b.dx
  if (Math.abs(det) < 0.05) return undefined
  const t = ((b.x - a.x) * b.dy - (b.y - a.y) * b.dx) / det
  const s = ((b.x - a.x) * a.dy - (b.y - a.y) * a.dx) / det
  return t < 0 && s < 0 ? { x: a.x + t * a.dx, y: a.y + t * a.dy } : undefined
}

/** How little one stroke is the other going on: 1 is as far off as may be. */
function bend(p: Leaving, q: Leaving): number {
  const turn = angleOf(p.dx, p.dy, -q.dx, -q.dy) / (STRAIGHT_DEG * DEGREE)
  const beside = (from: Leaving, to: Leaving): number =>
    Math.abs((to.x - from.x) * from.dy - (to.y - from.y) * from.dx) / (BESIDE * 2 * Math.max(from.half, to.half))
  return Math.max(turn, beside(p, q), beside(q, p))
}

/** Places of a line from one of its ends on, beyond what it shares, at most so many. */
export function beyond(
  { x, y }: Pick<Middles, 'x' | 'y'>,
  last: boolean,
  knot: { readonly x: number; readonly y: number },
  within: number,
): number {
  const n = x.length
  for (let k = 0; k < n; k++) {
    const i = last ? n - 1 - k : k
    if (Math.hypot(x[i] - knot.x, y[i] - knot.y) >= within) return k
  }
  return n
}

/** The straight line through some places of a line (total least squares): its middle and its direction, from the first to the last. */
function straight(
  x: ArrayLike<number>,
  y: ArrayLike<number>,
  from: number,
  to: number,
  at: (k: number) => number,
): { readonly mx: number; readonly my: number; readonly dx: number; readonly dy: number } {
  let [sx, sy] = [0, 0]
  for (let k = from; k < to; k++) {
    sx += x[at(k)]
    sy += y[at(k)]
  }
  const [mx, my] = [sx / (to - from), sy / (to - from)]
  let [xx, xy, yy] = [0, 0, 0]
  for (let k = from; k < to; k++) {
    const [u, v] = [x[at(k)] - mx, y[at(k)] - my]
    xx += u * u
    xy += u * v
    yy += v * v
  }
  const angle = 0.5 * Math.atan2(2 * xy, xx - yy)
  const way = (x[at(to - 1)] - x[at(from)]) * Math.cos(angle) + (y[at(to - 1)] - y[at(from)]) * Math.sin(angle)
  const sign = way < 0 ? -1 : 1
  return { mx, my, dx: sign * Math.cos(angle), dy: sign * Math.sin(angle) }
}

/**
 * A line whose free end goes straight on through its cap: thinned, it runs into one corner of the cap or the other. Places are moved
 * where they lie off by less than the stroke is wide. @param last which of its ends
 */
export function throughCap({ x, y, half }: Middles, last: boolean): void {
  const n = x.length
  const at = (k: number): number => (last ? n - 1 - k : k)
  const from = Math.ceil(1.6 * half[at(Math.min(n - 1, 4))] + 3)
  const to = Math.min(n, from + Math.max(6, Math.ceil(2 * WINDOW * half[at(Math.min(n - 1, from))])))
  if (to - from < 5) return
  const { mx, my, dx, dy } = straight(x, y, from, to, at)
  const off = (k: number): number => (x[at(k)] - mx) * dy - (y[at(k)] - my) * dx
  const bent = Array.from({ length: to - from }, (_, k) => Math.abs(off(from + k))).reduce((a, b) => Math.max(a, b), 0)
  // A stroke that is bent itself goes on bent.
  if (bent > 0.35 || Math.abs(off(0)) > half[at(from)]) return
  for (let k = 0; k < from; k++) {
    const away = off(k)
    x[at(k)] -= away * dy
    y[at(k)] += away * dx
  }
}

/** The straight line through the next points of a stroke beyond what it shares (total least squares). */
function leaving(
  line: Followed,
  end: End,
  knot: { readonly x: number; readonly y: number },
  within: number,
): Leaving | undefined {
  const { x, y, half } = line
  const n = x.length
  const from = beyond(line, end.last, knot, within)
  const at = (k: number): number => (end.last ? n - 1 - k : k)
  if (from > n - 4) return undefined
  const width = 2 * half[at(Math.min(n - 1, from + 2))]
  const other = end.last ? line.branch.from : line.branch.to
  // Towards another knot it may lie in something else again.
  const most = other >= 0 ? Math.max(from + 4, n - Math.ceil(within)) : n
  const to = Math.min(most, n, from + Math.max(6, Math.ceil(WINDOW * width)))
  if (to - from < 4) return undefined
  const { mx, my, dx, dy } = straight(x, y, from, to, at)
  let sh = 0
  for (let k = from; k < to; k++) sh += half[at(k)]
  const along = (x[at(from)] - mx) * dx + (y[at(from)] - my) * dy
  return { end, x: mx + along * dx, y: my + along * dy, dx, dy, half: sh / (to - from) }
}
