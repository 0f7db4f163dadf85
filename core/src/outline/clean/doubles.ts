import { flattenPath, LINE, type Path } from '../../geometry/path.ts'

const CHORD_MM = 0.01
/** Lines that cross at more than this do not run along each other. */
const ALONG = Math.sin((20 * Math.PI) / 180)

/**
 * Paths without what runs along an earlier one within a distance: a path that lies on others goes, of one that does so in
 * part the rest stays as lines. @param paths mm @param withinMm mm, above 0
 */
export function withoutDoubles(paths: readonly Path[], withinMm: number): Path[] {
  const step = Math.max(0.1, 2 * withinMm)
  const grid = new Map<number, number[]>()
  // Short lines of what is kept: x0 y0 x1 y1 each.
  const kept: number[] = []
  const cellOf = (x: number, y: number): number => Math.floor(x / step) * 1_000_003 + Math.floor(y / step)
  const covered = (x0: number, y0: number, x1: number, y1: number): boolean => {
    const x = (x0 + x1) / 2
    const y = (y0 + y1) / 2
    const length = Math.hypot(x1 - x0, y1 - y0)
    for (let dx = -step; dx <= step; dx += step)
      for (let dy = -step; dy <= step; dy += step)
        for (const k of grid.get(cellOf(x + dx, y + dy)) ?? []) {
          const ex = kept[k + 2] - kept[k]
          const ey = kept[k + 3] - kept[k + 1]
          const other = Math.hypot(ex, ey)
          if (Math.abs((x1 - x0) * ey - (y1 - y0) * ex) > ALONG * length * other) continue
          const t = Math.min(1, Math.max(0, ((x - kept[k]) * ex + (y - kept[k + 1]) * ey) / (other * other)))
          if (Math.hypot(kept[k] + t * ex - x, kept[k + 1] + t * ey - y) <= withinMm) return true
        }
    return false
  }
  const keep = (lines: readonly number[]): void => {
    for (let i = 0; i + 3 < lines.length; i += 2) {
      const k = kept.length
      kept.push(lines[i], lines[i + 1], lines[i + 2], lines[i + 3])
      const cell = cellOf((lines[i] + lines[i + 2]) / 2, (lines[i + 1] + lines[i + 3]) / 2)
      const list = grid.get(cell)
      if (list) list.push(k)
      else grid.set(cell, [k])
    }
  }
  const out: Path[] = []
  for (const path of paths) {
    const points = shortLines(path, step)
    const last = points.length / 2 - 1
    const on = Array.from({ length: last }, (_, i) =>
      covered(points[2 * i], points[2 * i + 1], points[2 * i + 2], points[2 * i + 3]),
    )
    if (!on.includes(true)) {
      out.push(path)
      keep(points)
    } else if (on.includes(false))
      for (const line of freeRuns(points, on, path.closed)) {
        // Where lines part, some of the way still lies near: what is left must be longer than that.
        if (line.length / 2 < 3) continue
        out.push({ closed: false, kinds: new Uint8Array(line.length / 2 - 1).fill(LINE), points: Float64Array.from(line) })
        keep(line)
      }
  }
  return out
}

/** Points along a path no farther apart than a step; a closed one ends where it began. */
function shortLines(path: Path, step: number): number[] {
  const flat = flattenPath(path, CHORD_MM)
  const n = flat.length / 2
  const out = [flat[0], flat[1]]
  for (let i = 1; i < (path.closed ? n + 1 : n); i++) {
    const [x0, y0] = out.slice(-2)
    const x1 = flat[2 * (i % n)]
    const y1 = flat[2 * (i % n) + 1]
    const parts = Math.max(1, Math.ceil(Math.hypot(x1 - x0, y1 - y0) / step))
    for (let k = 1; k <= parts; k++) out.push(x0 + ((x1 - x0) * k) / parts, y0 + ((y1 - y0) * k) / parts)
  }
  return out
}

/** Lines of neighbours that are not covered; round the start of a closed path they are one. */
function freeRuns(points: readonly number[], on: readonly boolean[], closed: boolean): number[][] {
  const n = on.length
  const from = closed ? on.indexOf(true) : 0
  const runs: number[][] = []
  let run: number[] = []
  for (let k = 0; k < n; k++) {
    const i = (from + k) % n
    if (on[i]) {
      if (run.length > 0) runs.push(run)
      run = []
    } else {
      if (run.length === 0) run.push(points[2 * i], points[2 * i + 1])
      run.push(points[2 * i + 2], points[2 * i + 3])
    }
  }
  if (run.length > 0) runs.push(run)
  return runs
}
