import type { Ring } from './ring.ts'

/**
 * A polygon without the corners that lie closer than `tolerance` to the lines between those that are kept
 * (D. Douglas and T. Peucker, The Canadian Cartographer 10(2), 1973). Its first corner, and the one farthest from it, stay.
 */
export function simplified(ring: Ring, tolerance: number): Ring {
  const n = ring.length / 2
  if (n <= 4) return ring
  let far = 0
  for (let i = 1; i < n; i++)
    if (
      Math.hypot(ring[2 * i] - ring[0], ring[2 * i + 1] - ring[1]) >
      Math.hypot(ring[2 * far] - ring[0], ring[2 * far + 1] - ring[1])
    )
      far = i
  const kept = new Uint8Array(n + 1)
  kept[0] = kept[far] = kept[n] = 1
  const at = (i: number): readonly [number, number] => [ring[2 * (i % n)], ring[2 * (i % n) + 1]]
  const open: [number, number][] = [
    [0, far],
    [far, n],
  ]
  for (let stretch = open.pop(); stretch; stretch = open.pop()) {
    const [from, to] = stretch
    const [ax, ay] = at(from)
    const [bx, by] = at(to)
    const long = Math.hypot(bx - ax, by - ay)
    let most = tolerance
    let corner = -1
    for (let i = from + 1; i < to; i++) {
      const [x, y] = at(i)
      const off = long > 0 ? Math.abs((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / long : Math.hypot(x - ax, y - ay)
      if (off > most) {
        most = off
        corner = i
      }
    }
    if (corner < 0) continue
    kept[corner] = 1
    open.push([from, corner], [corner, to])
  }
  const out: number[] = []
  for (let i = 0; i < n; i++) if (kept[i]) out.push(ring[2 * i], ring[2 * i + 1])
  return Float64Array.from(out)
}
