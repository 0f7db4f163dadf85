import { combine } from '../../geometry/clip.ts'
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

/** Where a bridge from a place on an edge ends: straight off the edge, or at the nearest edge where that is much shorter. */
function endAcross(
  own: Ring,
  others: readonly Ring[],
  [x, y]: readonly [number, number],
  [ux, uy]: readonly [number, number],
): readonly [number, number] | undefined {
  const found = nearestOn(others.map(pathFromRing), x, y)
  if (!found) return undefined
  const nearest = placeOn(piecesOf(pathFromRing(others[found.path]))[found.piece], found.t)
  // Away from the held piece.
  const side = ringContains(own, x - uy * 0.01, y + ux * 0.01) ? -1 : 1
  const [dx, dy] = [-uy * side, ux * side]
  let far = Infinity
  for (const ring of others) {
    const n = ring.length
    for (let i = 0; i < n; i += 2) {
      const j = (i + 2) % n
      const [ex, ey] = [ring[j] - ring[i], ring[j + 1] - ring[i + 1]]
      const cross = dx * ey - dy * ex
      if (Math.abs(cross) < 1e-12) continue
      const [px, py] = [ring[i] - x, ring[i + 1] - y]
      const t = (px * ey - py * ex) / cross
      const s = (px * dy - py * dx) / cross
      if (t > 1e-6 && s >= 0 && s <= 1 && t < far) far = t
    }
  }
  return found.distance < MUCH_SHORTER * far ? nearest : [x + dx * far, y + dy * far]
}

/**
 * The bridge at the place of an outline that is nearest to a point: straight to the nearest edge across.
 * @param rings outlines by even-odd, mm @returns undefined where nothing is across, as around an outermost outline
 */
export function spanAt(rings: readonly Ring[], x: number, y: number): Span | undefined {
  const paths = rings.map(pathFromRing)
  const found = nearestOn(paths, x, y)
  if (!found) return undefined
  const { parent } = nest(rings)
  const from = placeOn(piecesOf(paths[found.path])[found.piece], found.t)
  const [x0, y0, x1, y1] = piecesOf(paths[found.path])[found.piece]
  const long = Math.hypot(x1 - x0, y1 - y0) || 1
  const others = across(parent, found.path).map((i) => rings[i])
  const to = endAcross(rings[found.path], others, from, [(x1 - x0) / long, (y1 - y0) / long])
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
    const span = spanAt(rings, x, y)
    if (span) (depth[span.ring] % 2 === 0 ? added : taken).push(stripOf(span, widthMm))
  }
  // Strips that overlap are one: by even-odd their overlap would be a hole.
  const more = added.length > 0 ? combine('union', rings, joinedStrips(added)) : [...rings]
  return taken.length > 0 ? combine('subtract', more, joinedStrips(taken)) : more
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
  const candidates = places.map(([x, y], i) => {
    const [px, py] = places[(i + places.length - 1) % places.length]
    const [qx, qy] = places[(i + 1) % places.length]
    const along = Math.hypot(qx - px, qy - py) || 1
    const to = endAcross(own, others, [x, y], [(qx - px) / along, (qy - py) / along])!
    const far = Math.hypot(to[0] - x, to[1] - y)
    // How much the edge turns over the bridge's width: 0 straight, 1 a right angle.
    const window = Math.max(1, Math.round((widthMm / length) * n))
    const turn = bend(places, i, window)
    // A bridge that starts into its own piece is none.
    const leaves = !ringContains(own, x + (to[0] - x) * 0.02, y + (to[1] - y) * 0.02) || far < 1e-6
    return { i, x, y, cost: leaves ? (far + widthMm) * (1 + 3 * turn) : Infinity }
  })
  const chosen: (typeof candidates)[number][] = []
  const least = Math.max((0.55 * n) / count, (2 * n * widthMm) / length)
  for (const candidate of [...candidates].sort((a, b) => a.cost - b.cost || a.i - b.i)) {
    if (chosen.length === count || !Number.isFinite(candidate.cost)) break
    const apart = chosen.every(({ i }) => {
      const d = Math.abs(i - candidate.i)
      return Math.min(d, n - d) >= least
    })
    if (apart) chosen.push(candidate)
  }
  return chosen.map(({ x, y }) => [x, y] as const)
}

/** Places at equal steps along a ring. */
function alongRing(ring: Ring, n: number): (readonly [number, number])[] {
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
