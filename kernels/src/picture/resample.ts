/** Sample → mark by a table of f32, for 8-bit samples. @param alpha opacity of each sample, or 0 where all are opaque */
export function marks8(samples: i32, alpha: i32, n: i32, table: i32, out: i32): void {
  for (let i = 0; i < n; i++) store<f32>(out + 4 * i, load<f32>(table + 4 * <i32>load<u8>(samples + i)))
  if (alpha !== 0) seeThrough(alpha, n, out)
}

/** The same for 16-bit samples. */
export function marks16(samples: i32, alpha: i32, n: i32, table: i32, out: i32): void {
  for (let i = 0; i < n; i++) store<f32>(out + 4 * i, load<f32>(table + 4 * <i32>load<u16>(samples + 2 * i)))
  if (alpha !== 0) seeThrough(alpha, n, out)
}

/** What is transparent takes no mark. */
function seeThrough(alpha: i32, n: i32, out: i32): void {
  for (let i = 0; i < n; i++) store<f32>(out + 4 * i, load<f32>(out + 4 * i) * <f32>load<u8>(alpha + i) * <f32>(1.0 / 255))
}

/** sum += row × weight; rows may be read and written up to a multiple of 4. */
export function addRow(row: i32, n: i32, weight: f32, sum: i32): void {
  const w = f32x4.splat(weight)
  for (let i = 0, end = n * 4; i < end; i += 16)
    v128.store(sum + i, f32x4.add(v128.load(sum + i), f32x4.mul(v128.load(row + i), w)))
}

/** A row that two results share: sum += row × weight, next = row × nextWeight. */
export function splitRow(row: i32, n: i32, weight: f32, sum: i32, nextWeight: f32, next: i32): void {
  const w = f32x4.splat(weight)
  const v = f32x4.splat(nextWeight)
  for (let i = 0, end = n * 4; i < end; i += 16) {
    const r = v128.load(row + i)
    v128.store(sum + i, f32x4.add(v128.load(sum + i), f32x4.mul(r, w)))
    v128.store(next + i, f32x4.mul(r, v))
  }
}

/** Six rows weighed: out = Σ row × weight. @param rows six addresses (i32) @param weights six f32 */
export function sumSix(rows: i32, weights: i32, n: i32, out: i32): void {
  const r0 = load<i32>(rows)
  const r1 = load<i32>(rows, 4)
  const r2 = load<i32>(rows, 8)
  const r3 = load<i32>(rows, 12)
  const r4 = load<i32>(rows, 16)
  const r5 = load<i32>(rows, 20)
  const w0 = f32x4.splat(load<f32>(weights))
  const w1 = f32x4.splat(load<f32>(weights, 4))
  const w2 = f32x4.splat(load<f32>(weights, 8))
  const w3 = f32x4.splat(load<f32>(weights, 12))
  const w4 = f32x4.splat(load<f32>(weights, 16))
  const w5 = f32x4.splat(load<f32>(weights, 20))
  for (let i = 0, end = n * 4; i < end; i += 16) {
    const a = f32x4.add(f32x4.mul(v128.load(r0 + i), w0), f32x4.mul(v128.load(r1 + i), w1))
    const b = f32x4.add(f32x4.mul(v128.load(r2 + i), w2), f32x4.mul(v128.load(r3 + i), w3))
    const c = f32x4.add(f32x4.mul(v128.load(r4 + i), w4), f32x4.mul(v128.load(r5 + i), w5))
    v128.store(out + i, f32x4.add(a, f32x4.add(b, c)))
  }
}

/**
 * Area average along a row by running sums: each result is the difference of the sum at its two borders.
 * @param size samples of the row @param sums room for size + 1 f64
 * @param cells the sample each of the columns + 1 borders lies in (i32) @param parts how far into it (f64)
 */
export function averageAcross(row: i32, size: i32, sums: i32, cells: i32, parts: i32, columns: i32, share: f64, out: i32): void {
  let sum: f64 = 0
  store<f64>(sums, 0)
  for (let i = 0; i < size; i++) {
    sum += <f64>load<f32>(row + 4 * i)
    store<f64>(sums + 8 * i, sum, 8)
  }
  let before = border(row, sums, cells, parts)
  for (let i = 1; i <= columns; i++) {
    const next = border(row, sums, cells + 4 * i, parts + 8 * i)
    store<f32>(out + 4 * i - 4, <f32>((next - before) * share))
    before = next
  }
}

function border(row: i32, sums: i32, cell: i32, part: i32): f64 {
  const c = load<i32>(cell)
  return load<f64>(sums + 8 * c) + <f64>load<f32>(row + 4 * c) * load<f64>(part)
}

/**
 * Lanczos along a row: each result is eight neighbours weighed. The row needs 8 samples of room on both sides.
 * @param starts address offset of the first neighbour (i32, bytes) @param weights eight f32 a column
 */
export function lanczosAcross(row: i32, starts: i32, weights: i32, columns: i32, out: i32): void {
  for (let i = 0; i < columns; i++) {
    const at = row + load<i32>(starts + 4 * i)
    const w = weights + 32 * i
    const p = f32x4.add(f32x4.mul(v128.load(at), v128.load(w)), f32x4.mul(v128.load(at, 16), v128.load(w, 16)))
    const q = f32x4.add(p, v128.shuffle<i32>(p, p, 2, 3, 0, 1))
    store<f32>(out + 4 * i, f32x4.extract_lane(q, 0) + f32x4.extract_lane(q, 1))
  }
}

/** Every value brought into 0…1. */
export function clamp(row: i32, n: i32): void {
  const zero = f32x4.splat(0)
  const one = f32x4.splat(1)
  for (let i = 0, end = n * 4; i < end; i += 16) v128.store(row + i, f32x4.pmin(one, f32x4.pmax(zero, v128.load(row + i))))
}
