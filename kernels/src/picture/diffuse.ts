import { tellRow } from './dither'

/**
 * Error diffusion over three rows with up to twelve weights. What the rows below get is gathered in registers that slide
 * along, so each cell is written once.
 * @param weights twelve f32: two ahead; five below from two behind to two ahead; five two rows below in the same order
 * @param ahead 1 from left to right, −1 back @param now errors for this row, n + 4 f32, two beside it on each side
 * @param next for the row below: the row above left its share there @param last for two rows below: written anew
 */
export function diffuseRow(wanted: i32, n: i32, ahead: i32, weights: i32, now: i32, next: i32, last: i32, out: i32): void {
  const a1 = load<f32>(weights)
  const a2 = load<f32>(weights, 4)
  const b0 = load<f32>(weights, 8)
  const b1 = load<f32>(weights, 12)
  const b2 = load<f32>(weights, 16)
  const b3 = load<f32>(weights, 20)
  const b4 = load<f32>(weights, 24)
  const c0 = load<f32>(weights, 28)
  const c1 = load<f32>(weights, 32)
  const c2 = load<f32>(weights, 36)
  const c3 = load<f32>(weights, 40)
  const c4 = load<f32>(weights, 44)
  // Errors one and two cells ahead in this row; cells from two behind to one ahead of the rows below.
  let p1: f32 = 0
  let p2: f32 = 0
  let q0: f32 = 0
  let q1: f32 = 0
  let q2: f32 = 0
  let q3: f32 = 0
  let r0: f32 = 0
  let r1: f32 = 0
  let r2: f32 = 0
  let r3: f32 = 0
  let sum: f64 = 0
  let count = 0
  const step = 4 * ahead
  let x = ahead === 1 ? 0 : n - 1
  let at = now + 4 * x + 8
  let below = next + 4 * (x - 2 * ahead) + 8
  let deep = last + 4 * (x - 2 * ahead) + 8
  for (let i = 0; i < n; i++) {
    const tone = load<f32>(wanted + 4 * x)
    sum += <f64>tone
    const value = tone + load<f32>(at) + p1
    const made = value >= 0.5
    const error = value - select<f32>(1, 0, made)
    count += <i32>made
    store<u8>(out + x, <u8>select(255, 0, made))
    p1 = p2 + error * a1
    p2 = error * a2
    store<f32>(below, load<f32>(below) + q0 + error * b0)
    store<f32>(deep, r0 + error * c0)
    q0 = q1 + error * b1
    q1 = q2 + error * b2
    q2 = q3 + error * b3
    q3 = error * b4
    r0 = r1 + error * c1
    r1 = r2 + error * c2
    r2 = r3 + error * c3
    r3 = error * c4
    x += ahead
    at += step
    below += step
    deep += step
  }
  store<f32>(below, load<f32>(below) + q0)
  store<f32>(deep, r0)
  store<f32>(below + step, load<f32>(below + step) + q1)
  store<f32>(deep + step, r1)
  tellRow(sum, <f64>count, count)
}
