import type { Ring } from '../../geometry/ring.ts'

/** What places say of themselves along a line across an edge. */
export interface Across {
  /** Above nought: inside. */
  readonly says: number
  /** The colour there: red, green, blue, shares of white. */
  readonly colour: readonly [number, number, number]
}

/** How the edge is looked for. */
export interface EdgeWalk {
  /** From place to place along the edge, and so far to each side of it, in such steps, mm. */
  readonly alongMm: number
  readonly reachMm: number
  readonly stepMm: number
}

/** Between places beside each other the edge moves by at most so many steps; each costs so much. */
const MOST_STEPS = 3
const STEP_COST = 0.15
/** How much a sharp change of colour says against what the colours say. */
const SHARP = 26
/** One place says at most so much. */
const MOST = 2.2
/** The colours beside the edge are looked at from so far off it to so far, mm. */
const BESIDE = { from: 0.35, to: 0.95 }
const SMOOTH_MM = 1.2
/** Colours nearer to each other are alike, shares of white. */
const ALIKE = 0.06
/** What grain and cells of the bed do to an edge is evened over so much of it to each side, mm. */
const QUIET_MM = 1

/** A ring in places about as far from each other as is wanted. */
export function respaced(ring: Ring, alongMm: number): Ring {
  const n = ring.length / 2
  let length = 0
  const ends = new Float64Array(n + 1)
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n
    length += Math.hypot(ring[2 * j] - ring[2 * i], ring[2 * j + 1] - ring[2 * i + 1])
    ends[i + 1] = length
  }
  const count = Math.max(12, Math.round(length / alongMm))
  const out = new Float64Array(2 * count)
  for (let k = 0, i = 0; k < count; k++) {
    const at = (k * length) / count
    while (i < n - 1 && ends[i + 1] <= at) i++
    const t = (at - ends[i]) / Math.max(1e-12, ends[i + 1] - ends[i])
    const j = (i + 1) % n
    out[2 * k] = ring[2 * i] + t * (ring[2 * j] - ring[2 * i])
    out[2 * k + 1] = ring[2 * i + 1] + t * (ring[2 * j + 1] - ring[2 * i + 1])
  }
  return out
}

/** Ways out of a ring at each of its places, over some places to each side. */
function waysOut(ring: Ring, span: number): Float64Array {
  const n = ring.length / 2
  const ways = new Float64Array(2 * n)
  for (let k = 0; k < n; k++) {
    const a = 2 * ((k + n - span) % n)
    const b = 2 * ((k + span) % n)
    const [dx, dy] = [ring[b] - ring[a], ring[b + 1] - ring[a + 1]]
    const size = Math.hypot(dx, dy) || 1
    ways[2 * k] = dy / size
    ways[2 * k + 1] = -dx / size
  }
  return ways
}

/**
 * The edge of something seen, near a ring that is about right: across it, place by place, what is inside is parted best from what is
 * outside, and the edge changes by little from one place to the next (dynamic programming, as in A. Amini, T. Weymouth, R. Jain, IEEE
 * PAMI 12(9), 1990). There it is where the colour is half way from one side to the other.
 * @param ring mm: what is outside lies left of it, where y runs down
 * @param at what is seen at a place of the bed, mm
 * @returns the edge, and the share of it along which both sides look alike
 */
export function edgeNear(
  ring: Ring,
  { alongMm, reachMm, stepMm }: EdgeWalk,
  at: (x: number, y: number) => Across | undefined,
): { readonly ring: Ring; readonly faint: number } {
  const places = respaced(ring, alongMm)
  const n = places.length / 2
  const ways = waysOut(places, Math.max(1, Math.round(SMOOTH_MM / alongMm)))
  const half = Math.round(reachMm / stepMm)
  const count = 2 * half + 1
  const looks = new Float32Array(3 * n * count)
  const gain = new Float32Array(n * count)
  const says = new Float32Array(count)
  for (let k = 0; k < n; k++) {
    for (let s = 0; s < count; s++) {
      const d = (s - half) * stepMm
      const seen = at(places[2 * k] + d * ways[2 * k], places[2 * k + 1] + d * ways[2 * k + 1])
      says[s] = seen ? Math.max(-MOST, Math.min(MOST, seen.says)) : -MOST
      if (seen) looks.set(seen.colour, 3 * (k * count + s))
    }
    // Inside before the edge, outside behind it.
    let sum = 0
    for (let s = 0; s < count; s++) sum -= says[s]
    for (let s = 0; s < count; s++) {
      gain[k * count + s] = sum * stepMm + SHARP * stepMm * change(looks, k, count, s, Math.max(1, Math.round(0.2 / stepMm)))
      sum += 2 * says[s]
    }
  }
  const found = bestWalk(gain, n, count)
  const out = new Float64Array(2 * n)
  let faint = 0
  const off = quieted(
    Float64Array.from(found, (s, k) => {
      const place = halfWay(looks, k, count, s, stepMm)
      if (place === undefined) faint++
      return ((place ?? s) - half) * stepMm
    }),
    Math.max(1, Math.round(QUIET_MM / alongMm)),
  )
  for (let k = 0; k < n; k++) {
    const d = off[k]
    out[2 * k] = places[2 * k] + d * ways[2 * k]
    out[2 * k + 1] = places[2 * k + 1] + d * ways[2 * k + 1]
  }
  return { ring: out, faint: faint / n }
}

/** Each number as those around it on a ring are: the median of some, then their mean. */
function quieted(values: Float64Array, half: number): Float64Array {
  const n = values.length
  const around = (from: Float64Array, k: number): number[] =>
    Array.from({ length: 2 * half + 1 }, (_, i) => from[(k + i - half + n) % n])
  const medians = values.map((_, k) => around(values, k).sort((a, b) => a - b)[half])
  return medians.map((_, k) => around(medians, k).reduce((sum, v) => sum + v, 0) / (2 * half + 1))
}

/** How much the colour changes at a place across the edge. */
function change(looks: Float32Array, k: number, count: number, s: number, span: number): number {
  const a = 3 * (k * count + Math.max(0, s - span))
  const b = 3 * (k * count + Math.min(count - 1, s + span))
  return Math.min(0.5, Math.hypot(looks[a] - looks[b], looks[a + 1] - looks[b + 1], looks[a + 2] - looks[b + 2]))
}

/** The way round with the most gain: walked twice, and the second time kept, so that its ends meet. */
function bestWalk(gain: Float32Array, n: number, count: number): Int32Array {
  const laps = 3
  const from = new Int8Array(laps * n * count)
  let before = new Float64Array(count)
  for (let k = 0; k < laps * n; k++) {
    const now = new Float64Array(count)
    const row = (k % n) * count
    for (let s = 0; s < count; s++) {
      let best = Number.NEGATIVE_INFINITY
      for (let d = -MOST_STEPS; d <= MOST_STEPS; d++) {
        const p = s + d
        if (p < 0 || p >= count) continue
        const value = before[p] - STEP_COST * d * d
        if (value > best) {
          best = value
          from[k * count + s] = d
        }
      }
      now[s] = best + gain[row + s]
    }
    before = now
  }
  let s = before.indexOf(Math.max(...before))
  const out = new Int32Array(n)
  for (let k = laps * n - 1; k >= n; k--) {
    if (k < 2 * n) out[k - n] = s
    s += from[k * count + s]
  }
  return out
}

/** Where the colour is half way between what it is on both sides, steps across; undefined where they look alike. */
function halfWay(looks: Float32Array, k: number, count: number, s: number, stepMm: number): number | undefined {
  const [near, far] = [Math.round(BESIDE.from / stepMm), Math.round(BESIDE.to / stepMm)]
  const mean = (from: number, to: number): [number, number, number] => {
    const sum: [number, number, number] = [0, 0, 0]
    let m = 0
    for (let i = Math.max(0, from); i <= Math.min(count - 1, to); i++, m++)
      for (let c = 0; c < 3; c++) sum[c] += looks[3 * (k * count + i) + c]
    return sum.map((v) => v / Math.max(1, m)) as [number, number, number]
  }
  const [inside, outside] = [mean(s - far, s - near), mean(s + near, s + far)]
  const way = [outside[0] - inside[0], outside[1] - inside[1], outside[2] - inside[2]]
  const size = way[0] ** 2 + way[1] ** 2 + way[2] ** 2
  if (size < ALIKE * ALIKE) return undefined
  /** 0 as inside, 1 as outside. */
  const share = (i: number): number => {
    const o = 3 * (k * count + i)
    return ((looks[o] - inside[0]) * way[0] + (looks[o + 1] - inside[1]) * way[1] + (looks[o + 2] - inside[2]) * way[2]) / size
  }
  let best = s
  let least = near + 1
  for (let i = Math.max(0, s - near); i < Math.min(count - 1, s + near); i++) {
    const [a, b] = [share(i) - 0.5, share(i + 1) - 0.5]
    if (a > 0 || b < 0) continue
    const place = i + (a === b ? 0.5 : -a / (b - a))
    if (Math.abs(place - s) < least) {
      least = Math.abs(place - s)
      best = place
    }
  }
  return best
}
