import { combine, offset, shapeArea, shapesOf } from '../../geometry/clip.ts'
import { type Ring, reversed, ringBounds, ringLength, ringsBounds } from '../../geometry/ring.ts'
import { linesOfPiece } from './lines.ts'

/** A link between rings that is longer than so many pitches is travelled dark. */
const LINK = 1.7
/** Rings within rings: more than a bed at the finest interval has. */
const MOST_LEVELS = 200_000
/** What is left between rings is filled where it is larger than this share of a square of the pitch. */
const WORTHWHILE = 0.2
/** And wider than this share of the pitch: rings of flat pieces leave slivers between them that nobody sees. */
const THIN = 0.1

interface Level {
  readonly rings: readonly Ring[]
  /** For each, the ring of the level around it that it follows; −1 on the first. */
  readonly parent: Int32Array
}

export interface RingFill {
  /** Lines to be followed from end to end, in this order: rings joined to spirals where they can be. */
  readonly threads: readonly Ring[]
}

/**
 * Rings that follow the edge of one piece at a pitch, the first half a pitch inside; what is left in the middle, and where it is too
 * narrow for a ring, is filled with short lines.
 * @param shape an outer ring with its holes, as `offset` returns them, mm
 * @param outwards begins in the middle @param at where the head is @param progress called with the share done; may throw to cancel
 */
export function ringsOf(
  shape: readonly Ring[],
  pitch: number,
  outwards: boolean,
  at: readonly [number, number],
  progress?: (done: number) => void,
): RingFill {
  const levels: Level[] = []
  const middles: Ring[] = []
  const deepest = shape.reduce((most, ring) => {
    const { x0, y0, x1, y1 } = ringBounds(ring)
    return Math.max(most, Math.min(x1 - x0, y1 - y0))
  }, 0)
  let before: readonly Ring[] = shape
  let by = pitch / 2
  for (let level = 0; level < MOST_LEVELS && before.length > 0; level++) {
    progress?.(Math.min(1, (2 * level * pitch) / Math.max(pitch, deepest)))
    const next = offset(before, -by, { simple: true })
    middles.push(...leftOver(before, next, by, pitch))
    if (next.length > 0) levels.push({ rings: next, parent: parentsOf(next, levels.at(-1)?.rings ?? [], pitch) })
    before = next
    by = pitch
  }
  const threads = chained(levels, at, LINK * pitch)
  const all = [...threads, ...middles]
  return { threads: outwards ? all.reverse().map(backwards) : all }
}

const backwards = (line: Ring): Ring => reversed(line)

/** What neither a ring nor the next one within it comes near: lines along it. @param by from one to the other */
function leftOver(before: readonly Ring[], next: readonly Ring[], by: number, pitch: number): Ring[] {
  // From the ring before it is burned half a pitch inwards already; from the edge of the area nothing is.
  const free = by === pitch ? offset(before, -pitch / 2, { simple: true }) : before
  if (free.length === 0) return []
  const near = next.length > 0 ? offset(next, pitch / 2, { simple: true, join: 'mitre' }) : []
  const left = near.length > 0 ? combine('subtract', free, near) : free
  return shapesOf(left).flatMap((shape) => alongPiece(shape, pitch))
}

/** Short lines that fill a narrow piece along its longer side. */
function alongPiece(shape: readonly Ring[], pitch: number): Ring[] {
  const size = shapeArea(shape)
  const around = shape.reduce((sum, ring) => sum + ringLength(ring), 0)
  if (size < WORTHWHILE * pitch * pitch || 2 * size < THIN * pitch * around) return []
  const box = ringsBounds(shape)
  const upright = box.y1 - box.y0 > box.x1 - box.x0
  const turned = upright ? shape.map(swapped) : shape
  const { v, first, u } = linesOfPiece(turned, pitch, upright ? { y0: box.x0, y1: box.x1 } : box)
  const lines: Ring[] = []
  for (let k = 0; k < v.length; k++)
    for (let i = first[k]; i + 1 < first[k + 1]; i += 2) {
      const line = Float64Array.of(u[i], v[k], u[i + 1], v[k])
      lines.push(upright ? swapped(line) : line)
    }
  return lines
}

function swapped(points: Ring): Ring {
  const out = new Float64Array(points.length)
  for (let i = 0; i < points.length; i += 2) {
    out[i] = points[i + 1]
    out[i + 1] = points[i]
  }
  return out
}

/** Which ring of the level around it each ring follows: the one that lies a pitch away. */
function parentsOf(rings: readonly Ring[], around: readonly Ring[], pitch: number): Int32Array {
  const boxes = around.map(ringBounds)
  const reach = 1.1 * pitch
  return Int32Array.from(rings, (ring) => {
    const [x, y] = ring
    let best = -1
    let least = Infinity
    for (let k = 0; k < around.length; k++) {
      const box = boxes[k]
      if (x < box.x0 - reach || x > box.x1 + reach || y < box.y0 - reach || y > box.y1 + reach) continue
      const { distance } = nearestOn(around[k], x, y)
      if (distance < least) {
        least = distance
        best = k
      }
      if (least <= reach) break
    }
    return best
  })
}

/** The place of a ring that is nearest to a point: on the edge that begins at `edge`. */
function nearestOn(
  ring: Ring,
  x: number,
  y: number,
): { readonly edge: number; readonly x: number; readonly y: number; readonly distance: number } {
  let least = Infinity
  let found = { edge: 0, x: ring[0], y: ring[1] }
  for (let i = 0; i < ring.length; i += 2) {
    const j = i + 2 === ring.length ? 0 : i + 2
    const [dx, dy] = [ring[j] - ring[i], ring[j + 1] - ring[i + 1]]
    const long = dx * dx + dy * dy
    const t = long === 0 ? 0 : Math.min(1, Math.max(0, ((x - ring[i]) * dx + (y - ring[i + 1]) * dy) / long))
    const [px, py] = [ring[i] + t * dx, ring[i + 1] + t * dy]
    const d = (px - x) ** 2 + (py - y) ** 2
    if (d < least) {
      least = d
      found = { edge: i, x: px, y: py }
    }
  }
  return { ...found, distance: Math.sqrt(least) }
}

/** Rings one after the other, each from the place nearest to where the one around it ended: threads that go from ring to ring. */
function chained(levels: readonly Level[], from: readonly [number, number], link: number): Ring[] {
  const children: number[][][] = levels.map(({ rings }) => rings.map(() => []))
  levels.forEach(({ parent }, level) => {
    if (level > 0)
      parent.forEach((p, i) => {
        if (p >= 0) children[level - 1][p].push(i)
      })
  })
  const done = levels.map(({ rings }) => new Uint8Array(rings.length))
  const threads: Ring[] = []
  let thread: number[] = []
  let [x, y] = from
  const begin: { readonly level: number; readonly ring: number }[] = []
  const finish = (): void => {
    if (thread.length > 2) threads.push(Float64Array.from(thread))
    thread = []
  }
  const follow = (level: number, index: number): void => {
    for (let [l, i] = [level, index]; ; ) {
      done[l][i] = 1
      const ring = levels[l].rings[i]
      const near = nearestOn(ring, x, y)
      if (thread.length > 0 && near.distance > link) finish()
      thread.push(near.x, near.y)
      for (let k = 1; k <= ring.length / 2; k++) {
        const at = (near.edge + 2 * k) % ring.length
        thread.push(ring[at], ring[at + 1])
      }
      thread.push(near.x, near.y)
      ;[x, y] = [near.x, near.y]
      const inside = children[l][i]?.filter((child) => !done[l + 1][child]) ?? []
      if (inside.length === 0) break
      for (const ring of inside.slice(1)) begin.push({ level: l + 1, ring })
      ;[l, i] = [l + 1, inside[0]]
    }
    finish()
  }
  for (let level = 0; level < levels.length; level++)
    levels[level].rings.forEach((_, i) => {
      if (done[level][i]) return
      follow(level, i)
      for (let more = begin.pop(); more; more = begin.pop()) if (!done[more.level][more.ring]) follow(more.level, more.ring)
    })
  return threads
}
