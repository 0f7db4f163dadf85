import { closedLine, type Ring } from '../geometry/ring.ts'
import type { Machine } from '../machine/machine.ts'

/** Steps of speed in which the beam is raised on the way to a corner. */
const STEPS = 4
/** Slower than this share of its speed a path is not told apart: the beam would have to be lit without end. */
const SLOWEST = 0.05
/** Shorter stretches are not parted, mm. */
const SHORTEST = 0.02

/** One straight stretch, and the beam on it. */
export interface Powered {
  /** Where it ends, µm. */
  readonly x: number
  readonly y: number
  readonly s: number
}

/**
 * A line in stretches whose beam keeps a least power where the machine slows down. The controller scales the beam with the speed
 * (S·v/F): where that would give less than wanted, S is higher by as much. Speeds are those of the machine's own rule: at a
 * corner v² = a·δ·sin(θ/2)/(1 − sin(θ/2)), between corners v² = v₀² + 2·a·d.
 * @param points polyline, axes µm; the head stands at its first @param s of the full speed @param leastS at any speed
 */
export function keptPower(points: Ring, speedMmS: number, s: number, leastS: number, machine: Machine): Powered[] {
  const n = points.length / 2
  const plain = (): Powered[] => Array.from({ length: n - 1 }, (_, i) => ({ x: points[2 * i + 2], y: points[2 * i + 3], s }))
  const { head } = machine
  if (leastS <= 0 || head.kind === 'mirrors' || s === 0) return plain()
  const least = Math.min(leastS, s)
  const ratio = least / s
  const lengths = new Float64Array(n - 1)
  const caps = new Float64Array(n - 1)
  const accelerations = new Float64Array(n - 1)
  for (let i = 0; i + 1 < n; i++) {
    const [dx, dy] = [(points[2 * i + 2] - points[2 * i]) / 1000, (points[2 * i + 3] - points[2 * i + 1]) / 1000]
    const long = Math.hypot(dx, dy)
    lengths[i] = long
    const along = (x: number, y: number): number =>
      long === 0 ? Math.min(x, y) : Math.min(x / Math.max(1e-9, Math.abs(dx / long)), y / Math.max(1e-9, Math.abs(dy / long)))
    accelerations[i] = along(machine.axes.x.accelerationMmS2, machine.axes.y.accelerationMmS2)
    caps[i] = Math.min(speedMmS, along(machine.axes.x.speedMmS, machine.axes.y.speedMmS))
  }
  const speeds = cornerSpeeds(points, lengths, caps, accelerations, head.junctionDeviationMm)
  const out: Powered[] = []
  for (let i = 0; i + 1 < n; i++) {
    const [x0, y0, x1, y1] = points.subarray(2 * i, 2 * i + 4)
    const [v0, v1, top, a, long] = [speeds[i], speeds[i + 1], caps[i], accelerations[i], lengths[i]]
    const enough = ratio * speedMmS
    const ends = long < SHORTEST ? [] : [...upTo(v0, enough, a), ...upTo(v1, enough, a).map((d) => long - d)]
    const at = [...new Set(ends.filter((d) => d > SHORTEST / 2 && d < long - SHORTEST / 2))].sort((p, q) => p - q)
    let from = 0
    for (const to of [...at, long]) {
      const d = (from + to) / 2
      const v = Math.min(top, Math.sqrt(v0 * v0 + 2 * a * d), Math.sqrt(v1 * v1 + 2 * a * (long - d)))
      const raised = v < enough ? Math.max(s, (least * speedMmS) / Math.max(v, SLOWEST * speedMmS)) : s
      const share = to === long ? 1 : to / long
      out.push({
        x: Math.round(x0 + (x1 - x0) * share),
        y: Math.round(y0 + (y1 - y0) * share),
        s: Math.min(machine.fullPowerS, Math.round(raised)),
      })
      from = to
    }
  }
  return out
}

/** How far from a corner each step of speed is reached, mm. */
function upTo(from: number, enough: number, acceleration: number): number[] {
  if (from >= enough) return []
  return Array.from({ length: STEPS }, (_, k) => {
    const v = from + ((enough - from) * (k + 1)) / STEPS
    return (v * v - from * from) / (2 * acceleration)
  })
}

/** The speed at every corner of a line that begins and ends at rest, mm/s. */
function cornerSpeeds(
  points: Ring,
  lengths: Float64Array,
  caps: Float64Array,
  accelerations: Float64Array,
  deviation: number,
): Float64Array {
  const n = points.length / 2
  const v = new Float64Array(n)
  for (let i = 1; i + 1 < n; i++) {
    const [ax, ay] = [points[2 * i] - points[2 * i - 2], points[2 * i + 1] - points[2 * i - 1]]
    const [bx, by] = [points[2 * i + 2] - points[2 * i], points[2 * i + 3] - points[2 * i + 1]]
    const long = Math.hypot(ax, ay) * Math.hypot(bx, by)
    // θ between the way back and the way on.
    const cos = long === 0 ? -1 : -(ax * bx + ay * by) / long
    const half = Math.sqrt(Math.max(0, (1 - cos) / 2))
    const a = Math.min(accelerations[i - 1], accelerations[i])
    const corner = half >= 1 - 1e-9 ? Infinity : Math.sqrt((a * deviation * half) / (1 - half))
    v[i] = Math.min(corner, caps[i - 1], caps[i])
  }
  for (let i = 1; i < n; i++) v[i] = Math.min(v[i], Math.sqrt(v[i - 1] ** 2 + 2 * accelerations[i - 1] * lengths[i - 1]))
  for (let i = n - 2; i >= 0; i--) v[i] = Math.min(v[i], Math.sqrt(v[i + 1] ** 2 + 2 * accelerations[i] * lengths[i]))
  return v
}

/** The highest speed that a path lets a machine come to, mm/s. @param points polyline or ring, mm, turned as the axes are or not: the slower axis counts */
export function topSpeedAlong(points: Ring, closed: boolean, speedMmS: number, machine: Machine): number {
  const { axes, head } = machine
  const line = closed ? closedLine(points) : points
  const n = line.length / 2
  const acceleration = Math.min(axes.x.accelerationMmS2, axes.y.accelerationMmS2)
  const lengths = new Float64Array(n - 1)
  for (let i = 0; i + 1 < n; i++) lengths[i] = Math.hypot(line[2 * i + 2] - line[2 * i], line[2 * i + 3] - line[2 * i + 1])
  const even = (value: number): Float64Array => new Float64Array(n - 1).fill(value)
  const deviation = head.kind === 'gantry' ? head.junctionDeviationMm : 0
  const speeds = cornerSpeeds(line, lengths, even(speedMmS), even(acceleration), deviation)
  let top = 0
  for (let i = 0; i + 1 < n; i++)
    top = Math.max(top, Math.sqrt((speeds[i] ** 2 + speeds[i + 1] ** 2) / 2 + acceleration * lengths[i]))
  return Math.min(top, speedMmS)
}
