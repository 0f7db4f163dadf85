/** `a·x ≤ b`: the numbers of a, then b. */
export type Constraint = Float64Array

const TOLERANCE = 1e-9

/**
 * The x within a box that makes `c·x` largest under constraints, in few dimensions: R. Seidel, “Small-dimensional linear programming
 * and convex hulls made easy”, Discrete & Computational Geometry 6 (1991). Expected time grows with the number of constraints.
 * @param c what is wanted, one number a dimension @param low,high the box @param constraints each as long as c and one more
 * @returns undefined where nothing meets them all
 */
export function linearProgram(
  c: readonly number[],
  low: readonly number[],
  high: readonly number[],
  constraints: readonly Constraint[],
): number[] | undefined {
  const d = c.length
  const rows = new Float64Array(constraints.length * (d + 1))
  const order = shuffled(constraints.length)
  order.forEach((i, k) => {
    rows.set(constraints[i], k * (d + 1))
  })
  const x = solved(Float64Array.from(c), Float64Array.from(low), Float64Array.from(high), rows, constraints.length)
  return x && [...x]
}

/**
 * The same with all constraints in one list.
 * @param rows one after the other, each as long as c and one more @param count so many of them
 */
function solved(
  c: Float64Array,
  low: Float64Array,
  high: Float64Array,
  rows: Float64Array,
  count: number,
): Float64Array | undefined {
  const d = c.length
  if (d === 1) return onLine(c[0], low[0], high[0], rows, count)
  const stride = d + 1
  const x = new Float64Array(d)
  for (let i = 0; i < d; i++) x[i] = c[i] >= 0 ? high[i] : low[i]
  for (let k = 0; k < count; k++) {
    const row = k * stride
    let value = -rows[row + d]
    let size = 0
    let at = 0
    for (let i = 0; i < d; i++) {
      const a = rows[row + i]
      value += a * x[i]
      if (Math.abs(a) > size) {
        size = Math.abs(a)
        at = i
      }
    }
    if (value <= TOLERANCE * Math.max(1, size)) continue
    if (size < TOLERANCE) return undefined
    // The best lies on this constraint: x[at] = (b − Σ others) / a[at] everywhere, one dimension less.
    const pivot = rows[row + at]
    const fewer = new Float64Array((k + 2) * d)
    const [lessC, lessLow, lessHigh] = [new Float64Array(d - 1), new Float64Array(d - 1), new Float64Array(d - 1)]
    for (let i = 0, j = 0; i < d; i++) {
      if (i === at) continue
      const own = rows[row + i] / pivot
      lessC[j] = c[i] - c[at] * own
      lessLow[j] = low[i]
      lessHigh[j] = high[i]
      // What this variable's own box says of the others.
      fewer[j] = -own
      fewer[d + j] = own
      j++
    }
    fewer[d - 1] = high[at] - rows[row + d] / pivot
    fewer[2 * d - 1] = rows[row + d] / pivot - low[at]
    for (let n = 0; n < k; n++) {
      const from = n * stride
      const to = (n + 2) * d
      const share = rows[from + at] / pivot
      for (let i = 0, j = 0; i < d; i++) if (i !== at) fewer[to + j++] = rows[from + i] - share * rows[row + i]
      fewer[to + d - 1] = rows[from + d] - share * rows[row + d]
    }
    const inner = solved(lessC, lessLow, lessHigh, fewer, k + 2)
    if (!inner) return undefined
    let left = rows[row + d]
    for (let i = 0, j = 0; i < d; i++) {
      if (i === at) continue
      left -= rows[row + i] * inner[j]
      x[i] = inner[j++]
    }
    x[at] = left / pivot
  }
  return x
}

function onLine(c: number, low: number, high: number, rows: Float64Array, count: number): Float64Array | undefined {
  let [from, to] = [low, high]
  for (let i = 0; i < 2 * count; i += 2) {
    const [a, b] = [rows[i], rows[i + 1]]
    if (Math.abs(a) < 1e-12) {
      if (b < -TOLERANCE) return undefined
    } else if (a > 0) to = Math.min(to, b / a)
    else from = Math.max(from, b / a)
  }
  if (from > to + TOLERANCE) return undefined
  return Float64Array.of(c >= 0 ? Math.max(from, to) : Math.min(from, to))
}

const ORDERS = new Map<number, Uint32Array>()

/** The same order every time: the same question has the same answer. */
function shuffled(n: number): Uint32Array {
  let order = ORDERS.get(n)
  if (!order) {
    order = Uint32Array.from({ length: n }, (_, i) => i)
    let state = 0x9e3779b9
    for (let i = n - 1; i > 0; i--) {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0
      const j = Math.floor((state / 2 ** 32) * (i + 1))
      ;[order[i], order[j]] = [order[j], order[i]]
    }
    if (ORDERS.size > 2000) ORDERS.clear()
    ORDERS.set(n, order)
  }
  return order
}
