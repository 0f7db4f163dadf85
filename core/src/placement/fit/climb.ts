import { type Constraint, linearProgram } from '../../numeric/linear-program.ts'
import { cosSin } from '../../space/affine.ts'
import { type FitPose, liesIn, untilTouch } from './contact.ts'
import type { Edges } from './shape.ts'

/** What is climbed to: a shape, where it must lie, and how far it may be turned and grown. */
export interface Climb {
  readonly shape: Edges
  readonly into: Edges
  /** How far the shape reaches from its origin, mm. */
  readonly reach: number
  readonly turns: boolean
  readonly mostScale: number
  /** What is far below this after some rounds is given up. */
  readonly toBeat?: number
}

const ROUNDS = 40
/** After so many rounds it shows whether a pose can become the best. */
const SHOWN_ROUNDS = 8
const HOPELESS = 0.94

/**
 * The largest scale near a pose: what touches or nearly touches is a linear constraint on a small change, the best such change is
 * tried exactly, and the step grows or shrinks by how it went (sequential linear programming with a trust region).
 * @param start a pose in which the shape lies inside @param share of the shape that it may move by at first
 */
export function climbed(
  { shape, into, reach, turns, mostScale, toBeat = 0 }: Climb,
  start: FitPose,
  share = 0.06,
  rounds = ROUNDS,
): FitPose {
  let pose = start
  let step = share * reach * pose.scale
  const least = 2e-4 * reach * pose.scale
  for (let round = 0; round < rounds && step > least && pose.scale < mostScale; round++) {
    if (round === SHOWN_ROUNDS && pose.scale < HOPELESS * toBeat) break
    const far = 3.5 * step
    const constraints = near(shape, into, pose, far)
    const byTurn = turns ? step / (reach * pose.scale) : 0
    const byScale = Math.min(step / reach, mostScale - pose.scale)
    const limits = turns ? [step, step, byScale, byTurn] : [step, step, byScale]
    const change = linearProgram(
      turns ? [0, 0, 1, 0] : [0, 0, 1],
      limits.map((limit) => -limit),
      limits,
      turns ? constraints : constraints.map((all) => Float64Array.of(all[0], all[1], all[2], all[4])),
    )
    if (!change) {
      step /= 3
      continue
    }
    const [dx, dy, , turn = 0] = change
    const to = { x: pose.x + dx, y: pose.y + dy, deg: pose.deg + (turn * 180) / Math.PI, scale: pose.scale }
    const grown = largestAt(shape, into, to, pose.scale, mostScale)
    if (grown > pose.scale * (1 + 1e-7)) {
      if (grown - pose.scale > 0.7 * change[2]) step *= 1.6
      pose = { ...to, scale: grown }
    } else step /= 3
  }
  return pose
}

/** The largest scale at a pose's place and angle, from a little below a scale on; 0 where it does not lie inside. */
export function largestAt(shape: Edges, into: Edges, pose: FitPose, scale: number, most: number): number {
  const from = 0.97 * scale
  if (!liesIn(shape, into, { ...pose, scale: from })) return 0
  return untilTouch(shape, into, pose, from, most)
}

/** Constraints on a small change (Δx, Δy, Δscale, Δturn in radians) by what lies nearer than a distance. */
function near(shape: Edges, into: Edges, { x, y, deg, scale }: FitPose, far: number): Constraint[] {
  const [cos, sin] = cosSin(deg)
  const out: Constraint[] = []
  const found: { edge: number; gap: number }[] = []
  for (let i = 0; i < shape.ax.length; i++) {
    if (!shape.pointed[i]) continue
    const rx = cos * shape.ax[i] - sin * shape.ay[i]
    const ry = sin * shape.ax[i] + cos * shape.ay[i]
    const [px, py] = [x + scale * rx, y + scale * ry]
    found.length = 0
    for (let j = 0; j < into.ax.length; j++)
      if (isNear(into, j, px, py, far))
        found.push({ edge: j, gap: into.nx[j] * (px - into.ax[j]) + into.ny[j] * (py - into.ay[j]) })
    for (const { edge, gap } of binding(found, into, false)) {
      const [nx, ny] = [into.nx[edge], into.ny[edge]]
      out.push(Float64Array.of(-nx, -ny, -(nx * rx + ny * ry), -scale * (ny * rx - nx * ry), gap))
    }
  }
  for (let j = 0; j < into.ax.length; j++) {
    if (into.pointed[j]) continue
    const vx = cos * (into.ax[j] - x) + sin * (into.ay[j] - y)
    const vy = cos * (into.ay[j] - y) - sin * (into.ax[j] - x)
    found.length = 0
    for (let i = 0; i < shape.ax.length; i++)
      if (isNear(shape, i, vx / scale, vy / scale, far / scale))
        found.push({
          edge: i,
          gap: -(shape.nx[i] * (vx - scale * shape.ax[i]) + shape.ny[i] * (vy - scale * shape.ay[i])),
        })
    for (const { edge, gap } of binding(found, shape, true)) {
      // Outwards of the shape.
      const [mx, my] = [-shape.nx[edge], -shape.ny[edge]]
      const h = mx * shape.ax[edge] + my * shape.ay[edge]
      out.push(Float64Array.of(cos * mx - sin * my, sin * mx + cos * my, h, -(mx * vy - my * vx), gap))
    }
  }
  return out
}

/**
 * Of edges near a place those that bind: where two of them meet in a corner beyond which either alone is enough, the one that leaves
 * more room. @param pointed which corners those are
 */
function binding(found: readonly { edge: number; gap: number }[], { before, pointed }: Edges, isPointed: boolean) {
  return found.filter(({ edge, gap }) => {
    const beside = (other: { edge: number; gap: number }): boolean => {
      const corner = before[edge] === other.edge ? edge : before[other.edge] === edge ? other.edge : -1
      return corner >= 0 && (pointed[corner] === 1) === isPointed && (other.gap > gap || (other.gap === gap && other.edge < edge))
    }
    return !found.some(beside)
  })
}

/** Whether an edge comes nearer to a place than a distance. */
function isNear({ ax, ay, dx, dy }: Edges, i: number, x: number, y: number, far: number): boolean {
  const [wx, wy] = [x - ax[i], y - ay[i]]
  // Beside its box by more.
  if (
    wx + far < Math.min(0, dx[i]) ||
    wx - far > Math.max(0, dx[i]) ||
    wy + far < Math.min(0, dy[i]) ||
    wy - far > Math.max(0, dy[i])
  )
    return false
  const long = dx[i] * dx[i] + dy[i] * dy[i]
  const t = long > 0 ? Math.min(1, Math.max(0, (wx * dx[i] + wy * dy[i]) / long)) : 0
  return (wx - t * dx[i]) ** 2 + (wy - t * dy[i]) ** 2 < far * far
}
