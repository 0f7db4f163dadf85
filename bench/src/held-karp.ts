/**
 * A lower bound on the length of an open tour that starts at point 0 and ends anywhere: minimum spanning trees with
 * node prices raised by subgradient ascent (M. Held, R. Karp, Operations Research 18, 1970). Any tree with the start at
 * degree 1 and the end free is relaxed to a spanning tree, so every round's value is a bound; the best counts.
 */
export function openTourBound(points: readonly (readonly number[])[], rounds: number): number {
  const n = points.length
  const price = new Float64Array(n)
  let best = 0
  let step = 0
  for (let round = 0; round < rounds; round++) {
    const { length, degree } = spanningTree(points, price)
    // Σ price·(degree − 2), with one link less for the start; the free end may pick any node, the dearest is its loss.
    let priced = length
    let cheapest = Infinity
    for (let i = 0; i < n; i++) {
      priced -= price[i] * (i === 0 ? 1 : 2)
      if (i > 0) cheapest = Math.min(cheapest, price[i])
    }
    const bound = priced + cheapest
    if (bound > best) best = bound
    if (round === 0) step = length / n
    let off = 0
    for (let i = 0; i < n; i++) {
      const g = degree[i] - (i === 0 ? 1 : 2)
      price[i] += 0.6 * step * g
      off += g * g
    }
    if (off === 0) break
    step *= 0.985
  }
  return best
}

/** Prim's algorithm with prices added to both ends of every link. */
function spanningTree(points: readonly (readonly number[])[], price: Float64Array): { length: number; degree: Int32Array } {
  const n = points.length
  const degree = new Int32Array(n)
  const near = new Float64Array(n).fill(Infinity)
  const from = new Int32Array(n)
  const done = new Uint8Array(n)
  const xs = Float64Array.from(points, ([x]) => x)
  const ys = Float64Array.from(points, ([, y]) => y)
  let at = 0
  let length = 0
  done[0] = 1
  for (let k = 1; k < n; k++) {
    let next = -1
    let least = Infinity
    for (let i = 0; i < n; i++) {
      if (done[i]) continue
      const dx = xs[i] - xs[at]
      const dy = ys[i] - ys[at]
      const d = Math.sqrt(dx * dx + dy * dy) + price[at] + price[i]
      if (d < near[i]) {
        near[i] = d
        from[i] = at
      }
      if (near[i] < least) {
        least = near[i]
        next = i
      }
    }
    length += least
    degree[next]++
    degree[from[next]]++
    done[next] = 1
    at = next
  }
  return { length, degree }
}
