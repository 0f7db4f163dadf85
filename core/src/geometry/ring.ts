import type { Bounds } from './bounds.ts'

/** A closed polygon: x, y pairs, the last point joined to the first without being repeated. */
export type Ring = Float64Array

/** Signed area by the shoelace formula; positive when the ring runs clockwise on a screen (y down). */
export function ringArea(ring: Ring): number {
  const n = ring.length
  let twice = 0
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) twice += ring[j] * ring[i + 1] - ring[i] * ring[j + 1]
  return twice / 2
}

/** Length around the ring. */
export function ringLength(ring: Ring): number {
  const n = ring.length
  let sum = 0
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) sum += Math.hypot(ring[i] - ring[j], ring[i + 1] - ring[j + 1])
  return sum
}

export function ringBounds(ring: Ring): Bounds {
  let x0 = Infinity
  let y0 = Infinity
  let x1 = -Infinity
  let y1 = -Infinity
  for (let i = 0; i < ring.length; i += 2) {
    const x = ring[i]
    const y = ring[i + 1]
    if (x < x0) x0 = x
    if (x > x1) x1 = x
    if (y < y0) y0 = y
    if (y > y1) y1 = y
  }
  return { x0, y0, x1, y1 }
}

export function ringsBounds(rings: readonly Ring[]): Bounds {
  let x0 = Infinity
  let y0 = Infinity
  let x1 = -Infinity
  let y1 = -Infinity
  for (const ring of rings) {
    const b = ringBounds(ring)
    x0 = Math.min(x0, b.x0)
    y0 = Math.min(y0, b.y0)
    x1 = Math.max(x1, b.x1)
    y1 = Math.max(y1, b.y1)
  }
  return { x0, y0, x1, y1 }
}

/** Whether a point lies inside the ring (crossing number). A point on the edge may count either way. */
export function ringContains(ring: Ring, x: number, y: number): boolean {
  let inside = false
  const n = ring.length
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const yi = ring[i + 1]
    const yj = ring[j + 1]
    if (yi > y !== yj > y && x < ((ring[j] - ring[i]) * (y - yi)) / (yj - yi) + ring[i]) inside = !inside
  }
  return inside
}

/** Every point moved by x·sx + dx, y·sy + dy. */
export function mapRing(ring: Ring, sx: number, sy: number, dx: number, dy: number): Ring {
  const out = new Float64Array(ring.length)
  for (let i = 0; i < ring.length; i += 2) {
    out[i] = ring[i] * sx + dx
    out[i + 1] = ring[i + 1] * sy + dy
  }
  return out
}

/** The same points, the other way around. */
export function reversed(ring: Ring): Ring {
  const out = new Float64Array(ring.length)
  for (let i = 0; i < ring.length; i += 2) {
    out[i] = ring[ring.length - 2 - i]
    out[i + 1] = ring[ring.length - 1 - i]
  }
  return out
}

/** A line there and back, for whatever looks at rings: it encloses nothing. */
export function thereAndBack(line: Ring): Ring {
  const n = line.length
  const out = new Float64Array(Math.max(n, 2 * n - 4))
  out.set(line)
  for (let i = n, from = n - 4; i < out.length; i += 2, from -= 2) {
    out[i] = line[from]
    out[i + 1] = line[from + 1]
  }
  return out
}

/** A ring as a line that ends where it begins. */
export function closedLine(ring: Ring): Ring {
  const line = new Float64Array(ring.length + 2)
  line.set(ring)
  line[ring.length] = ring[0]
  line[ring.length + 1] = ring[1]
  return line
}
