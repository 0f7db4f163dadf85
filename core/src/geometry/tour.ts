import { nearestNeighbours } from './neighbours.ts'

/**
 * A short open tour through points that starts at the first one and ends anywhere.
 *
 * 2-opt and Or-opt on neighbour lists with a work queue (J. Bentley, "Fast Algorithms for Geometric Traveling Salesman
 * Problems", ORSA J. Computing 4(4), 1992), then iterated: small double bridges in random places, each mended
 * locally and taken back when it did not help (O. Martin, S. Otto, E. Felten, 1991; kept local after D. Johnson and
 * L. McGeoch, 1997). Random numbers come from a fixed seed: the same points give the same tour.
 * @param xs x of every point @param ys y of every point @returns indices in order, the first is 0
 */
export function shortTour(xs: Float64Array, ys: Float64Array, progress?: (done: number) => void): Int32Array {
  const n = xs.length
  if (n <= EXACT) return exact(xs, ys)
  const tour = new Tour(xs, ys, nearestNeighbours(xs, ys, Math.min(8, n - 1)))
  tour.improveAll()
  tour.iterate(progress)
  return tour.order()
}

/** All orders tried, those longer than the best so far given up early. */
function exact(xs: Float64Array, ys: Float64Array): Int32Array {
  const n = xs.length
  const order = Int32Array.from({ length: n }, (_, i) => i)
  let best = order.slice()
  let least = Infinity
  const visit = (done: number, length: number): void => {
    if (length >= least) return
    if (done === n) {
      least = length
      best = order.slice()
      return
    }
    const from = order[done - 1]
    for (let k = done; k < n; k++) {
      const to = order[k]
      order[k] = order[done]
      order[done] = to
      visit(done + 1, length + Math.hypot(xs[from] - xs[to], ys[from] - ys[to]))
      order[done] = order[k]
      order[k] = to
    }
  }
  visit(1, 0)
  return best
}

/** Up to so many points all orders are tried. */
const EXACT = 8

/**
 * A closed tour over the points and one more city, the end: it lies at no distance from everything and is tied to the
 * first point, which makes the tour an open one from the first point to anywhere.
 */
class Tour {
  private readonly n: number
  private readonly end: number
  private readonly tour: Int32Array
  private readonly pos: Int32Array
  private readonly k: number
  private readonly queue: Int32Array
  private readonly queued: Uint8Array
  private head = 0
  private waiting = 0
  /** Flips done since the last mark, so that a trial can be taken back. */
  private log: number[] = []
  private logging = false
  private readonly xs: Float64Array
  private readonly ys: Float64Array
  private readonly near: Int32Array
  /** More than any exchange of links can gain, yet small enough that sums with it stay exact. */
  private readonly forced: number
  /** Gains below this are rounding. */
  private readonly least: number

  constructor(xs: Float64Array, ys: Float64Array, near: Int32Array) {
    this.xs = xs
    this.ys = ys
    this.near = near
    const n = xs.length
    let reach = 1e-6
    for (let i = 1; i < n; i++) reach = Math.max(reach, Math.abs(xs[i] - xs[0]), Math.abs(ys[i] - ys[0]))
    this.forced = 16 * reach
    this.least = 1e-9 * reach
    this.k = near.length / n
    this.end = n
    this.n = n + 1
    this.tour = new Int32Array(n + 1)
    this.pos = new Int32Array(n + 1)
    this.queue = new Int32Array(n + 1)
    this.queued = new Uint8Array(n + 1)
    this.greedy()
  }

  private d(a: number, b: number): number {
    if (a === this.end || b === this.end) return a + b === this.end ? -this.forced : 0
    const dx = this.xs[a] - this.xs[b]
    const dy = this.ys[a] - this.ys[b]
    return Math.sqrt(dx * dx + dy * dy)
  }

  /** Starts from the shortest links that make no fork and no early circle. */
  private greedy(): void {
    const n = this.end
    const links: { a: number; b: number; d: number }[] = []
    for (let a = 0; a < n; a++) {
      for (let k = 0; k < this.k; k++) {
        const b = this.near[a * this.k + k]
        if (b > a || (b >= 0 && !this.lists(b, a))) links.push({ a, b, d: this.d(a, b) })
      }
    }
    links.sort((p, q) => p.d - q.d || p.a - q.a || p.b - q.b)
    const degree = new Uint8Array(n)
    const left = new Int32Array(n).fill(-1)
    const right = new Int32Array(n).fill(-1)
    const root = Int32Array.from({ length: n }, (_, i) => i)
    const find = (i: number): number => {
      while (root[i] !== i) {
        root[i] = root[root[i]]
        i = root[i]
      }
      return i
    }
    const link = (a: number, b: number): void => {
      if (left[a] < 0) left[a] = b
      else right[a] = b
      if (left[b] < 0) left[b] = a
      else right[b] = a
      degree[a]++
      degree[b]++
      root[find(a)] = find(b)
    }
    // The first point is an end of the open tour: it takes one link only.
    const room = (i: number): boolean => degree[i] < (i === 0 ? 1 : 2)
    for (const { a, b } of links) if (room(a) && room(b) && find(a) !== find(b)) link(a, b)
    // The fragments are walked one after the other, each from its end nearest to where the last one ended.
    const taken = new Uint8Array(n)
    const ends: number[] = []
    for (let i = 0; i < n; i++) if (degree[i] < 2) ends.push(i)
    let count = 0
    const walk = (start: number): number => {
      let before = -1
      let at = start
      for (;;) {
        this.tour[count++] = at
        taken[at] = 1
        const next = left[at] !== before && left[at] >= 0 ? left[at] : right[at] !== before ? right[at] : -1
        if (next < 0 || taken[next]) return at
        before = at
        at = next
      }
    }
    let open = ends.filter((i) => i !== 0)
    let at = walk(0)
    while (count < n) {
      let best = -1
      let least = Infinity
      let kept = 0
      for (const i of open) {
        if (taken[i]) continue
        open[kept++] = i
        const d = this.d(at, i)
        if (d < least) {
          least = d
          best = i
        }
      }
      open = open.slice(0, kept)
      at = walk(best)
    }
    this.tour[n] = this.end
    for (let i = 0; i <= n; i++) this.pos[this.tour[i]] = i
  }

  private lists(a: number, b: number): boolean {
    for (let k = 0; k < this.k; k++) if (this.near[a * this.k + k] === b) return true
    return false
  }

  private next(c: number): number {
    const p = this.pos[c] + 1
    return this.tour[p === this.n ? 0 : p]
  }

  private prev(c: number): number {
    const p = this.pos[c]
    return this.tour[p === 0 ? this.n - 1 : p - 1]
  }

  /**
   * Turns the stretch from city a onward to city b around. The shorter side of the circle is moved, so that afterwards
   * the tour may run the other way: ask `next` again.
   */
  private reverse(a: number, b: number): void {
    const { n, pos } = this
    let i = pos[a]
    let j = pos[b]
    let length = j - i + 1
    if (length <= 0) length += n
    if (2 * length > n) {
      const k = i
      i = j + 1 === n ? 0 : j + 1
      j = k === 0 ? n - 1 : k - 1
      length = n - length
    }
    if (this.logging) this.log.push(i, j, length)
    this.flip(i, j, length)
  }

  /** Exchanges places i and j, i + 1 and j − 1, and so on. Done twice it is undone. */
  private flip(from: number, to: number, length: number): void {
    const { n, tour, pos } = this
    let i = from
    let j = to
    for (let k = length >> 1; k > 0; k--) {
      const x = tour[i]
      const y = tour[j]
      tour[i] = y
      pos[y] = i
      tour[j] = x
      pos[x] = j
      if (++i === n) i = 0
      if (--j < 0) j = n - 1
    }
  }

  /** Turns the stretch between p and q around, where p lies beside `outside`, whichever way the tour runs now. */
  private reverseBeside(outside: number, p: number, q: number): void {
    if (p === q) return
    if (this.next(outside) === p) this.reverse(p, q)
    else this.reverse(q, p)
  }

  private push(c: number): void {
    if (this.queued[c]) return
    this.queued[c] = 1
    this.queue[(this.head + this.waiting++) % this.n] = c
  }

  private work(): number {
    let gained = 0
    while (this.waiting > 0) {
      const c = this.queue[this.head]
      this.head = (this.head + 1) % this.n
      this.waiting--
      this.queued[c] = 0
      for (;;) {
        const gain = this.improve(c)
        if (gain <= 0) break
        gained += gain
      }
    }
    return gained
  }

  improveAll(): void {
    for (let i = 0; i < this.n; i++) this.push(this.tour[i])
    this.work()
  }

  /** The first improving move around one city; returns what it gains, 0 where there is none. */
  private improve(c: number): number {
    const count = c === this.end ? 0 : this.k
    for (let side = 0; side < 2; side++) {
      const s = side === 0 ? this.next(c) : this.prev(c)
      const base = this.d(c, s)
      for (let k = 0; k <= count; k++) {
        // The end is everybody's neighbour.
        const t = k < count ? this.near[c * this.k + k] : this.end
        if (t === c || t < 0) continue
        const dct = this.d(c, t)
        if (dct >= base) {
          if (k < count) {
            k = count - 1
            continue
          }
          break
        }
        const u = side === 0 ? this.next(t) : this.prev(t)
        if (t === s || u === c) continue
        const gain = base + this.d(t, u) - dct - this.d(s, u)
        if (gain > this.least) {
          if (side === 0) this.reverse(s, t)
          else this.reverse(t, s)
          this.push(c)
          this.push(s)
          this.push(t)
          this.push(u)
          return gain
        }
      }
    }
    return this.moveSegment(c, count)
  }

  /** Or-opt: one to three cities starting at c move between a neighbour and the one beside it, either way around. */
  private moveSegment(c: number, count: number): number {
    if (this.n < 8) return 0
    for (let dir = 0; dir < 2; dir++) {
      let last = c
      for (let length = 1; length <= 3; length++) {
        if (length > 1) last = dir === 0 ? this.next(last) : this.prev(last)
        const a = dir === 0 ? this.prev(c) : this.next(c)
        const b = dir === 0 ? this.next(last) : this.prev(last)
        if (a === b || last === a) break
        const freed = this.d(a, c) + this.d(last, b) - this.d(a, b)
        if (freed <= this.least) continue
        for (let k = 0; k < count; k++) {
          const t = this.near[c * this.k + k]
          const dct = this.d(c, t)
          if (dct >= freed) break
          if (this.within(t, c, last, length, dir)) continue
          for (let way = 0; way < 2; way++) {
            const u = way === 0 ? this.next(t) : this.prev(t)
            if (this.within(u, c, last, length, dir)) continue
            const gain = freed - dct - this.d(last, u) + this.d(t, u)
            if (gain > this.least) {
              this.insert(c, last, t, u, dir)
              this.push(a)
              this.push(b)
              this.push(c)
              this.push(last)
              this.push(t)
              this.push(u)
              return gain
            }
          }
        }
      }
    }
    return 0
  }

  private within(t: number, c: number, last: number, length: number, dir: number): boolean {
    let at = c
    for (let i = 0; i < length; i++) {
      if (at === t) return true
      if (at === last) return false
      at = dir === 0 ? this.next(at) : this.prev(at)
    }
    return false
  }

  /** Puts the segment c…last between t and u so that c is beside t: two or three reversals. */
  private insert(c: number, last: number, t: number, u: number, dir: number): void {
    // The segment in tour order is first…final.
    const first = dir === 0 ? c : last
    const final = dir === 0 ? last : c
    const before = this.prev(first)
    const after = this.next(final)
    const tBeforeU = this.next(t) === u
    const low = tBeforeU ? t : u
    const high = tBeforeU ? u : t
    if (this.between(after, low, first)) {
      // before [first…final] [after…low] high → before [low…after] [final…first] high → before [after…low] [final…first] high
      this.reverse(first, low)
      this.reverseBeside(before, low, after)
    } else {
      // low [high…before] [first…final] after → low [final…first] [before…high] after → low [final…first] [high…before] after
      this.reverse(high, final)
      this.reverseBeside(after, high, before)
    }
    // The segment now has `final` beside low and `first` beside high; c belongs beside t.
    if (c !== (tBeforeU ? final : first)) this.reverseBeside(low, final, first)
  }

  /** Whether city b is met when walking on from a before reaching stop. */
  private between(a: number, b: number, stop: number): boolean {
    const n = this.n
    const pa = this.pos[a]
    const toB = (this.pos[b] - pa + n) % n
    const toStop = (this.pos[stop] - pa + n) % n
    return toB < toStop
  }

  /** Double bridges in random places, each over at most 50 cities, mended and kept only when shorter. */
  iterate(progress?: (done: number) => void): void {
    if (this.n < 9) return
    let seed = 0x2545f491
    const random = (below: number): number => {
      seed ^= seed << 13
      seed ^= seed >>> 17
      seed ^= seed << 5
      return (seed >>> 0) % below
    }
    // What they gain falls off soon: more of them for few points, where they are cheap.
    const kicks = Math.min(10 * this.n, Math.max(1200, Math.round(6e6 / this.n)))
    const span = Math.min(50, this.n - 2)
    for (let kick = 0; kick < kicks; kick++) {
      if (progress && (kick & 511) === 0) progress(kick / kicks)
      const p = random(this.n)
      const cuts = [1 + random(span - 2), 1 + random(span - 2), 1 + random(span - 2)].sort((a, b) => a - b)
      if (cuts[0] === cuts[1] || cuts[1] === cuts[2]) continue
      const at = (k: number): number => this.tour[(p + k) % this.n]
      const a = at(0)
      const b = at(1)
      const c = at(cuts[0])
      const e = at(cuts[0] + 1)
      const f = at(cuts[1])
      const g = at(cuts[1] + 1)
      // a | b…c | e…f | g  →  a | e…f | b…c | g
      if (cuts[0] < 1) continue
      const change = this.d(a, e) + this.d(f, b) + this.d(c, g) - this.d(a, b) - this.d(c, e) - this.d(f, g)
      if (change > this.forced / 2) continue
      this.logging = true
      this.log.length = 0
      this.reverse(b, f)
      this.reverseBeside(a, f, e)
      this.reverseBeside(g, b, c)
      for (const city of [a, b, c, e, f, g]) this.push(city)
      const gained = this.work()
      this.logging = false
      if (gained - change < this.least)
        for (let i = this.log.length - 3; i >= 0; i -= 3) this.flip(this.log[i], this.log[i + 1], this.log[i + 2])
    }
  }

  order(): Int32Array {
    const n = this.end
    const out = new Int32Array(n)
    const forward = this.next(0) !== this.end
    let at = 0
    for (let i = 0; i < n; i++) {
      out[i] = at
      at = forward ? this.next(at) : this.prev(at)
    }
    return out
  }
}
