import type { Ring } from '@neotaxis/core'

export function circle(cx: number, cy: number, r: number): Ring {
  const n = Math.max(24, Math.ceil(r * 3))
  return Float64Array.from({ length: 2 * n }, (_, i) =>
    i % 2 ? cy + r * Math.sin((2 * Math.PI * (i >> 1)) / n) : cx + r * Math.cos((2 * Math.PI * (i >> 1)) / n),
  )
}

export const reversed = (ring: Ring): Ring =>
  Float64Array.from({ length: ring.length }, (_, i) => ring[ring.length - 2 - (i & ~1) + (i & 1)])

/** A circle line of the given width. */
export const band = (cx: number, cy: number, r: number, width: number): Ring[] => [
  circle(cx, cy, r + width / 2),
  reversed(circle(cx, cy, r - width / 2)),
]

export const polygon = (...points: readonly (readonly [number, number])[]): Ring => Float64Array.from(points.flat())

/** A straight bar from a to b. */
export function bar(ax: number, ay: number, bx: number, by: number, width: number): Ring {
  const l = Math.hypot(bx - ax, by - ay)
  const nx = (-(by - ay) / l) * (width / 2)
  const ny = ((bx - ax) / l) * (width / 2)
  return polygon([ax - nx, ay - ny], [bx - nx, by - ny], [bx + nx, by + ny], [ax + nx, ay + ny])
}

/** A line along y = f(x) whose width may change along the way; round at its ends. */
export function wave(x0: number, x1: number, f: (x: number) => number, width: (t: number) => number): Ring {
  const n = 120
  const top: [number, number][] = []
  const bottom: [number, number][] = []
  for (let i = 0; i <= n; i++) {
    const x = x0 + ((x1 - x0) * i) / n
    const slope = (f(x + 0.5) - f(x - 0.5)) / 1
    const l = Math.hypot(1, slope)
    const w = width(i / n) / 2
    top.push([x + (slope / l) * w, f(x) - w / l])
    bottom.push([x - (slope / l) * w, f(x) + w / l])
  }
  return polygon(...top, ...bottom.reverse())
}
