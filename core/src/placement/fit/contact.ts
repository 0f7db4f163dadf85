import { cosSin } from '../../space/affine.ts'
import { bandsOf, spanOf } from './bands.ts'
import type { Edges } from './shape.ts'

/** How a shape lies: its own origin at (x, y), turned clockwise on the screen, made larger. */
export interface FitPose {
  readonly x: number
  readonly y: number
  readonly deg: number
  readonly scale: number
}

const inside = ({ ax, ay, dx, dy }: Edges, x: number, y: number): boolean => {
  let within = false
  for (let i = 0; i < ax.length; i++) {
    const [y0, y1] = [ay[i], ay[i] + dy[i]]
    if (y0 > y !== y1 > y && x < ax[i] + ((y - y0) / dy[i]) * dx[i]) within = !within
  }
  return within
}

/** Whether a shape lies within another one: no edge crosses an edge, and nothing of either is where it must not be. */
export function liesIn(shape: Edges, into: Edges, { x, y, deg, scale }: FitPose): boolean {
  const [cos, sin] = cosSin(deg)
  const bands = bandsOf(into)
  const n = shape.ax.length
  const px = new Float64Array(n)
  const py = new Float64Array(n)
  for (let i = 0; i < n; i++) {
    px[i] = x + scale * (cos * shape.ax[i] - sin * shape.ay[i])
    py[i] = y + scale * (sin * shape.ax[i] + cos * shape.ay[i])
  }
  for (let i = 0; i < n; i++) {
    const [ex, ey] = [scale * (cos * shape.dx[i] - sin * shape.dy[i]), scale * (sin * shape.dx[i] + cos * shape.dy[i])]
    const [x0, x1] = ex > 0 ? [px[i], px[i] + ex] : [px[i] + ex, px[i]]
    const [y0, y1] = ey > 0 ? [py[i], py[i] + ey] : [py[i] + ey, py[i]]
    const [first, last] = spanOf(bands, y0, y1)
    for (let band = first; band <= last; band++)
      for (const j of bands.lists[band]) {
        const [ax, ay, dx, dy] = [into.ax[j], into.ay[j], into.dx[j], into.dy[j]]
        if (Math.max(ax, ax + dx) < x0 || Math.min(ax, ax + dx) > x1 || Math.max(ay, ay + dy) < y0 || Math.min(ay, ay + dy) > y1)
          continue
        const [wx, wy] = [ax - px[i], ay - py[i]]
        const a = ex * wy - ey * wx
        const b = ex * (wy + dy) - ey * (wx + dx)
        if (a > 0 === b > 0) continue
        const c = dx * -wy - dy * -wx
        const d = dx * (ey - wy) - dy * (ex - wx)
        if (c > 0 !== d > 0) return false
      }
  }
  if (!inside(into, px[0], py[0])) return false
  // No hole of the other within what is filled here: one corner of each of its rings tells.
  for (let j = 0; j < into.ax.length; j++) {
    if (into.before[j] < j) continue
    const [vx, vy] = [(into.ax[j] - x) / scale, (into.ay[j] - y) / scale]
    if (inside(shape, cos * vx + sin * vy, cos * vy - sin * vx)) return false
  }
  return true
}

/** How large a shape becomes from a scale on until it touches, its origin staying; `most` at most. Nothing touches at `from` itself. */
export function untilTouch(shape: Edges, into: Edges, { x, y, deg }: FitPose, from: number, most: number): number {
  const [cos, sin] = cosSin(deg)
  let least = most
  // Where a corner of the shape meets an edge of the other.
  for (let i = 0; i < shape.ax.length; i++) {
    if (!shape.pointed[i]) continue
    const rx = cos * shape.ax[i] - sin * shape.ay[i]
    const ry = sin * shape.ax[i] + cos * shape.ay[i]
    for (let j = 0; j < into.ax.length; j++) {
      const [dx, dy] = [into.dx[j], into.dy[j]]
      const across = rx * dy - ry * dx
      if (Math.abs(across) < 1e-12) continue
      const [wx, wy] = [into.ax[j] - x, into.ay[j] - y]
      const s = (wx * dy - wy * dx) / across
      if (s < from || s >= least) continue
      const u = (wx * ry - wy * rx) / across
      if (u >= 0 && u <= 1) least = s
    }
  }
  // Where a corner of the other that stands into it meets an edge of the shape.
  for (let j = 0; j < into.ax.length; j++) {
    if (into.pointed[j]) continue
    const vx = cos * (into.ax[j] - x) + sin * (into.ay[j] - y)
    const vy = cos * (into.ay[j] - y) - sin * (into.ax[j] - x)
    for (let i = 0; i < shape.ax.length; i++) {
      const [ax, ay, dx, dy] = [shape.ax[i], shape.ay[i], shape.dx[i], shape.dy[i]]
      const across = ax * dy - ay * dx
      if (Math.abs(across) < 1e-12) continue
      const s = (vx * dy - vy * dx) / across
      if (s < from || s >= least || s <= 0) continue
      const along = Math.abs(dx) > Math.abs(dy) ? (vx / s - ax) / dx : (vy / s - ay) / dy
      if (along >= 0 && along <= 1) least = s
    }
  }
  return least
}
