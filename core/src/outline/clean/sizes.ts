import { nest } from '../../geometry/nesting.ts'
import { flattenPath, type Path } from '../../geometry/path.ts'
import { type Ring, ringArea, ringBounds, ringLength } from '../../geometry/ring.ts'
import type { EraseStep } from './steps.ts'

/** How far chords may lie off curves where sizes are measured, mm. */
const CHORD_MM = 0.02

const flat = (path: Path): Ring => flattenPath(path, CHORD_MM)

/** Outlines of at least an area, lines of at least the side of a square of it. @param paths mm */
export function withoutSpecks(paths: readonly Path[], areaMm2: number): Path[] {
  return paths.filter((path) => {
    const ring = flat(path)
    return path.closed ? Math.abs(ringArea(ring)) >= areaMm2 : lineLength(ring) >= Math.sqrt(areaMm2)
  })
}

function lineLength(line: Ring): number {
  const last = line.length - 2
  return ringLength(line) - Math.hypot(line[last] - line[0], line[last + 1] - line[1])
}

/** Outlines without holes up to an area; what stood in a hole that is filled goes with it. @param paths mm */
export function withFilledHoles(paths: readonly Path[], areaMm2: number): Path[] {
  const closed = paths.filter((path) => path.closed)
  const rings = closed.map(flat)
  const { parent, depth } = nest(rings)
  const gone = rings.map(() => false)
  // Outer ones first, so that what is inside knows.
  const order = rings.map((_, i) => i).sort((a, b) => depth[a] - depth[b])
  for (const i of order) {
    const outer = parent[i]
    gone[i] = (outer >= 0 && gone[outer]) || (depth[i] % 2 === 1 && Math.abs(ringArea(rings[i])) <= areaMm2)
  }
  const dropped = new Set(closed.filter((_, i) => gone[i]))
  return paths.filter((path) => !dropped.has(path))
}

/** Outlines that a box spares. @param paths mm @param box mm */
export function erased(
  paths: readonly Path[],
  { x, y, width, height, touched }: Pick<EraseStep, 'x' | 'y' | 'width' | 'height' | 'touched'>,
): Path[] {
  const x1 = x + width
  const y1 = y + height
  return paths.filter((path) => {
    const ring = flat(path)
    const b = ringBounds(ring)
    const inside = b.x0 >= x && b.x1 <= x1 && b.y0 >= y && b.y1 <= y1
    if (inside || !touched) return !inside
    if (b.x1 < x || b.x0 > x1 || b.y1 < y || b.y0 > y1) return true
    return !crosses(ring, path.closed, x, y, x1, y1)
  })
}

/** Whether a line has any point in a box (clipping by C.-K. Liang and B. A. Barsky, ACM Trans. Graphics 3(1), 1984). */
function crosses(line: Ring, closed: boolean, x0: number, y0: number, x1: number, y1: number): boolean {
  const n = line.length / 2
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const j = (i + 1) % n
    const [ax, ay] = [line[2 * i], line[2 * i + 1]]
    const dx = line[2 * j] - ax
    const dy = line[2 * j + 1] - ay
    let from = 0
    let to = 1
    for (const [p, q] of [
      [-dx, ax - x0],
      [dx, x1 - ax],
      [-dy, ay - y0],
      [dy, y1 - ay],
    ]) {
      if (p === 0) {
        if (q < 0) to = -1
      } else if (p < 0) from = Math.max(from, q / p)
      else to = Math.min(to, q / p)
    }
    if (from <= to) return true
  }
  return false
}
