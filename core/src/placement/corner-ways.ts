import { outlineOfFace, type Workpiece } from '../job/document/workpiece.ts'

type Point = readonly [number, number]

/** An edge shorter than this is none that a camera can look along, mm. */
const LEAST_EDGE_MM = 6
const SAME_MM = 1e-6

/**
 * The ways along both edges of a workpiece from one of its corners, mm of its face, each 1 long; undefined where its edge is round there,
 * or its edges are too short to be looked along.
 */
export function cornerWays({ outline }: Pick<Workpiece, 'outline'>, [x, y]: Point): readonly [Point, Point] | undefined {
  if (outline.kind === 'circle') return undefined
  for (const ring of outlineOfFace(outline)) {
    const n = ring.length / 2
    for (let i = 0; i < n; i++) {
      if (Math.hypot(ring[2 * i] - x, ring[2 * i + 1] - y) > SAME_MM) continue
      const way = (k: number): Point | undefined => {
        const [dx, dy] = [ring[2 * k] - x, ring[2 * k + 1] - y]
        const long = Math.hypot(dx, dy)
        return long < LEAST_EDGE_MM ? undefined : [dx / long, dy / long]
      }
      const [a, b] = [way((i + n - 1) % n), way((i + 1) % n)]
      // Straight on is no corner.
      return a && b && Math.abs(a[0] * b[1] - a[1] * b[0]) > 0.3 ? [a, b] : undefined
    }
  }
  return undefined
}
