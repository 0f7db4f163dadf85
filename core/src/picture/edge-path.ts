/** How far beside the straight way between two anchors an edge is looked for, as a share of its length. */
const ASIDE = 0.35
const AT_LEAST = 24

/**
 * The way from one place to another that keeps to edges: Dijkstra over pixels that cost less the steeper the grey is
 * (E. Mortensen and W. Barrett, SIGGRAPH 1995).
 * @param grey row by row @returns x and y of pixel centres in turn, both ends included
 */
export function edgePath(
  grey: Uint8Array,
  width: number,
  height: number,
  from: readonly [number, number],
  to: readonly [number, number],
): number[] {
  const at = ([x, y]: readonly [number, number]): [number, number] => [
    Math.min(width - 1, Math.max(0, Math.floor(x))),
    Math.min(height - 1, Math.max(0, Math.floor(y))),
  ]
  const [ax, ay] = at(from)
  const [bx, by] = at(to)
  const margin = Math.max(AT_LEAST, Math.ceil(ASIDE * Math.hypot(bx - ax, by - ay)))
  const x0 = Math.max(0, Math.min(ax, bx) - margin)
  const y0 = Math.max(0, Math.min(ay, by) - margin)
  const w = Math.min(width, Math.max(ax, bx) + margin + 1) - x0
  const h = Math.min(height, Math.max(ay, by) + margin + 1) - y0
  const steep = steepness(grey, width, height, x0, y0, w, h)
  const cost = new Float64Array(w * h).fill(Infinity)
  const before = new Int32Array(w * h).fill(-1)
  const start = (ay - y0) * w + ax - x0
  const end = (by - y0) * w + bx - x0
  const heap = new Heap()
  cost[start] = 0
  heap.push(start, 0)
  while (heap.size > 0) {
    const [here, paid] = heap.pop()
    if (here === end) break
    if (paid > cost[here]) continue
    const x = here % w
    const y = (here - x) / w
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) {
        if ((dx === 0 && dy === 0) || x + dx < 0 || y + dy < 0 || x + dx >= w || y + dy >= h) continue
        const next = here + dy * w + dx
        const total = paid + (dx !== 0 && dy !== 0 ? Math.SQRT2 : 1) * (0.03 + (1 - steep[next]) ** 2)
        if (total >= cost[next]) continue
        cost[next] = total
        before[next] = here
        heap.push(next, total)
      }
    }
  }
  const path: number[] = []
  for (let i = end; i >= 0; i = before[i]) {
    const x = i % w
    path.push((i - x) / w + y0 + 0.5, x + x0 + 0.5)
  }
  return path.reverse()
}

/** Steepness of a part by Sobel, 0–1 against its steepest place. */
function steepness(grey: Uint8Array, width: number, height: number, x0: number, y0: number, w: number, h: number): Float32Array {
  const out = new Float32Array(w * h)
  let most = 1
  for (let y = 0; y < h; y++) {
    const sy = y + y0
    const up = Math.max(0, sy - 1) * width
    const mid = sy * width
    const down = Math.min(height - 1, sy + 1) * width
    for (let x = 0; x < w; x++) {
      const c = x + x0
      const l = Math.max(0, c - 1)
      const r = Math.min(width - 1, c + 1)
      const gx = grey[up + r] + 2 * grey[mid + r] + grey[down + r] - grey[up + l] - 2 * grey[mid + l] - grey[down + l]
      const gy = grey[down + l] + 2 * grey[down + c] + grey[down + r] - grey[up + l] - 2 * grey[up + c] - grey[up + r]
      const g = Math.hypot(gx, gy)
      out[y * w + x] = g
      if (g > most) most = g
    }
  }
  for (let i = 0; i < out.length; i++) out[i] /= most
  return out
}

/** A binary heap of places by cost. */
class Heap {
  private readonly places: number[] = []
  private readonly costs: number[] = []

  get size(): number {
    return this.places.length
  }

  push(place: number, cost: number): void {
    const { places, costs } = this
    let i = places.length
    places.push(place)
    costs.push(cost)
    while (i > 0) {
      const parent = (i - 1) >> 1
      if (costs[parent] <= cost) break
      places[i] = places[parent]
      costs[i] = costs[parent]
      i = parent
    }
    places[i] = place
    costs[i] = cost
  }

  pop(): readonly [place: number, cost: number] {
    const { places, costs } = this
    const top = [places[0], costs[0]] as const
    const place = places.pop()!
    const cost = costs.pop()!
    const n = places.length
    if (n > 0) {
      let i = 0
      for (;;) {
        let child = 2 * i + 1
        if (child >= n) break
        if (child + 1 < n && costs[child + 1] < costs[child]) child++
        if (costs[child] >= cost) break
        places[i] = places[child]
        costs[i] = costs[child]
        i = child
      }
      places[i] = place
      costs[i] = cost
    }
    return top
  }
}
