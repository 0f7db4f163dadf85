/**
 * A curve through points that rises where they rise and never overshoots: monotone piecewise cubic (F. Fritsch and
 * R. Carlson, SIAM J. Numer. Anal. 17(2), 1980). Straight on at both ends' values beyond them.
 * @param xs rising strictly @param ys one for each
 * @throws RangeError where xs do not rise
 */
export function monotoneCubic(xs: readonly number[], ys: readonly number[]): (x: number) => number {
  const n = xs.length
  if (n !== ys.length || n === 0)
    throw new RangeError(`A curve needs as many values (${ys.length}) as places (${n}), at least one.`)
  if (n === 1) return () => ys[0]
  const slopes = new Float64Array(n - 1)
  for (let i = 0; i < n - 1; i++) {
    if (!(xs[i + 1] > xs[i])) throw new RangeError(`The places of a curve must rise: ${xs[i + 1]} comes after ${xs[i]}.`)
    slopes[i] = (ys[i + 1] - ys[i]) / (xs[i + 1] - xs[i])
  }
  const tangents = new Float64Array(n)
  tangents[0] = slopes[0]
  tangents[n - 1] = slopes[n - 2]
  for (let i = 1; i < n - 1; i++) tangents[i] = slopes[i - 1] * slopes[i] <= 0 ? 0 : (slopes[i - 1] + slopes[i]) / 2
  for (let i = 0; i < n - 1; i++) {
    if (Math.abs(slopes[i]) < 1e-12) {
      tangents[i] = 0
      tangents[i + 1] = 0
      continue
    }
    const a = tangents[i] / slopes[i]
    const b = tangents[i + 1] / slopes[i]
    const long = a * a + b * b
    if (long > 9) {
      const t = 3 / Math.sqrt(long)
      tangents[i] = t * a * slopes[i]
      tangents[i + 1] = t * b * slopes[i]
    }
  }
  return (x) => {
    if (!(x > xs[0])) return ys[0]
    if (x >= xs[n - 1]) return ys[n - 1]
    let low = 0
    let high = n - 1
    while (high - low > 1) {
      const middle = (low + high) >> 1
      if (xs[middle] <= x) low = middle
      else high = middle
    }
    const h = xs[high] - xs[low]
    const t = (x - xs[low]) / h
    const t2 = t * t
    const t3 = t2 * t
    return (
      (2 * t3 - 3 * t2 + 1) * ys[low] +
      (t3 - 2 * t2 + t) * h * tangents[low] +
      (3 * t2 - 2 * t3) * ys[high] +
      (t3 - t2) * h * tangents[high]
    )
  }
}

/**
 * The nearest values that never fall, by pooling neighbours that do (M. Ayer et al., Ann. Math. Statist. 26(4), 1955).
 * @param weights default 1 each
 */
export function neverFalling(ys: readonly number[], weights?: readonly number[]): number[] {
  const blocks: { value: number; weight: number; count: number }[] = []
  ys.forEach((y, i) => {
    blocks.push({ value: y, weight: weights?.[i] ?? 1, count: 1 })
    while (blocks.length > 1 && blocks[blocks.length - 2].value > blocks[blocks.length - 1].value) {
      const b = blocks.pop()!
      const a = blocks[blocks.length - 1]
      a.value = (a.value * a.weight + b.value * b.weight) / (a.weight + b.weight)
      a.weight += b.weight
      a.count += b.count
    }
  })
  return blocks.flatMap(({ value, count }) => Array.from({ length: count }, () => value))
}

/** Where a never falling function reaches a value, between two ends, by halving; the nearer end where it never does. */
export function inverse(of: (x: number) => number, value: number, low: number, high: number): number {
  if (of(low) >= value) return low
  if (of(high) <= value) return high
  let a = low
  let b = high
  for (let i = 0; i < 60; i++) {
    const middle = (a + b) / 2
    if (of(middle) < value) a = middle
    else b = middle
  }
  return (a + b) / 2
}
