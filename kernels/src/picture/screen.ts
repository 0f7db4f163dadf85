import { tellRow } from './dither'

/** A mark where more is wanted than the screen's threshold. @param thresholds `period` f32 that repeat, for this row */
export function orderedRow(wanted: i32, n: i32, thresholds: i32, period: i32, out: i32): void {
  let sum: f64 = 0
  let count = 0
  let k = 0
  for (let x = 0; x < n; x++) {
    const tone = load<f32>(wanted + 4 * x)
    const made = tone > load<f32>(thresholds + 4 * k)
    k++
    if (k === period) k = 0
    sum += <f64>tone
    count += <i32>made
    store<u8>(out + x, <u8>select(255, 0, made))
  }
  tellRow(sum, <f64>count, count)
}

/**
 * A clustered dot: the screen's hills cos 2πu + cos 2πv, made even by their distribution. Each period's thresholds are moved
 * a little of their own, so that a ruling with few dots a period still gives every tone in the mean. Where ruling and dots
 * beat slowly, one place has only some of the thresholds: what the rows so far were off, on average over some periods, is
 * made up for little by little.
 * @param u,v place of the first dot in screen periods @param du,dv step to the next
 * @param wave cosine over one period, 1024 f32 @param even threshold for hills −2…2, 4097 f32
 * @param step tone between two dots of a period @param own how far 64 × 64 periods are moved, −½…½ of a step, f32
 * @param madeUp what is made up for at each dot, n f32, from row to row @param reach dots to either side that count as near
 * @param off n + 1 f32 to work in
 */
export function clusteredRow(
  wanted: i32,
  n: i32,
  u: f64,
  v: f64,
  du: f64,
  dv: f64,
  wave: i32,
  even: i32,
  step: f32,
  own: i32,
  madeUp: i32,
  reach: i32,
  off: i32,
  out: i32,
): void {
  let sum: f64 = 0
  let count = 0
  // Sixty-four periods as 32-bit fractions: they wrap by themselves.
  let a = <u32>(<i64>(u * 67108864))
  let b = <u32>(<i64>(v * 67108864))
  const stepA = <u32>(<i64>(du * 67108864))
  const stepB = <u32>(<i64>(dv * 67108864))
  let offSum: f32 = 0
  store<f32>(off, 0)
  for (let x = 0; x < n; x++) {
    const tone = load<f32>(wanted + 4 * x)
    const hill = load<f32>(wave + 4 * <i32>((a >> 16) & 1023)) + load<f32>(wave + 4 * <i32>((b >> 16) & 1023))
    const period = <i32>(((a >> 26) << 6) + (b >> 26))
    // Moved within half a step either way, and reflected at both ends: what was even stays even.
    const moved = abs(load<f32>(even + 4 * <i32>((hill + 2) * 1024)) + load<f32>(own + 4 * period) * step)
    // Nothing and all stay what they are.
    const asked = tone + load<f32>(madeUp + 4 * x) * min<f32>(1, 8 * tone * (1 - tone))
    const made = asked > min<f32>(0.9999, moved > 1 ? 2 - moved : moved)
    a += stepA
    b += stepB
    sum += <f64>tone
    count += <i32>made
    offSum += load<f32>(madeUp + 4 * x) + <f32>0.06 * (tone - <f32>made)
    store<f32>(off + 4 * x, offSum, 4)
    store<u8>(out + x, <u8>select(255, 0, made))
  }
  for (let x = 0; x < n; x++) {
    const from = max(0, x - reach)
    const to = min(n, x + reach + 1)
    const mean = (load<f32>(off + 4 * to) - load<f32>(off + 4 * from)) / <f32>(to - from)
    store<f32>(madeUp + 4 * x, max<f32>(-0.2, min<f32>(0.2, mean)))
  }
  tellRow(sum, <f64>count, count)
}

/** Every value led through a table of 1025 f32 over 0…1, on straight lines between its entries. */
export function throughTable(row: i32, n: i32, table: i32): void {
  for (let x = 0; x < n; x++) {
    const v = load<f32>(row + 4 * x) * 1024
    const i = min<i32>(1023, <i32>v)
    const low = load<f32>(table + 4 * i)
    store<f32>(row + 4 * x, low + (load<f32>(table + 4 * i, 4) - low) * (v - <f32>i))
  }
}
