import { combine, offset, shapeArea, shapesOf } from '../../geometry/clip.ts'
import { nest } from '../../geometry/nesting.ts'
import { pathFromRing } from '../../geometry/path.ts'
import { nearestOn, piecesOf, placeOn } from '../../geometry/pieces.ts'
import { type Ring, ringContains, ringLength } from '../../geometry/ring.ts'

/** A bridge from an edge to the edge across, mm. */
export interface Span {
  readonly from: readonly [number, number]
  readonly to: readonly [number, number]
  /** Ring of the outline that the held piece has. */
  readonly ring: number
}

/** A strip reaches this far into what it holds, mm: nothing stays open at its ends. */
const INTO_MM = 0.3

/** Rings that lie right across what is cut away from a ring: the one around it, and its siblings. */
function across(parent: Int32Array, ring: number): number[] {
  const around = parent[ring]
  return Array.from(parent.keys()).filter((i) => i !== ring && (i === around || (parent[i] === around && around >= 0)))
}

/** A way straight off the edge is taken unless the nearest one is this much shorter. */
const MUCH_SHORTER = 0.6
/** An edge is looked at over this length at least, to tell which way it runs, mm: traced ones are rough. */
const LEAST_CHORD_MM = 1

type Place = readonly [number, number]

/** Where a straight way from a place first meets an edge. */
interface Meeting {
  readonly far: number
  readonly ring: Ring
  /** The corner where that edge begins, counted in numbers. */
  readonly edge: number
}

/** Where a straight way first meets one of the rings. @param way of length 1 */
function firstMet(rings: readonly Ring[], [x, y]: Place, [dx, dy]: Place): Meeting | undefined {
  let met: Meeting | undefined
  for (const ring of rings) {
    const n = ring.length
    for (let i = 0; i < n; i += 2) {
      const j = (i + 2) % n
      const [ex, ey] = [ring[j] - ring[i], ring[j + 1] - ring[i + 1]]
      const cross = dx * ey - dy * ex
      if (Math.abs(cross) < 1e-12) continue
      const [px, py] = [ring[i] - x, ring[i + 1] - y]
      const t = (px * ey - py * ex) / cross
      const s = (px * dy - py * dx) / cross
      if (t > 1e-6 && s >= 0 && s <= 1 && t < (met?.far ?? Infinity)) met = { far: t, ring, edge: i }
    }
  }
  return met
}

/** The place of a ring that lies a length further along it, from a place on one of its edges. @param by mm, may be negative */
function further(ring: Ring, edge: number, from: Place, by: number): Place {
  const n = ring.length
  const ahead = by > 0
  let left = Math.abs(by)
  let [x, y] = from
  let next = ahead ? (edge + 2) % n : edge
  for (let steps = 0; steps < n; steps++) {
    const long = Math.hypot(ring[next] - x, ring[next + 1] - y)
    if (long >= left) return long > 0 ? [x + ((ring[next] - x) * left) / long, y + ((ring[next + 1] - y) * left) / long] : [x, y]
    left -= long
    ;[x, y] = [ring[next], ring[next + 1]]
    next = (next + (ahead ? 2 : n - 2)) % n
  }
  return [x, y]
}

/** Which way an edge runs at a place, over the width of a bridge: of length 1. */
function runAt(ring: Ring, edge: number, place: Place, widthMm: number): Place {
  const half = Math.min(Math.max(widthMm, LEAST_CHORD_MM) / 2, ringLength(ring) / 6)
  const [ax, ay] = further(ring, edge, place, -half)
  const [bx, by] = further(ring, edge, place, half)
  const long = Math.hypot(bx - ax, by - ay) || 1
  return [(bx - ax) / long, (by - ay) / long]
}

/** Square off an edge, away from what it holds. */
function awayFrom(own: Ring, [x, y]: Place, [ux, uy]: Place): Place {
  const side = ringContains(own, x - uy * 0.01, y + ux * 0.01) ? -1 : 1
  return [-uy * side, ux * side]
}

/** Where a bridge from a place on an edge ends: square off the edge, or at the nearest edge where that is much shorter. */
function endAcross(own: Ring, others: readonly Ring[], from: Place, run: Place): Place | undefined {
  const found = nearestOn(others.map(pathFromRing), ...from)
  if (!found) return undefined
  const nearest = placeOn(piecesOf(pathFromRing(others[found.path]))[found.piece], found.t)
  const [dx, dy] = awayFrom(own, from, run)
  const { far } = firstMet(others, from, [dx, dy]) ?? { far: Infinity }
  return found.distance < MUCH_SHORTER * far ? nearest : [from[0] + dx * far, from[1] + dy * far]
}

/**
 * The bridge at the place of an outline that is nearest to a point: straight to the edge across, square off its own.
 * @param rings outlines by even-odd, mm @param widthMm the edge is followed over so much, to tell which way it runs
 * @returns undefined where nothing is across, as around an outermost outline
 */
export function spanAt(rings: readonly Ring[], x: number, y: number, widthMm = LEAST_CHORD_MM): Span | undefined {
  const paths = rings.map(pathFromRing)
  const found = nearestOn(paths, x, y)
  if (!found) return undefined
  const { parent } = nest(rings)
  const own = rings[found.path]
  const from = placeOn(piecesOf(paths[found.path])[found.piece], found.t)
  const others = across(parent, found.path).map((i) => rings[i])
  const to = endAcross(own, others, from, runAt(own, 2 * found.piece, from, widthMm))
  return to && { from, to, ring: found.path }
}

/** The strip of a bridge. @param widthMm mm */
export function stripOf({ from, to }: Span, widthMm: number): Ring {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1])
  const [ux, uy] = length > 1e-9 ? [(to[0] - from[0]) / length, (to[1] - from[1]) / length] : [1, 0]
  // Wide strips leave a curved edge at their sides: they reach in by its height there.
  const into = INTO_MM + widthMm / 4
  const [ax, ay] = [from[0] - ux * into, from[1] - uy * into]
  const [bx, by] = [to[0] + ux * into, to[1] + uy * into]
  const [nx, ny] = [(-uy * widthMm) / 2, (ux * widthMm) / 2]
  return Float64Array.of(ax + nx, ay + ny, bx + nx, by + ny, bx - nx, by - ny, ax - nx, ay - ny)
}

/**
 * Outlines with bridges. Where the held piece is filled by even-odd (a part) the strip is added, where it is not (an island in
 * what a stencil opens) the strip is taken off. @param rings mm @param bridges a place on the held edge each, mm
 */
export function bridged(
  rings: readonly Ring[],
  bridges: readonly { readonly x: number; readonly y: number; readonly widthMm: number }[],
): Ring[] {
  const { depth } = nest(rings)
  const added: Ring[] = []
  const taken: Ring[] = []
  for (const { x, y, widthMm } of bridges) {
    const span = spanAt(rings, x, y, widthMm)
    if (span) (depth[span.ring] % 2 === 0 ? added : taken).push(stripOf(span, widthMm))
  }
  // Strips that overlap are one: by even-odd their overlap would be a hole.
  const more = added.length > 0 ? unslivered(rings, added, 'union') : [...rings]
  return taken.length > 0 ? unslivered(more, taken, 'subtract') : more
}

/** What is narrower than this beside a bridge belongs to it: no beam opens it, and it would tear, mm. */
const SLIVER_MM = 0.3
/** Slivers are looked for so far around a bridge, mm. */
const BESIDE_MM = 3
/** Smaller than this is only how corners round off, mm². */
const SPECK_MM2 = 2e-3

/**
 * Outlines with strips, without the slivers that the strips leave beside them: what they make too narrow to be opened is closed.
 * @param how strips are added to what is filled, or taken off it
 */
function unslivered(rings: readonly Ring[], strips: readonly Ring[], how: 'union' | 'subtract'): Ring[] {
  const strip = joinedStrips(strips)
  const made = combine(how, rings, strip)
  const around = offset(strip, BESIDE_MM)
  const narrowIn = (all: readonly Ring[]): Ring[] => {
    const open = combine(how === 'union' ? 'subtract' : 'intersect', around, all)
    const wide = offset(offset(open, -SLIVER_MM / 2, { join: 'mitre' }), SLIVER_MM / 2, { join: 'mitre' })
    return combine('subtract', open, wide)
  }
  // What was narrow before is meant.
  const meant = offset(narrowIn(rings), 0.02)
  const beside = offset(strip, 0.02)
  const slivers = shapesOf(combine('subtract', narrowIn(made), meant)).filter(
    (shape) => shapeArea(shape) > SPECK_MM2 && combine('intersect', shape, beside).length > 0,
  )
  // A little wider than they are: what only touches does not join.
  return slivers.length === 0 ? made : combine(how, made, offset(slivers.flat(), 0.01, { join: 'mitre' }))
}

/** Strips that overlap, as one shape. */
const joinedStrips = (strips: readonly Ring[]): Ring[] =>
  strips.reduce<Ring[]>((sum, strip) => (sum.length === 0 ? [strip] : combine('union', sum, [strip])), [])

/** Places that are tried along an edge, at most this far apart, mm. */
const TRY_MM = 0.7
const LEAST_TRIED = 48

/**
 * Where bridges hurt least: short ones, where both edges run straight, apart from each other along the edge.
 * @param rings outlines by even-odd, mm @param ring the outline of what is held @param widthMm width of each
 * @returns places on that outline, mm; fewer where the edge is too short
 */
export function bestBridges(rings: readonly Ring[], ring: number, count: number, widthMm: number): (readonly [number, number])[] {
  const own = rings[ring]
  const { parent } = nest(rings)
  const others = across(parent, ring).map((i) => rings[i])
  if (others.length === 0) return []
  const length = ringLength(own)
  const n = Math.max(LEAST_TRIED, Math.min(1200, Math.ceil(length / TRY_MM)))
  const places = alongRing(own, n)
  // How much the edge turns over the bridge's width: 0 straight, 1 a right angle.
  const window = Math.max(1, Math.round((Math.max(widthMm, LEAST_CHORD_MM) / 2 / length) * n))
  const candidates = places.map(([x, y], i) => {
    const [px, py] = places[(i + places.length - window) % places.length]
    const [qx, qy] = places[(i + window) % places.length]
    const along = Math.hypot(qx - px, qy - py) || 1
    const run: Place = [(qx - px) / along, (qy - py) / along]
    const to = endAcross(own, others, [x, y], run)!
    const far = Math.hypot(to[0] - x, to[1] - y)
    const turn = bend(places, i, Math.max(1, Math.round((widthMm / length) * n)))
    // A bridge that starts into its own piece is none.
    const leaves = !ringContains(own, x + (to[0] - x) * 0.02, y + (to[1] - y) * 0.02) || far < 1e-6
    return { i, x, y, run, to, cost: leaves ? (far + widthMm) * (1 + 3 * turn) : Infinity }
  })
  const sorted = candidates.filter(({ cost }) => Number.isFinite(cost)).sort((a, b) => a.cost - b.cost || a.i - b.i)
  const least = Math.max((0.55 * n) / count, (2 * n * widthMm) / length)
  const chosen: (typeof candidates)[number][] = []
  const known = new Map<number, number>()
  const crookedness = ({ i, x, y, run, to }: (typeof candidates)[number]): number => {
    const found = known.get(i) ?? crooked(others, [x, y], to, run, widthMm)
    known.set(i, found)
    return found
  }
  // Straight ones first; what is crooked is still better than what falls, but nothing is held by a bad one beside good ones.
  for (const { limit, most } of [
    { limit: STRAIGHT, most: count },
    { limit: SLANTED, most: count },
    { limit: Infinity, most: 1 },
  ])
    for (const candidate of sorted) {
      if (chosen.length >= most) break
      const apart = chosen.every(({ i }) => {
        const d = Math.abs(i - candidate.i)
        return Math.min(d, n - d) >= least
      })
      if (apart && crookedness(candidate) <= limit) chosen.push(candidate)
    }
  return chosen.map(({ x, y }) => [x, y] as const)
}

/** A bridge is straight where it meets both edges within 15° of square, over its whole width; within 35° it is slanted. */
const STRAIGHT = Math.sin(Math.PI / 12)
const SLANTED = Math.sin((35 * Math.PI) / 180)

/**
 * How far a bridge is from one square across straight edges: the sine of the angle by which it misses square on its own edge, or on
 * the one across over its width; 1 and more where something else reaches into it.
 */
function crooked(others: readonly Ring[], from: Place, to: Place, run: Place, widthMm: number): number {
  const far = Math.hypot(to[0] - from[0], to[1] - from[1])
  if (far < 1e-9) return 0
  const way: Place = [(to[0] - from[0]) / far, (to[1] - from[1]) / far]
  const own = Math.abs(way[0] * run[0] + way[1] * run[1])
  const half = widthMm / 2
  const sides = [half, -half].map((by) => firstMet(others, [from[0] - way[1] * by, from[1] + way[0] * by], way)?.far ?? Infinity)
  return Math.max(own, ...sides.map((side) => Math.sin(Math.atan2(Math.abs(side - far), half))))
}

/** Places at equal steps along a ring. */
export function alongRing(ring: Ring, n: number): (readonly [number, number])[] {
  const step = ringLength(ring) / n
  const out: (readonly [number, number])[] = []
  const count = ring.length / 2
  let left = 0
  for (let k = 0; k < count && out.length < n; k++) {
    const [x0, y0] = [ring[2 * k], ring[2 * k + 1]]
    const j = (k + 1) % count
    const [dx, dy] = [ring[2 * j] - x0, ring[2 * j + 1] - y0]
    const long = Math.hypot(dx, dy)
    let at = left
    for (; at < long && out.length < n; at += step) out.push([x0 + (dx * at) / long, y0 + (dy * at) / long])
    left = at - long
  }
  return out
}

function bend(places: readonly (readonly [number, number])[], i: number, window: number): number {
  const n = places.length
  const at = (k: number): readonly [number, number] => places[((k % n) + n) % n]
  const [ax, ay] = at(i - window)
  const [bx, by] = at(i)
  const [cx, cy] = at(i + window)
  const turn = Math.atan2((bx - ax) * (cy - by) - (by - ay) * (cx - bx), (bx - ax) * (cx - bx) + (by - ay) * (cy - by))
  return Math.abs(turn) / (Math.PI / 2)
}
