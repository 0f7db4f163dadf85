import { burnedBounds } from '../findings/extent.ts'
import { type Bounds, EMPTY_BOUNDS, isEmptyBounds } from '../geometry/bounds.ts'
import type { Bench } from '../job/bench.ts'
import type { JobDocument } from '../job/document.ts'
import { grownRings } from '../job/evaluate.ts'
import { machineFrame } from './frame.ts'

/** What the head goes around when it shows where the job lies. */
export type FrameShape = 'bounds' | 'hull' | 'outline'

/** The smallest convex polygon around points (Andrew's monotone chain). @param points x, y pairs @returns x, y pairs */
export function convexHull(points: readonly (readonly [number, number])[]): (readonly [number, number])[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1])
  if (sorted.length < 3) return sorted
  const half = (list: readonly (readonly [number, number])[]): (readonly [number, number])[] => {
    const chain: (readonly [number, number])[] = []
    for (const p of list) {
      while (chain.length > 1) {
        const [ax, ay] = chain[chain.length - 2]
        const [bx, by] = chain[chain.length - 1]
        if ((bx - ax) * (p[1] - ay) - (by - ay) * (p[0] - ax) > 0) break
        chain.pop()
      }
      chain.push(p)
    }
    return chain.slice(0, -1)
  }
  return [...half(sorted), ...half([...sorted].reverse())]
}

/**
 * The way around what a job burns, closed, machine mm; empty where it burns nothing. The true outline is that of all
 * cuts; where nothing is cut it is the box.
 * @param only ids of operations, default all
 */
export function framePath(
  job: JobDocument,
  bench: Bench,
  shape: FrameShape,
  only?: ReadonlySet<string>,
): (readonly [number, number])[][] {
  const ids = job.runOrder.filter((id) => !only || only.has(id))
  const boxes = ids.map((id) => burnedBounds(job, id, bench)).filter((box) => !isEmptyBounds(box))
  if (boxes.length === 0) return []
  const box = boxes.reduce(
    (sum: Bounds, b) => ({
      x0: Math.min(sum.x0, b.x0),
      y0: Math.min(sum.y0, b.y0),
      x1: Math.max(sum.x1, b.x1),
      y1: Math.max(sum.y1, b.y1),
    }),
    EMPTY_BOUNDS,
  )
  const corners = ({ x0, y0, x1, y1 }: Bounds): [number, number][] => [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ]
  const rings = ids.flatMap((id) => {
    const op = job.operations[id]
    return op.kind === 'cut' ? grownRings(job, op.node, op.kerfMm / 2, bench) : []
  })
  const points = (ring: ArrayLike<number>): [number, number][] =>
    Array.from({ length: ring.length / 2 }, (_, i) => [ring[2 * i], ring[2 * i + 1]])
  const { x, y } = machineFrame(job)
  const inMachine = (way: readonly (readonly [number, number])[]): (readonly [number, number])[] =>
    [...way, way[0]].map(([px, py]) => [x(px) / 1000, y(py) / 1000])
  if (shape === 'outline' && rings.length > 0) return rings.map((ring) => inMachine(points(ring)))
  if (shape === 'hull') return [inMachine(convexHull([...boxes.flatMap(corners), ...rings.flatMap(points)]))]
  return [inMachine(corners(box))]
}

/** A program that goes along ways once, dark or with a weak beam. @param s S value, 0 dark */
export function frameProgram(ways: readonly (readonly (readonly [number, number])[])[], speedMmS: number, s: number): string[] {
  const at = ([x, y]: readonly [number, number]): string => `X${Number(x.toFixed(3))}Y${Number(y.toFixed(3))}`
  const lines = ['G21', 'G90', 'M5']
  for (const way of ways) {
    lines.push(`G0${at(way[0])}`, s > 0 ? `M4S${s}` : 'M5', `G1F${Number((speedMmS * 60).toFixed(1))}`)
    for (const point of way.slice(1)) lines.push(at(point))
    lines.push('M5')
  }
  return lines
}
