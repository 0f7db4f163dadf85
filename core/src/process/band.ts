import type { Ring } from '../geometry/ring.ts'

/** A straight stretch as wide as twice `half`, a little longer at both ends so that neighbours join. */
export function band(x0: number, y0: number, x1: number, y1: number, half: number): Ring {
  const length = Math.hypot(x1 - x0, y1 - y0) || 1
  const ux = (x1 - x0) / length
  const uy = (y1 - y0) / length
  const on = half / 4
  const ax = x0 - ux * on
  const ay = y0 - uy * on
  const bx = x1 + ux * on
  const by = y1 + uy * on
  const nx = -uy * half
  const ny = ux * half
  return Float64Array.of(ax + nx, ay + ny, ax - nx, ay - ny, bx - nx, by - ny, bx + nx, by + ny)
}
