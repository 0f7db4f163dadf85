/** One whole mark as integer: fine enough that rounding the tone does not show, small enough for 32 bits. */
const WHOLE: i32 = 1 << 16
const HALF: i32 = 1 << 15

// Sums over all rows since `beginDots`: marks wanted and made (1 a whole dot), and dots with any mark.
let wantedSum: f64 = 0
let madeSum: f64 = 0
let marked: f64 = 0

export function beginDots(): void {
  wantedSum = 0
  madeSum = 0
  marked = 0
}

export function wantedMarks(): f64 {
  return wantedSum
}

export function madeMarks(): f64 {
  return madeSum
}

export function markedDots(): f64 {
  return marked
}

/** Adds a row to the sums. */
export function tellRow(wanted: f64, made: f64, dots: i32): void {
  wantedSum += wanted
  madeSum += made
  marked += <f64>dots
}

/** Grey stays grey: wanted 0…1 → level 0…255. */
export function greyRow(wanted: i32, n: i32, out: i32): void {
  let sum = 0
  let count = 0
  for (let i = 0; i < n; i++) {
    const mark = load<f32>(wanted + 4 * i)
    const level = <i32>(mark * 255 + 0.5)
    store<u8>(out + i, <u8>level)
    wantedSum += <f64>mark
    sum += level
    count += level > 0 ? 1 : 0
  }
  madeSum += <f64>sum / 255
  marked += <f64>count
}

/** A mark where at least half of one is wanted. */
export function thresholdRow(wanted: i32, n: i32, out: i32): void {
  let count = 0
  for (let i = 0; i < n; i++) {
    const mark = load<f32>(wanted + 4 * i)
    const made = mark >= 0.5
    store<u8>(out + i, made ? 255 : 0)
    wantedSum += <f64>mark
    count += made ? 1 : 0
  }
  madeSum += <f64>count
  marked += <f64>count
}

/**
 * Error diffusion by R. Floyd and L. Steinberg, Proc. SID 17(2), 1976: 7, 3, 5 and 1 sixteenths to the dot ahead and
 * the three below. In integers, and without a branch that guesses wrong every other time: both outcomes are worked out
 * and one is selected. What rounding leaves goes to the last of the four, so that no tone is lost.
 * @param ahead 1 from left to right, −1 back: turned every row, so that no diagonal grain appears
 * @param above errors for this row, n + 2 i32, the first and last beside the row @param below room for the next row's
 */
export function floydSteinbergRow(wanted: i32, n: i32, ahead: i32, above: i32, below: i32, out: i32): void {
  store<i32>(below, 0)
  store<i32>(below + 4 * n, 0, 4)
  let carried = 0
  // What the cells below get is gathered in registers and written once: straight below, and one behind.
  let straight = 0
  let behind = 0
  let sum: i64 = 0
  let count = 0
  let x = ahead === 1 ? 0 : n - 1
  for (let i = 0; i < n; i++, x += ahead) {
    const tone = <i32>(load<f32>(wanted + 4 * x) * <f32>WHOLE + 0.5)
    sum += <i64>tone
    const value = tone + load<i32>(above + 4 * x, 4) + carried
    const less = value - WHOLE
    const made = value >= HALF
    carried = select(((less << 3) - less) >> 4, ((value << 3) - value) >> 4, made)
    const error = select(less, value, made)
    store<u8>(out + x, <u8>select(255, 0, made))
    count += <i32>made
    const back = (error * 3) >> 4
    const under = (error * 5) >> 4
    store<i32>(below + 4 * (x - ahead), behind + back, 4)
    behind = straight + under
    straight = error - carried - back - under
  }
  store<i32>(below + 4 * (x - ahead), behind, 4)
  wantedSum += <f64>sum / WHOLE
  madeSum += <f64>count
  marked += <f64>count
}
