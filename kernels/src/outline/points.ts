/** x of point i of a line: x, y pairs of f64. */
export function px(line: i32, i: i32): f64 {
  return load<f64>(line + (i << 4))
}

/** y of point i of a line. */
export function py(line: i32, i: i32): f64 {
  return load<f64>(line + (i << 4), 8)
}

/** Index i of a closed line of n points, at most one turn away. */
export function wrap(i: i32, n: i32): i32 {
  return i < 0 ? i + n : i >= n ? i - n : i
}
