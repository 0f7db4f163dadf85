import { flattenPath, type Path } from '@neotaxis/core/geometry/path'
import type { Ring } from '@neotaxis/core/geometry/ring'

/** Root mean square and largest distance between two sets of outlines, px. */
export interface Distance {
  readonly rms: number
  readonly max: number
}

/** Distances of points along `paths` (every 0.5 px) from the nearest segment of `truth`, and back, so that nothing may be left out. */
export function compareOutlines(paths: readonly Path[], truth: readonly Ring[], width: number, height: number): Distance {
  const flat = paths.map((path) => flattenPath(path, 0.005))
  const there = distances(flat, new Segments(truth, width, height))
  const back = distances(truth, new Segments(flat, width, height))
  const all = [...there, ...back]
  let squares = 0
  let max = 0
  for (const d of all) {
    squares += d * d
    if (d > max) max = d
  }
  return { rms: Math.sqrt(squares / all.length), max }
}

function* distances(rings: readonly Ring[], target: Segments): Generator<number> {
  for (const ring of rings) {
    const n = ring.length
    let left = 0
    for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
      const dx = ring[i] - ring[j]
      const dy = ring[i + 1] - ring[j + 1]
      const length = Math.hypot(dx, dy)
      for (; left < length; left += 0.5) yield target.nearest(ring[j] + (dx * left) / length, ring[j + 1] + (dy * left) / length)
      left -= length
    }
  }
}

const CELL = 8

/** Segments in a grid of cells, for nearest-distance questions up to a cell away. */
class Segments {
  private readonly cells = new Map<number, number[]>()
  private readonly columns: number
  constructor(rings: readonly Ring[], width: number, _height: number) {
    this.columns = Math.ceil(width / CELL) + 4
    for (const ring of rings) {
      const n = ring.length
      for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
        const x0 = Math.floor(Math.min(ring[i], ring[j]) / CELL)
        const x1 = Math.floor(Math.max(ring[i], ring[j]) / CELL)
        const y0 = Math.floor(Math.min(ring[i + 1], ring[j + 1]) / CELL)
        const y1 = Math.floor(Math.max(ring[i + 1], ring[j + 1]) / CELL)
        for (let y = y0; y <= y1; y++) {
          for (let x = x0; x <= x1; x++) {
            const key = y * this.columns + x
            const list = this.cells.get(key)
            if (list) list.push(ring[j], ring[j + 1], ring[i], ring[i + 1])
            else this.cells.set(key, [ring[j], ring[j + 1], ring[i], ring[i + 1]])
          }
        }
      }
    }
  }
  nearest(x: number, y: number): number {
    const cx = Math.floor(x / CELL)
    const cy = Math.floor(y / CELL)
    let best = CELL * CELL
    for (let v = cy - 1; v <= cy + 1; v++) {
      for (let u = cx - 1; u <= cx + 1; u++) {
        const list = this.cells.get(v * this.columns + u)
        if (!list) continue
        for (let k = 0; k < list.length; k += 4) {
          const ax = list[k]
          const ay = list[k + 1]
          const dx = list[k + 2] - ax
          const dy = list[k + 3] - ay
          const l2 = dx * dx + dy * dy
          let t = l2 > 0 ? ((x - ax) * dx + (y - ay) * dy) / l2 : 0
          t = t < 0 ? 0 : t > 1 ? 1 : t
          const ex = x - ax - t * dx
          const ey = y - ay - t * dy
          const d = ex * ex + ey * ey
          if (d < best) best = d
        }
      }
    }
    return Math.sqrt(best)
  }
}
