import { around } from './thin.ts'

/** A line between two knots, or around. Places are pixel indices. */
export interface Branch {
  /** Knot at either end; −1 is a free end. */
  from: number
  to: number
  readonly pixels: number[]
  readonly closed: boolean
}

export interface Skeleton {
  readonly branches: Branch[]
  /** Where each knot lies: mean of its pixels, px. */
  readonly knots: { readonly x: number; readonly y: number; readonly pixels: readonly number[] }[]
}

/** Lines of one pixel as branches between knots. @param lines 1 on a line, its outermost pixels none */
export function skeletonGraph(lines: Uint8Array, width: number): Skeleton {
  const steps = around(width)
  const neighbours = (i: number): number[] => {
    const found: number[] = []
    for (const step of steps) if (lines[i + step]) found.push(i + step)
    return found
  }
  // Corners count once: a neighbour over a corner is no other way where a side neighbour leads there.
  const degree = (i: number): number => {
    let changes = 0
    for (let k = 0; k < 8; k++) if (!lines[i + steps[k]] && lines[i + steps[(k + 1) & 7]]) changes++
    return changes
  }
  const knotOf = new Map<number, number>()
  const knots: Skeleton['knots'] = []
  const pixels: number[] = []
  for (let i = 0; i < lines.length; i++) if (lines[i]) pixels.push(i)
  for (const i of pixels) {
    if (knotOf.has(i) || degree(i) < 3) continue
    const cluster = [i]
    knotOf.set(i, knots.length)
    for (const member of cluster)
      for (const next of neighbours(member))
        if (!knotOf.has(next) && degree(next) >= 3) {
          knotOf.set(next, knots.length)
          cluster.push(next)
        }
    const x = cluster.reduce((sum, p) => sum + (p % width), 0) / cluster.length
    const y = cluster.reduce((sum, p) => sum + Math.floor(p / width), 0) / cluster.length
    knots.push({ x: x + 0.5, y: y + 0.5, pixels: cluster })
  }
  const seen = new Uint8Array(lines.length)
  const branches: Branch[] = []
  const walk = (start: number, from: number): void => {
    const way = [start]
    seen[start] = 1
    for (let i = start; ; ) {
      const ways = neighbours(i).filter((p) => !seen[p] && !knotOf.has(p))
      // What begins at the same knot beside it is another branch.
      const own = way.length === 1 && from >= 0 ? ways.filter((p) => !neighbours(p).some((q) => knotOf.get(q) === from)) : ways
      const next = (own.length > 0 ? own : ways)[0]
      // A knot ends it, but not the one it has just left.
      const knot = neighbours(i).find((p) => knotOf.has(p) && (way.length > 1 || knotOf.get(p) !== from))
      if (knot !== undefined && (way.length > 2 || knotOf.get(knot) !== from || next === undefined)) {
        branches.push({ from, to: knotOf.get(knot)!, pixels: way, closed: false })
        return
      }
      if (next === undefined) {
        branches.push({ from, to: -1, pixels: way, closed: false })
        return
      }
      seen[next] = 1
      way.push(next)
      i = next
    }
  }
  knots.forEach(({ pixels: cluster }, k) => {
    for (const member of cluster) for (const start of neighbours(member)) if (!seen[start] && !knotOf.has(start)) walk(start, k)
  })
  for (const i of pixels) if (!seen[i] && !knotOf.has(i) && neighbours(i).length <= 1) walk(i, -1)
  for (const i of pixels) {
    if (seen[i] || knotOf.has(i)) continue
    walk(i, -1)
    const last = branches[branches.length - 1]
    branches[branches.length - 1] = { ...last, closed: last.pixels.length > 3 }
  }
  return { branches, knots }
}

/**
 * Makes one knot of knots that a short branch joins: where wide strokes cross, thinning gives two.
 * @param reach px from the middle to the edge at a pixel @param times how many times as long as that a branch must be to stay
 */
export function merged({ branches, knots }: Skeleton, reach: (pixel: number) => number, times: number): Skeleton {
  const into = knots.map((_, k) => k)
  const root = (k: number): number => {
    let at = k
    while (into[at] !== at) at = into[at]
    return at
  }
  const isLink = ({ from, to, pixels }: Branch): boolean =>
    from >= 0 &&
    to >= 0 &&
    from !== to &&
    pixels.length < times * Math.min(reach(knots[from].pixels[0]), reach(knots[to].pixels[0]))
  const links = new Set(branches.filter(isLink))
  for (const { from, to } of links) into[root(from)] = root(to)
  const members = knots.map((): number[] => [])
  knots.forEach((_, k) => void members[root(k)].push(k))
  return {
    // Of two links between the same knots, a ring, the rest stays away as well: it is as short.
    branches: branches
      .filter((branch) => !links.has(branch))
      .map((branch) => ({
        ...branch,
        from: branch.from < 0 ? -1 : root(branch.from),
        to: branch.to < 0 ? -1 : root(branch.to),
      })),
    knots: knots.map((knot, k) => {
      const all = members[k].map((member) => knots[member])
      if (all.length < 2) return knot
      const mean = (value: (each: { x: number; y: number }) => number): number =>
        all.reduce((sum, each) => sum + value(each), 0) / all.length
      return { x: mean(({ x }) => x), y: mean(({ y }) => y), pixels: all.flatMap(({ pixels }) => pixels) }
    }),
  }
}

/** What of the length of spurs goes in the first round, and how much more in each. */
const SHORTEST = 0.4
const STEP = 0.2

/**
 * Takes away the short free branches that corners and rough edges leave behind, and joins what two branches are left of.
 * @param reach px from the middle to the edge at a pixel @param times how many times as long as that a branch must be to stay
 * @param isTip whether a short branch is no rough edge: its pixels from the knot on, and those of the others there
 */
export function pruned(
  { branches, knots }: Skeleton,
  reach: (pixel: number) => number,
  times: number,
  isTip: (
    stem: readonly number[],
    arms: readonly (readonly number[])[],
    knot: { readonly x: number; readonly y: number },
  ) => boolean = () => false,
): Skeleton {
  const at = knots.map(() => new Set<Branch>())
  const list = new Set(branches)
  const put = (branch: Branch, on: boolean): void => {
    for (const end of [branch.from, branch.to]) if (end >= 0) at[end][on ? 'add' : 'delete'](branch)
    list[on ? 'add' : 'delete'](branch)
  }
  for (const branch of branches) put(branch, true)
  // The shortest go first: what they parted is whole again before the others are looked at.
  let limit = SHORTEST * times
  const isSpur = ({ from, to, pixels }: Branch): boolean => {
    if (from >= 0 === to >= 0) return false
    return pixels.length < limit * Math.max(...knots[Math.max(from, to)].pixels.map(reach))
  }
  const fromKnot = (branch: Branch, k: number): readonly number[] =>
    branch.from === k ? branch.pixels : branch.pixels.slice().reverse()
  const isKept = (branch: Branch): boolean => {
    const k = Math.max(branch.from, branch.to)
    const others = [...at[k]].filter((each) => each !== branch)
    return isTip(
      fromKnot(branch, k),
      others.map((each) => fromKnot(each, k)),
      knots[k],
    )
  }
  const ways = (k: number): number => [...at[k]].reduce((sum, { from, to }) => sum + (from === to ? 2 : 1), 0)
  for (let changed = true; changed || limit < times; ) {
    if (!changed) limit = Math.min(times, limit + STEP * times)
    changed = false
    // Where all branches of a knot are short, the longest stay.
    for (const branch of [...list].filter(isSpur).sort((a, b) => a.pixels.length - b.pixels.length)) {
      if (ways(Math.max(branch.from, branch.to)) <= 2 || isKept(branch)) continue
      put(branch, false)
      changed = true
    }
    for (let k = 0; k < knots.length; k++) {
      if (at[k].size !== 2 || ways(k) !== 2) continue
      const [a, b] = at[k]
      const before = a.to === k ? a.pixels : a.pixels.slice().reverse()
      const after = b.from === k ? b.pixels : b.pixels.slice().reverse()
      put(a, false)
      put(b, false)
      put(
        {
          from: a.to === k ? a.from : a.to,
          to: b.from === k ? b.to : b.from,
          pixels: [...before, knots[k].pixels[knots[k].pixels.length >> 1], ...after],
          closed: false,
        },
        true,
      )
      changed = true
    }
    for (const branch of [...list]) {
      // A ring that is left alone on its knot closes.
      const { from, to } = branch
      if (from < 0 || from !== to || at[from].size !== 1) continue
      put(branch, false)
      list.add({ from: -1, to: -1, pixels: [knots[from].pixels[0], ...branch.pixels], closed: true })
    }
  }
  return { branches: [...list], knots }
}
