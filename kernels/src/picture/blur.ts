/** Tones of 16 bit as numbers. */
export function fromTones(tones: i32, n: i32, out: i32): void {
  for (let i = 0; i < n; i++) store<f32>(out + 4 * i, <f32>load<u16>(tones + 2 * i))
}

/** The samples at both ends of a row go on for `radius` beyond it. */
export function widenRow(row: i32, n: i32, radius: i32): void {
  const first = load<f32>(row)
  const last = load<f32>(row + 4 * n - 4)
  for (let k = 1; k <= radius; k++) store<f32>(row - 4 * k, first)
  for (let k = 0; k < radius + 4; k++) store<f32>(row + 4 * (n + k), last)
}

/** A row convolved with a symmetric kernel. @param weights radius + 1 f32 from the middle out @param row widened by `radius` */
export function blurRow(row: i32, n: i32, weights: i32, radius: i32, out: i32): void {
  const w0 = f32x4.splat(load<f32>(weights))
  for (let i = 0, end = 4 * n; i < end; i += 16) {
    const at = row + i
    let sum = f32x4.mul(v128.load(at), w0)
    for (let k = 4; k <= 4 * radius; k += 4)
      sum = f32x4.add(sum, f32x4.mul(f32x4.add(v128.load(at - k), v128.load(at + k)), f32x4.splat(load<f32>(weights + k))))
    v128.store(out + i, sum)
  }
}

/** Rows above and below weighed by the same kernel. @param rows 2·radius + 1 addresses (i32), the middle one at `radius` */
export function blurDown(rows: i32, n: i32, weights: i32, radius: i32, out: i32): void {
  const middle = load<i32>(rows + 4 * radius)
  const w0 = f32x4.splat(load<f32>(weights))
  for (let i = 0, end = 4 * n; i < end; i += 16) v128.store(out + i, f32x4.mul(v128.load(middle + i), w0))
  for (let k = 1; k <= radius; k++) {
    const w = f32x4.splat(load<f32>(weights + 4 * k))
    const above = load<i32>(rows + 4 * (radius - k))
    const below = load<i32>(rows + 4 * (radius + k))
    for (let i = 0, end = 4 * n; i < end; i += 16)
      v128.store(out + i, f32x4.add(v128.load(out + i), f32x4.mul(f32x4.add(v128.load(above + i), v128.load(below + i)), w)))
  }
}

/** Unsharp mask of one row: tones that differ from their blur by more than `least` are moved away from it. */
export function sharpenRow(tones: i32, soft: i32, n: i32, strength: f32, least: f32, out: i32): void {
  for (let i = 0; i < n; i++) {
    const tone = <f32>load<u16>(tones + 2 * i)
    const difference = tone - load<f32>(soft + 4 * i)
    const v = abs(difference) > least ? tone + strength * difference : tone
    store<u16>(out + 2 * i, <u16>(min<f32>(65535, max<f32>(0, v)) + 0.5))
  }
}

/** Marks 0–1 as lightness of 16 bit. */
export function toTones(marks: i32, n: i32, out: i32): void {
  for (let i = 0; i < n; i++) store<u16>(out + 2 * i, <u16>((<f32>1 - load<f32>(marks + 4 * i)) * <f32>65535 + <f32>0.5))
}

/** Lightness of 16 bit as marks 0–1. @param alpha share that may burn, 0–255, or 0 where all may */
export function toMarks(tones: i32, alpha: i32, n: i32, out: i32): void {
  for (let i = 0; i < n; i++) {
    const mark: i32 = 65535 - <i32>load<u16>(tones + 2 * i)
    store<f32>(out + 4 * i, <f32>mark * <f32>(1.0 / 65535.0))
  }
  if (alpha !== 0)
    for (let i = 0; i < n; i++) store<f32>(out + 4 * i, load<f32>(out + 4 * i) * <f32>load<u8>(alpha + i) * <f32>(1.0 / 255))
}
