import type { Ring } from '@neotaxis/core'

const made = new WeakMap<readonly Ring[], Path2D>()

/** Rings as one path for the canvas, in job mm, built once for each result. */
export function outlinePath(rings: readonly Ring[]): Path2D {
  const known = made.get(rings)
  if (known) return known
  const path = new Path2D()
  for (const ring of rings) {
    path.moveTo(ring[0], ring[1])
    for (let i = 2; i < ring.length; i += 2) path.lineTo(ring[i], ring[i + 1])
    path.closePath()
  }
  made.set(rings, path)
  return path
}
