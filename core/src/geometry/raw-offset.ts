import type { Ring } from './ring.ts'

export type Join = 'round' | 'mitre' | 'bevel'

/** Corners that are not all alike. */
export interface Corners {
  /** How many distances a mitre may be long; absent: {@link MITRE_LIMIT}. */
  readonly limit?: number
  /** What stands where it would be longer: a flat end as far away as the edges are, or straight across. */
  readonly over?: 'flat' | 'bevel'
  /** What stands at some corners, by their index, instead. */
  readonly ends?: (corner: number) => Join | undefined
}

/** A mitre longer than this many distances is cut off square. */
export const MITRE_LIMIT = 4

/**
 * The edge of a shape moved sideways, loops and all: what winds around more than nothing is the shape grown by the distance,
 * or shrunk where it is negative (X. Chen, S. McMains: Polygon offsetting by computing winding numbers, ASME 2005).
 *
 * Where the edge turns away from the side that it moves to, moved neighbours meet in a point as long as that leaves something
 * of both, and so no loop is made only to be taken away again; else they are joined through the old corner.
 * @param path outer rings have positive area, holes negative
 * @param distance as the points are @param tolerance how far a round join may lie from its arc
 */
export function rawOffset(path: Ring, distance: number, joins: Join, tolerance: number, corners: Corners = {}): Ring {
  const { limit = MITRE_LIMIT, over = 'flat', ends } = corners
  const ring = withoutDoubles(path)
  const n = ring.length / 2
  const reach = Math.abs(distance)
  const nx = new Float64Array(n)
  const ny = new Float64Array(n)
  const long = new Float64Array(n)
  for (let i = 0; i < n; i++) {
    const after = i + 1 === n ? 0 : i + 1
    const dx = ring[2 * after] - ring[2 * i]
    const dy = ring[2 * after + 1] - ring[2 * i + 1]
    const length = Math.hypot(dx, dy) || 1
    long[i] = length
    nx[i] = dy / length
    ny[i] = -dx / length
  }
  /** What a meeting point takes from both of its edges; 0 where the edge turns the other way. */
  const taken = new Float64Array(n)
  for (let i = 0, before = n - 1; i < n; before = i++) {
    const sine = nx[before] * ny[i] - ny[before] * nx[i]
    const cosine = nx[before] * nx[i] + ny[before] * ny[i]
    if (sine * distance < 0) taken[i] = (reach * Math.abs(sine)) / Math.max(1e-12, 1 + cosine)
  }
  const stepAngle = 2 * Math.acos(Math.max(0, 1 - tolerance / reach))
  const out: number[] = []
  const put = (x: number, y: number): void => void out.push(Math.round(x), Math.round(y))
  const way = Math.sign(distance)
  for (let i = 0, before = n - 1; i < n; before = i++) {
    const x = ring[2 * i]
    const y = ring[2 * i + 1]
    const [ax, ay, bx, by] = [nx[before], ny[before], nx[i], ny[i]]
    const sine = ax * by - ay * bx
    const cosine = ax * bx + ay * by
    const turnsAway = sine * distance < 0
    const turn = Math.atan2(Math.abs(sine), cosine)
    const join = ends?.(i) ?? joins
    /** How many distances away the moved neighbours meet. */
    const beyond = 1 / Math.max(1e-12, Math.cos(turn / 2))
    const meets = turnsAway
      ? taken[i] + taken[before] <= long[before] && taken[i] + taken[i + 1 === n ? 0 : i + 1] <= long[i]
      : join === 'mitre'
        ? beyond <= limit
        : join === 'round' && reach * (beyond - 1) <= tolerance / 4
    if (meets) {
      const half = distance / (1 + cosine)
      put(x + half * (ax + bx), y + half * (ay + by))
      continue
    }
    if (!turnsAway && join === 'mitre' && over === 'flat') {
      // A flat end as far away as the edges are.
      const flat = way * Math.tan(turn / 4)
      put(x + distance * (ax - flat * ay), y + distance * (ay + flat * ax))
      put(x + distance * (bx + flat * by), y + distance * (by - flat * bx))
      continue
    }
    put(x + distance * ax, y + distance * ay)
    if (turnsAway) put(x, y)
    else if (join === 'round') {
      const steps = Math.max(1, Math.ceil(turn / stepAngle))
      for (let k = 1; k < steps; k++) {
        const c = Math.cos((k * way * turn) / steps)
        const s = Math.sin((k * way * turn) / steps)
        put(x + distance * (c * ax - s * ay), y + distance * (s * ax + c * ay))
      }
    }
    put(x + distance * bx, y + distance * by)
  }
  return Float64Array.from(out)
}

/** Without points that are where the one before is. */
function withoutDoubles(ring: Ring): Ring {
  const out = new Float64Array(ring.length)
  let n = 0
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
    if (ring[i] === ring[j] && ring[i + 1] === ring[j + 1]) continue
    out[n++] = ring[i]
    out[n++] = ring[i + 1]
  }
  return n === 0 ? ring.slice(0, 2) : out.subarray(0, n)
}
