import { liesWithin, nearestOnEdge } from '../geometry/edge.ts'
import type { Ring } from '../geometry/ring.ts'
import { simplified } from '../geometry/simplify.ts'
import { placeOf, sourceOf, usesOf, withPlace } from '../job/document/document.ts'
import { outlineOfFace } from '../job/document/workpiece.ts'
import { difference } from '../job/patches/edit.ts'
import { burnedPoints } from '../process/burned-points.ts'
import type { Burning } from '../process/process.ts'
import { burningsOf } from '../process/table.ts'
import type { Fix } from './finding.ts'

/** How often it is pushed, and how many of its places are looked at each time. */
const MOST_PUSHES = 80
const MOST_PLACES = 500
/** How far inside the edge it comes to lie, mm. */
const INSIDE_MM = 0.2

/**
 * The way to bring what a family burns inside an edge that is no rectangle, if moving alone does it: its farthest place is brought to
 * the nearest place of the edge, again and again (projections onto convex sets; for other edges a way that is tried).
 */
export function edgeFixes(context: Burning): Fix[] {
  const { job, piece, supply } = context
  const edge = outlineOfFace(piece.workpiece.outline).map((ring) => simplified(ring, 0.05))
  const source = sourceOf(job, piece.node)
  const burned = usesOf(job, source).flatMap((id) => burningsOf(job, id, supply, piece.workpieceId).map(burnedPoints))
  const points = burned.map((each) => thinned(each, Math.ceil(MOST_PLACES / burned.length)))
  const way = pushedInside(edge, points)
  if (!way) return []
  const [dx, dy] = way.map((mm) => Math.round(mm * 1000) / 1000)
  // Thinned points found the way: all of them tell whether it is one.
  if (!burned.every((each) => allWithin(edge, each, dx, dy))) return []
  const place = placeOf(job, piece.node, piece.place)
  const words = [
    dx && `${Math.abs(dx).toFixed(1)} mm ${dx > 0 ? 'right' : 'left'}`,
    dy && `${Math.abs(dy).toFixed(1)} mm ${dy > 0 ? 'down' : 'up'}`,
  ].filter(Boolean)
  const next = { xMm: place.xMm + dx, yMm: place.yMm + dy }
  return [{ label: `Move it ${words.join(', ')}`, patches: difference(job, withPlace(job, piece.node, next, piece.place)) }]
}

const thinned = (points: Float64Array, most: number): Float64Array => {
  const step = Math.max(1, Math.floor(points.length / 2 / most))
  return points.filter((_, i) => (i >> 1) % step === 0)
}

function allWithin(edge: readonly Ring[], points: Float64Array, dx: number, dy: number): boolean {
  for (let i = 0; i < points.length; i += 2) if (!liesWithin(edge, points[i] + dx, points[i + 1] + dy)) return false
  return true
}

function pushedInside(edge: readonly Ring[], all: readonly Float64Array[]): readonly [number, number] | undefined {
  let dx = 0
  let dy = 0
  for (let push = 0; push < MOST_PUSHES; push++) {
    let most = 0
    let by: readonly [number, number] = [0, 0]
    for (const points of all)
      for (let i = 0; i < points.length; i += 2) {
        const [x, y] = [points[i] + dx, points[i + 1] + dy]
        if (liesWithin(edge, x, y)) continue
        const [u, v] = nearestOnEdge(edge, x, y)
        const away = Math.hypot(u - x, v - y)
        if (away <= most && most > 0) continue
        most = away
        // A little beyond the edge, or it would lie on it for ever.
        by = away > 0 ? [((u - x) * (away + INSIDE_MM)) / away, ((v - y) * (away + INSIDE_MM)) / away] : [INSIDE_MM, 0]
      }
    if (by[0] === 0 && by[1] === 0) return push === 0 ? undefined : [dx, dy]
    dx += by[0]
    dy += by[1]
  }
  return undefined
}
