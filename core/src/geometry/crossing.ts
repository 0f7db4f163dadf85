import type { Ring } from './ring.ts'

/**
 * Whether edges cross themselves or each other: a sweep from left to right over all segments, each tried against those whose
 * boxes it meets. Places where ends touch are no crossings.
 */
export function crossesItself(rings: readonly Ring[]): boolean {
  interface Segment {
    readonly ring: number
    readonly at: number
    readonly x0: number
    readonly x1: number
    readonly points: readonly [number, number, number, number]
  }
  const segments: Segment[] = rings.flatMap((ring, r) => {
    const n = ring.length
    return Array.from({ length: n / 2 }, (_, i): Segment => {
      const j = (2 * i + 2) % n
      const points = [ring[2 * i], ring[2 * i + 1], ring[j], ring[j + 1]] as const
      return { ring: r, at: i, x0: Math.min(points[0], points[2]), x1: Math.max(points[0], points[2]), points }
    })
  })
  segments.sort((a, b) => a.x0 - b.x0)
  let open: Segment[] = []
  for (const segment of segments) {
    open = open.filter(({ x1 }) => x1 >= segment.x0)
    for (const other of open) if (crosses(segment.points, other.points)) return true
    open.push(segment)
  }
  return false
}

/** On which side of a line a place lies. */
const side = (ax: number, ay: number, bx: number, by: number, x: number, y: number): number =>
  Math.sign((bx - ax) * (y - ay) - (by - ay) * (x - ax))

/** Whether two segments cross between their ends. */
function crosses(
  [ax, ay, bx, by]: readonly [number, number, number, number],
  [cx, cy, dx, dy]: readonly [number, number, number, number],
): boolean {
  if (Math.max(ay, by) < Math.min(cy, dy) || Math.max(cy, dy) < Math.min(ay, by)) return false
  return (
    side(ax, ay, bx, by, cx, cy) * side(ax, ay, bx, by, dx, dy) < 0 &&
    side(cx, cy, dx, dy, ax, ay) * side(cx, cy, dx, dy, bx, by) < 0
  )
}
