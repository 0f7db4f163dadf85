// The kernel of program writing: moves as lines of G-code. Compiled to `core/src/kernels/gcode.wasm.ts`.

let mode: i32 = -1
let lastX: i32 = 0
let lastY: i32 = 0
let lastZ: i32 = 0
let lastA: i32 = 0
let lastS: i32 = -1
let lastSpeed: f32 = -1

/** Where memory is free for the caller. */
export function freeFrom(): usize {
  return __heap_base
}

/** The longest line that a move can make. */
export function lineRoom(): i32 {
  return 96
}

/**
 * Writes moves as lines, words left out where they do not change.
 * @param x,y ends of the moves, µm (i32) @param s beam (u16) @param speed mm/s (f32), 0 a rapid
 * @param out room for count × lineRoom() bytes @returns bytes written
 */
export function write(count: i32, x: i32, y: i32, s: i32, speed: i32, out: i32): i32 {
  return lines(count, x, y, 0, 0, s, speed, out)
}

/** The same for moves that lift and turn. @param z µm (i32) @param a thousandths of a degree (i32) */
export function writeAll(count: i32, x: i32, y: i32, z: i32, a: i32, s: i32, speed: i32, out: i32): i32 {
  return lines(count, x, y, z, a, s, speed, out)
}

// @ts-expect-error: decorator
function lines(count: i32, x: i32, y: i32, z: i32, a: i32, s: i32, speed: i32, out: i32): i32 {
  let at = out
  for (let i = 0; i < count; i++) {
    const v = load<f32>(speed + 4 * i)
    const now = v === 0 ? 0 : 1
    if (now !== mode) {
      store<u8>(at, 71) // G
      store<u8>(at, <u8>(48 + now), 1)
      at += 2
      mode = now
    }
    const cx = load<i32>(x + 4 * i)
    if (cx !== lastX) {
      store<u8>(at, 88) // X
      at = thousandthsOf(at + 1, cx)
      lastX = cx
    }
    const cy = load<i32>(y + 4 * i)
    if (cy !== lastY) {
      store<u8>(at, 89) // Y
      at = thousandthsOf(at + 1, cy)
      lastY = cy
    }
    if (z !== 0) {
      const cz = load<i32>(z + 4 * i)
      if (cz !== lastZ) {
        store<u8>(at, 90) // Z
        at = thousandthsOf(at + 1, cz)
        lastZ = cz
      }
      const ca = load<i32>(a + 4 * i)
      if (ca !== lastA) {
        store<u8>(at, 65) // A
        at = thousandthsOf(at + 1, ca)
        lastA = ca
      }
    }
    if (now === 1) {
      const beam = <i32>load<u16>(s + 2 * i)
      if (beam !== lastS) {
        store<u8>(at, 83) // S
        at = whole(at + 1, <u32>beam)
        lastS = beam
      }
      if (v !== lastSpeed) {
        store<u8>(at, 70) // F
        at = thousandths(at + 1, <u32>nearest(<f64>v * 60 * 1000))
        lastSpeed = v
      }
    }
    store<u8>(at++, 10)
  }
  return at - out
}

function whole(start: i32, value: u32): i32 {
  let digits = 1
  for (let v = value; v >= 10; v /= 10) digits++
  let v = value
  for (let at = start + digits - 1; at >= start; at--) {
    const q = v / 10
    store<u8>(at, <u8>(48 + v - q * 10))
    v = q
  }
  return start + digits
}

function thousandthsOf(start: i32, value: i32): i32 {
  if (value >= 0) return thousandths(start, <u32>value)
  store<u8>(start, 45)
  return thousandths(start + 1, <u32>-value)
}

/** Thousandths as a decimal number without trailing zeros. */
function thousandths(start: i32, value: u32): i32 {
  const units = value / 1000
  let at = whole(start, units)
  let part = value - units * 1000
  if (part === 0) return at
  store<u8>(at++, 46)
  const tenths = part / 100
  store<u8>(at++, <u8>(48 + tenths))
  part -= tenths * 100
  if (part === 0) return at
  const hundredths = part / 10
  store<u8>(at++, <u8>(48 + hundredths))
  part -= hundredths * 10
  if (part === 0) return at
  store<u8>(at++, <u8>(48 + part))
  return at
}
