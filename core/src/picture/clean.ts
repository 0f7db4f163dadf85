import { type Plane, WHITE } from './plane.ts'

/**
 * Takes away marks weaker than `below`, then marked spots that hang together (8 neighbours) over fewer than `leastDots`.
 * @param below 0–1
 */
export function clean(plane: Plane, below: number, leastDots: number): Uint16Array {
  const { width, height, tone } = plane
  const white = Math.round((1 - below) * WHITE)
  const out = new Uint16Array(tone.length)
  for (let i = 0; i < tone.length; i++) out[i] = tone[i] > white ? WHITE : tone[i]
  if (leastDots <= 1) return out
  const seen = new Uint8Array(tone.length)
  const queue = new Int32Array(Math.min(tone.length, Math.ceil(leastDots) + 8))
  const stack: number[] = []
  for (let start = 0; start < tone.length; start++) {
    if (seen[start] || out[start] === WHITE) continue
    let count = 0
    stack.length = 0
    stack.push(start)
    seen[start] = 1
    while (stack.length > 0) {
      const at = stack.pop()!
      if (count < queue.length) queue[count] = at
      count++
      const x = at % width
      const y = (at - x) / width
      for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++) {
        for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
          const near = ny * width + nx
          if (seen[near] || out[near] === WHITE) continue
          seen[near] = 1
          stack.push(near)
        }
      }
    }
    if (count < leastDots) for (let k = 0; k < count; k++) out[queue[k]] = WHITE
  }
  return out
}
