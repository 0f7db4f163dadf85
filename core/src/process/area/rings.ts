import { combine, growLines, linesWithin, offset, shapeArea, shapesOf } from '../../geometry/clip.ts'
import { closedLine, type Ring, reversed, ringBounds, ringLength, ringsBounds, thereAndBack } from '../../geometry/ring.ts'
import { shortTour } from '../../geometry/tour.ts'
import { linesOfPiece } from './lines.ts'

/** A link between rings that is longer than so many pitches is travelled dark. */
const LINK = 1.7
/** Rings within rings: more than a bed at the finest interval has. */
const MOST_LEVELS = 200_000
/** What is left between rings is filled where it is larger than this share of a square of the pitch. */
const WORTHWHILE = 0.3
/** And wider than this share of the pitch: rings of flat pieces leave slivers between them that nobody sees. */
const THIN = 0.2

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
    if (leavesSomething(before, next, by, pitch)) for (const each of leftOver(before, next, by, pitch)) middles.push(each)
    if (next.length > 0) levels.push({ rings: next, parent: parentsOf(next, levels.at(-1)?.rings ?? [], pitch) })
    before = next
    by = pitch
  }
  const threads = chained(levels, at, LINK * pitch)
  const last = threads.at(-1)
  const all = [...threads, ...inOrder(middles, last ? [last[last.length - 2], last[last.length - 1]] : at)]
  return { threads: outwards ? all.reverse().map(backwards) : all }
}

const backwards = (line: Ring): Ring => reversed(line)

/**
 * Whether there may be more between rings than a strip as wide as they are apart: where nothing closes between them, its size is its
 * width times half their length together, and as many rings are left. A point of a star that closes leaves its middle, although it is
 * smaller than such a strip around it.
 */
function leavesSomething(before: readonly Ring[], next: readonly Ring[], by: number, pitch: number): boolean {
  if (before.length !== next.length) return true
  const around = (rings: readonly Ring[]): number => rings.reduce((sum, ring) => sum + ringLength(ring), 0)
  const strip = (by * (around(before) + around(next))) / 2
  return Math.abs(shapeArea(before) - shapeArea(next) - strip) > WORTHWHILE * pitch * pitch
}

/** What neither a ring nor the next one within it comes near: lines along it. @param by from one to the other */
function leftOver(before: readonly Ring[], next: readonly Ring[], by: number, pitch: number): Ring[] {
  // From the ring before it is burned half a pitch inwards already; from the edge of the area nothing is.
  const free = by === pitch ? offset(before, -pitch / 2, { simple: true }) : before
  if (free.length === 0) return []
  const near = next.length > 0 ? offset(next, pitch / 2, { simple: true, join: 'mitre' }) : []
  const left = near.length > 0 ? combine('subtract', free, near) : free
  return shapesOf(left).flatMap((shape) => alongPiece(shape, pitch))
}

/** A piece is followed along its middle where it is no wider on average than this many pitches, and that much longer than wide. */
const NARROW = { pitches: 1.2, longer: 3 }
/** So often what the middle of a piece leaves is followed along its own: a piece may branch. */
const BRANCHES = 3

/** Lines that fill a narrow piece: one along its middle, else short ones along its longer side. */
function alongPiece(shape: readonly Ring[], pitch: number, branch = 0): Ring[] {
  const size = shapeArea(shape)
  const around = shape.reduce((sum, ring) => sum + ringLength(ring), 0)
  const wide = (2 * size) / around
  if (size < WORTHWHILE * pitch * pitch || wide < THIN * pitch) return []
  if (branch < BRANCHES && wide < NARROW.pitches * pitch && around > 2 * NARROW.longer * wide) {
    // Where the piece bends back, half way to the other side may lie outside.
    const middles = linesWithin(unbroken(middleOf(shape, pitch / 2), pitch), shape).filter(
      (line) => lineLength(line) > THIN * pitch,
    )
    if (middles.length === 0) return []
    const rest = combine('subtract', shape, growLines(middles, pitch / 2))
    return [...middles, ...shapesOf(rest).flatMap((piece) => alongPiece(piece, pitch, branch + 1))]
  }
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

/**
 * The line in the middle of a narrow piece: half way from one of its sides to the other. Of a piece that goes around a hole, from its
 * outer edge to the hole's; else from one of its ends to the other. @param step so far apart are its points at most
 */
function middleOf([outer, ...holes]: readonly Ring[], step: number): Ring {
  if (holes.length > 0) {
    const hole = holes.reduce((most, ring) => (ringLength(ring) > ringLength(most) ? ring : most))
    const line = halfWay(stepped(closedLine(outer), step), hole)
    return closedLine(line)
  }
  const round = stepped(closedLine(outer), step)
  const n = round.length / 2 - 1
  const tip = farthest(round, round[0], round[1])
  const other = farthest(round, round[2 * tip], round[2 * tip + 1])
  const side = (from: number, to: number): Ring => {
    const out: number[] = []
    for (let i = from; ; i = (i + 1) % n) {
      out.push(round[2 * i], round[2 * i + 1])
      if (i === to % n) break
    }
    return Float64Array.from(out)
  }
  const [a, b] = [side(tip % n, other % n), side(other % n, tip % n)]
  return a.length < 4 || b.length < 4 ? round : halfWay(a, thereAndBack(b))
}

/** A line in parts, where it jumps from one place to another. @param far more than this is a jump */
function unbroken(line: Ring, far: number): Ring[] {
  const parts: Ring[] = []
  let from = 0
  for (let i = 2; i <= line.length; i += 2) {
    const goesOn = i < line.length && Math.hypot(line[i] - line[i - 2], line[i + 1] - line[i - 1]) <= far
    if (goesOn) continue
    if (i - from > 2) parts.push(line.subarray(from, i))
    from = i
  }
  return parts
}

function lineLength(line: Ring): number {
  let sum = 0
  for (let i = 2; i < line.length; i += 2) sum += Math.hypot(line[i] - line[i - 2], line[i + 1] - line[i - 1])
  return sum
}

/** The point of a line that is farthest from a place: its number. */
function farthest(line: Ring, x: number, y: number): number {
  let most = -1
  let found = 0
  for (let i = 0; i < line.length; i += 2) {
    const d = (line[i] - x) ** 2 + (line[i + 1] - y) ** 2
    if (d > most) {
      most = d
      found = i / 2
    }
  }
  return found
}

/** A line with more points, so that none are farther apart than a step. */
function stepped(line: Ring, step: number): Ring {
  const out: number[] = []
  for (let i = 0; i + 3 < line.length; i += 2) {
    const [dx, dy] = [line[i + 2] - line[i], line[i + 3] - line[i + 1]]
    const parts = Math.max(1, Math.ceil(Math.hypot(dx, dy) / step))
    for (let k = 0; k < parts; k++) out.push(line[i] + (dx * k) / parts, line[i + 1] + (dy * k) / parts)
  }
  out.push(line[line.length - 2], line[line.length - 1])
  return Float64Array.from(out)
}

/** Half way from each point of a line to the nearest place of a ring. */
function halfWay(line: Ring, to: Ring): Ring {
  const out = new Float64Array(line.length)
  for (let i = 0; i < line.length; i += 2) {
    const { x, y } = nearestOn(to, line[i], line[i + 1])
    out[i] = (line[i] + x) / 2
    out[i + 1] = (line[i + 1] + y) / 2
  }
  return out
}

/** Lines in an order with little travel, from a place on. */
function inOrder(lines: readonly Ring[], [x, y]: readonly [number, number]): Ring[] {
  if (lines.length < 2) return [...lines]
  const middle = (line: Ring): number => (line.length >> 2) * 2
  const tour = shortTour(
    Float64Array.from([x, ...lines.map((line) => line[middle(line)])]),
    Float64Array.from([y, ...lines.map((line) => line[middle(line) + 1])]),
  )
  let at = [x, y]
  return Array.from(tour.subarray(1), (i) => {
    const line = lines[i - 1]
    const away = (k: number): number => Math.hypot(line[k] - at[0], line[k + 1] - at[1])
    const turned = away(line.length - 2) < away(0) ? reversed(line) : line
    at = [turned[turned.length - 2], turned[turned.length - 1]]
    return turned
  })
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
