import type { Bounds } from '../geometry/bounds.ts'
import { type Ring, ringBounds } from '../geometry/ring.ts'
import { stretchOf } from '../geometry/stretch.ts'

/** Edges nearer to each other than this are one edge, µm: less than any kerf. */
const SAME = 25
/** A shared stretch shorter than this is burned twice: two paths that only cross share none, µm. */
const LEAST = 400
/** Side of the cells that edges are looked up by, µm. */
const CELL = 4000

/**
 * Edges that were burned, so that what runs along them is not burned again: parts that are laid edge to edge share their cuts.
 * Axes µm.
 */
export class BurnedEdges {
  private readonly cells = new Map<number, number[]>()
  /** x0 y0 x1 y1 of each edge. */
  private readonly edges: number[] = []
  private readonly near: Uint8Array
  /** By which question each edge was looked at last. */
  private readonly asked: number[] = []
  private queries = 0

  /** @param paths all that will be burned: only those whose boxes meet others are looked at */
  constructor(paths: readonly Ring[]) {
    this.near = meeting(paths.map(ringBounds))
  }

  /**
   * What is left to burn of a path, and the whole of it counts as burned then.
   * @param index its place in the paths that were told @returns lines of it; undefined: all of it
   */
  left(index: number, points: Ring, closed: boolean): Ring[] | undefined {
    if (this.near[index] === 0) return undefined
    const free = this.freeRuns(points, closed)
    const n = points.length / 2
    for (let i = 0; i < (closed ? n : n - 1); i++) {
      const j = (i + 1) % n
      this.add(points[2 * i], points[2 * i + 1], points[2 * j], points[2 * j + 1])
    }
    return free
  }

  private add(x0: number, y0: number, x1: number, y1: number): void {
    if (x0 === x1 && y0 === y1) return
    const edge = this.edges.length
    this.edges.push(x0, y0, x1, y1)
    cellsAlong(x0, y0, x1, y1, 0, (cell) => {
      const list = this.cells.get(cell)
      if (list) list.push(edge)
      else this.cells.set(cell, [edge])
    })
  }

  /** Shares of a stretch, 0–1, that run along burned edges: from, to pairs. */
  private covered(x0: number, y0: number, x1: number, y1: number): number[] {
    const dx = x1 - x0
    const dy = y1 - y0
    const long2 = dx * dx + dy * dy
    if (long2 === 0) return []
    const query = ++this.queries
    const found: [number, number][] = []
    cellsAlong(x0, y0, x1, y1, SAME, (cell) => {
      for (const edge of this.cells.get(cell) ?? []) {
        if (this.asked[edge >> 2] === query) continue
        this.asked[edge >> 2] = query
        const span = this.along(edge, x0, y0, dx, dy, long2)
        if (span) found.push(span)
      }
    })
    if (found.length === 0) return []
    found.sort((a, b) => a[0] - b[0])
    const joined: number[] = []
    for (const [from, to] of found) {
      const end = joined.length - 1
      if (end > 0 && from <= joined[end] + SAME / Math.sqrt(long2)) joined[end] = Math.max(joined[end], to)
      else joined.push(from, to)
    }
    return joined
  }

  /** The share of a stretch along which a burned edge runs within the distance that is none. */
  private along(edge: number, x0: number, y0: number, dx: number, dy: number, long2: number): [number, number] | undefined {
    const { edges } = this
    const long = Math.sqrt(long2)
    const [px, py, qx, qy] = [edges[edge] - x0, edges[edge + 1] - y0, edges[edge + 2] - x0, edges[edge + 3] - y0]
    const near = (px * dy - py * dx) / long
    const far = (qx * dy - qy * dx) / long
    if ((near > SAME && far > SAME) || (near < -SAME && far < -SAME)) return undefined
    const start = (px * dx + py * dy) / long2
    const end = (qx * dx + qy * dy) / long2
    if (start === end) return undefined
    // Where the edge's distance from the line is small enough: straight between its ends.
    let [from, to] = [0, 1]
    const slope = far - near
    if (Math.abs(slope) > 1e-9) {
      const [a, b] = [(-SAME - near) / slope, (SAME - near) / slope]
      from = Math.max(from, Math.min(a, b))
      to = Math.min(to, Math.max(a, b))
      if (from >= to) return undefined
    }
    const at = (share: number): number => start + (end - start) * share
    const low = Math.max(0, Math.min(at(from), at(to)))
    const high = Math.min(1, Math.max(at(from), at(to)))
    return high > low ? [low, high] : undefined
  }

  private freeRuns(points: Ring, closed: boolean): Ring[] | undefined {
    const n = points.length / 2
    const sides = closed ? n : n - 1
    /** Where along the path stretches begin and end to be covered, µm from its start. */
    const spans: [number, number][] = []
    let far = 0
    for (let i = 0; i < sides; i++) {
      const j = (i + 1) % n
      const [x0, y0, x1, y1] = [points[2 * i], points[2 * i + 1], points[2 * j], points[2 * j + 1]]
      const long = Math.hypot(x1 - x0, y1 - y0)
      const shares = this.covered(x0, y0, x1, y1)
      for (let k = 0; k < shares.length; k += 2) {
        const [from, to] = [far + shares[k] * long, far + shares[k + 1] * long]
        const last = spans.at(-1)
        if (last && from <= last[1] + SAME) last[1] = Math.max(last[1], to)
        else spans.push([from, to])
      }
      far += long
    }
    const first = spans[0]
    const last = spans.at(-1)
    if (!first || !last) return undefined
    // Around the start of a closed path it is one stretch.
    const wraps = closed && spans.length > 1 && first[0] <= SAME && last[1] >= far - SAME
    const shared = (wraps ? [...spans.slice(1, -1), [last[0], far + first[1]] as [number, number]] : spans).filter(
      ([from, to]) => to - from >= LEAST,
    )
    if (shared.length === 0) return undefined
    const whole = closed ? shared[0][1] - shared[0][0] >= far - LEAST : false
    if (whole) return []
    const runs: Ring[] = []
    const run = (from: number, to: number): void => {
      if (to - from > SAME) runs.push(stretchOf(points, closed, from, to).map(Math.round))
    }
    if (!closed) run(0, shared[0][0])
    shared.forEach(([, to], i) => {
      const next = shared[i + 1]?.[0] ?? (closed ? shared[0][0] + far : far)
      run(to, next)
    })
    return runs
  }
}

/** Whose box meets another's. */
function meeting(boxes: readonly Bounds[]): Uint8Array {
  const met = new Uint8Array(boxes.length)
  const byX = Array.from(boxes, (_, i) => i).sort((a, b) => boxes[a].x0 - boxes[b].x0)
  let open: number[] = []
  for (const i of byX) {
    const box = boxes[i]
    open = open.filter((j) => boxes[j].x1 + SAME >= box.x0)
    for (const j of open)
      if (boxes[j].y0 <= box.y1 + SAME && boxes[j].y1 >= box.y0 - SAME) {
        met[i] = 1
        met[j] = 1
      }
    open.push(i)
  }
  return met
}

/** Tells of each cell that a stretch lies in, or comes near to. */
function cellsAlong(x0: number, y0: number, x1: number, y1: number, reach: number, tell: (cell: number) => void): void {
  const [ax, ay, bx, by] = x0 <= x1 ? [x0, y0, x1, y1] : [x1, y1, x0, y0]
  const slope = bx > ax ? (by - ay) / (bx - ax) : 0
  const last = Math.floor((bx + reach) / CELL)
  for (let column = Math.floor((ax - reach) / CELL); column <= last; column++) {
    const from = Math.max(ax, column * CELL - reach)
    const to = Math.min(bx, (column + 1) * CELL + reach)
    const [p, q] = bx > ax ? [ay + slope * (from - ax), ay + slope * (to - ax)] : [ay, by]
    const end = Math.floor((Math.max(p, q) + reach) / CELL)
    for (let row = Math.floor((Math.min(p, q) - reach) / CELL); row <= end; row++) tell(column * 1_000_003 + row)
  }
}
