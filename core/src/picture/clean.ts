import { type Plane, WHITE } from './plane.ts'

/**
 * Takes away marks weaker than `below`, then marked spots that hang together (8 neighbours) over fewer than `leastDots`.
 * Spots are found as runs of marked dots, joined to those they touch in the row above (A. Rosenfeld and J. Pfaltz,
 * J. ACM 13(4), 1966; joined by union and find).
 * @param below 0–1
 */
export function clean({ width, height, tone }: Plane, below: number, leastDots: number): Uint16Array {
  const white = Math.round((1 - below) * WHITE)
  const out = new Uint16Array(tone.length)
  for (let i = 0; i < tone.length; i++) out[i] = tone[i] > white ? WHITE : tone[i]
  if (leastDots <= 1) return out
  const starts: number[] = []
  const ends: number[] = []
  const parent: number[] = []
  const size: number[] = []
  const root = (run: number): number => {
    let r = run
    while (parent[r] !== r) {
      parent[r] = parent[parent[r]]
      r = parent[r]
    }
    return r
  }
  let above = 0
  let here = 0
  for (let y = 0; y < height; y++) {
    const from = y * width
    let other = above
    const last = here
    for (let x = 0; x < width; x++) {
      if (out[from + x] === WHITE) continue
      const run = starts.length
      const start = from + x
      while (x < width && out[from + x] !== WHITE) x++
      const end = from + x
      starts.push(start)
      ends.push(end)
      parent.push(run)
      size.push(end - start)
      // Runs above that end before this one begins are over for all that follow.
      while (other < last && ends[other] + width < start) other++
      for (let k = other; k < last && starts[k] + width <= end; k++) {
        const a = root(k)
        const b = root(run)
        if (a === b) continue
        parent[a] = b
        size[b] += size[a]
      }
    }
    above = last
    here = starts.length
  }
  for (let run = 0; run < starts.length; run++) if (size[root(run)] < leastDots) out.fill(WHITE, starts[run], ends[run])
  return out
}
