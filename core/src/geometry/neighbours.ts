/** Indices of the k nearest points of every point, by a grid with about two points a cell. */
export function nearestNeighbours(xs: Float64Array, ys: Float64Array, k: number): Int32Array {
  const n = xs.length
  let x0 = Infinity
  let y0 = Infinity
  let x1 = -Infinity
  let y1 = -Infinity
  for (let i = 0; i < n; i++) {
    x0 = Math.min(x0, xs[i])
    x1 = Math.max(x1, xs[i])
    y0 = Math.min(y0, ys[i])
    y1 = Math.max(y1, ys[i])
  }
  const cell = Math.max(Math.sqrt(((x1 - x0) * (y1 - y0) * 2) / n), Math.max(x1 - x0, y1 - y0) / (n + 1), 1e-9)
  const columns = Math.floor((x1 - x0) / cell) + 1
  const rows = Math.floor((y1 - y0) / cell) + 1
  const heads = new Int32Array(columns * rows).fill(-1)
  const links = new Int32Array(n)
  for (let i = 0; i < n; i++) {
    const c = Math.floor((ys[i] - y0) / cell) * columns + Math.floor((xs[i] - x0) / cell)
    links[i] = heads[c]
    heads[c] = i
  }
  const found = new Int32Array(n * k).fill(-1)
  const best = new Float64Array(k)
  for (let i = 0; i < n; i++) {
    const cx = Math.floor((xs[i] - x0) / cell)
    const cy = Math.floor((ys[i] - y0) / cell)
    let count = 0
    for (let r = 0; r <= Math.max(columns, rows); r++) {
      // All cells within r − 1 are done, so nothing nearer than (r − 1)·cell can be missing.
      if (count === k && best[k - 1] <= ((r - 1) * cell) ** 2) break
      for (let v = cy - r; v <= cy + r; v++) {
        if (v < 0 || v >= rows) continue
        const edge = v === cy - r || v === cy + r
        for (let u = cx - r; u <= cx + r; u += edge || r === 0 ? 1 : 2 * r) {
          if (u < 0 || u >= columns) continue
          for (let j = heads[v * columns + u]; j >= 0; j = links[j]) {
            if (j === i) continue
            const d = (xs[i] - xs[j]) ** 2 + (ys[i] - ys[j]) ** 2
            if (count === k && d >= best[k - 1]) continue
            let at = count < k ? count++ : k - 1
            while (at > 0 && best[at - 1] > d) {
              best[at] = best[at - 1]
              found[i * k + at] = found[i * k + at - 1]
              at--
            }
            best[at] = d
            found[i * k + at] = j
          }
        }
      }
    }
  }
  return found
}
