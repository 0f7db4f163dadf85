// The kernel of picture rows: one row of marks as moves. Compiled to `core/src/kernels/rows.wasm.ts`.

/** Where memory is free for the caller. */
export function freeFrom(): usize {
  return __heap_base
}

let count: i32 = 0
let headX: i32 = 0
let outX: i32 = 0
let outS: i32 = 0
let outSpeed: i32 = 0

/** A move without length is left out. */
function move(x: i32, s: i32, speed: f32): void {
  if (x === headX && count > 0) return
  headX = x
  store<i32>(outX + 4 * count, x)
  store<u16>(outS + 2 * count, <u16>s)
  store<f32>(outSpeed + 4 * count, speed)
  count++
}

/**
 * Burns the marks of a row from its first to its last, or back. Comes from `lead` before the first mark at a rapid, runs
 * up to the mark, and out to `lead` behind the last; long white gaps are crossed at a rapid.
 * @param levels marks 0…255 @param columns dots of the row @param borders µm of the columns + 1 borders of dots (i32)
 * @param power beam for each level (u16) @param gapDots white dots from which a rapid pays @param from,to µm where the
 * run-up starts and the run-out ends @param x,s,speed where the moves go: (columns + 3) i32, u16, f32
 * @returns number of moves, 0 where nothing is marked
 */
export function burnRow(
  levels: i32,
  first: i32,
  last: i32,
  forward: i32,
  borders: i32,
  power: i32,
  gapDots: f64,
  from: i32,
  to: i32,
  feed: f32,
  x: i32,
  s: i32,
  speed: i32,
): i32 {
  count = 0
  outX = x
  outS = s
  outSpeed = speed
  move(from, 0, 0)
  const step = forward !== 0 ? 1 : -1
  const near = forward !== 0 ? 0 : 4
  let at = forward !== 0 ? first : last
  const stop = forward !== 0 ? last + 1 : first - 1
  move(load<i32>(borders + 4 * at + near), 0, feed)
  while (at !== stop) {
    const level = load<u8>(levels + at)
    let end = at + step
    while (end !== stop && load<u8>(levels + end) === level) end += step
    const edge = load<i32>(borders + 4 * end + near)
    if (level !== 0) move(edge, <i32>load<u16>(power + 2 * <i32>level), feed)
    else move(edge, 0, <f64>abs(end - at) >= gapDots ? 0 : feed)
    at = end
  }
  move(to, 0, feed)
  return count
}

/** The first dot with a mark, or −1. */
export function firstMark(levels: i32, columns: i32): i32 {
  for (let i = 0; i < columns; i++) if (load<u8>(levels + i) !== 0) return i
  return -1
}

/** The last dot with a mark, or −1. */
export function lastMark(levels: i32, columns: i32): i32 {
  for (let i = columns - 1; i >= 0; i--) if (load<u8>(levels + i) !== 0) return i
  return -1
}
