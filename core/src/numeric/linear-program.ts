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
  if (d === 1) return onLine(c[0], low[0], high[0], constraints)
  let x = c.map((v, i) => (v >= 0 ? high[i] : low[i]))
  const order = shuffled(constraints.length)
  for (let k = 0; k < order.length; k++) {
    const a = constraints[order[k]]
    let value = -a[d]
    let size = 0
    let at = 0
    for (let i = 0; i < d; i++) {
      value += a[i] * x[i]
      if (Math.abs(a[i]) > size) {
        size = Math.abs(a[i])
        at = i
      }
    }
    if (value <= TOLERANCE * Math.max(1, size)) continue
    if (size < TOLERANCE) return undefined
    // The best lies on this constraint: x[at] = (b − Σ others) / a[at] everywhere, one dimension less.
    const onto = (of: Constraint | readonly number[], b: number): Float64Array => {
      const share = of[at] / a[at]
      const out = new Float64Array(d)
      let j = 0
      for (let i = 0; i < d; i++) if (i !== at) out[j++] = of[i] - share * a[i]
      out[d - 1] = b - share * a[d]
      return out
    }
    const unit = c.map((_, i) => (i === at ? 1 : 0))
    const before = [
      onto(unit, high[at]),
      onto(
        unit.map((v) => -v),
        -low[at],
      ),
    ]
    for (let i = 0; i < k; i++) {
      const other = constraints[order[i]]
      before.push(onto(other, other[d]))
    }
    const without = (of: readonly number[]): number[] => of.filter((_, i) => i !== at)
    const inner = linearProgram([...onto(c, 0).subarray(0, d - 1)], without(low), without(high), before)
    if (!inner) return undefined
    let left = a[d]
    for (let i = 0, j = 0; i < d; i++) if (i !== at) left -= a[i] * inner[j++]
    x = [...inner.slice(0, at), left / a[at], ...inner.slice(at)]
  }
  return x
}

function onLine(c: number, low: number, high: number, constraints: readonly Constraint[]): number[] | undefined {
  let [from, to] = [low, high]
  for (const [a, b] of constraints) {
    if (Math.abs(a) < 1e-12) {
      if (b < -TOLERANCE) return undefined
    } else if (a > 0) to = Math.min(to, b / a)
    else from = Math.max(from, b / a)
  }
  if (from > to + TOLERANCE) return undefined
  return [c >= 0 ? Math.max(from, to) : Math.min(from, to)]
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
