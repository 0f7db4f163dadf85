// The kernel of tracing: isolines of a picture, and each of them as a path. Compiled to `core/src/kernels/outline.ts`.
import { findCorners, placeCorner, setSideNoise } from './corners'
import {
  beginPath,
  fitStretch,
  pieceBytes,
  pieceCount,
  setGrainy,
  setTangentReach,
  settle,
  tangentAt,
  tangentX,
  tangentY,
} from './fit'
import { px, py, wrap } from './points'

export { beginIsolines, countCracks, isolines } from './isoline'

/** Where memory is free for the caller. */
export function freeFrom(): usize {
  return __heap_base
}

/** Bytes of working room that `outline` needs for a line of n points. */
export function workBytes(n: i32): i32 {
  return 64 * n + 256
}

/** Bytes of the points that the last `outline` wrote. */
export function outlineBytes(): i32 {
  return pieceBytes
}

/** Twice the signed area inside a line, px². */
export function twiceArea(line: i32, n: i32): f64 {
  let sum: f64 = 0
  let x = px(line, n - 1)
  let y = py(line, n - 1)
  for (let i = 0; i < n; i++) {
    const u = px(line, i)
    const v = py(line, i)
    sum += x * v - u * y
    x = u
    y = v
  }
  return sum
}

/** How many places of a line tell its noise. */
const NOISE_PICKS: i32 = 61
const SHORT_PICKS: i32 = 25
const picked: i32 = <i32>memory.data(8 * NOISE_PICKS, 8)

/** An edge without soft pixels says only where it is to half a pixel: its steps are 1/√12 px off, at most ½. */
const STEPPED: f64 = 0.2887
const STEPPED_MAX: f64 = 0.6

/** From here on, px, places are averaged over more of their neighbours. */
const GRAINY: f64 = 0.028
const VERY_GRAINY: f64 = 0.09

/** Whether most of a line lies exactly on the borders of pixels: it comes from a picture without soft edges. */
function isStepped(line: i32, n: i32): bool {
  let exact = 0
  const picks = min(n, 2 * NOISE_PICKS)
  for (let k = 0; k < picks; k++) {
    const i = (k * n) / picks
    const x = px(line, i)
    const y = py(line, i)
    if (x === Math.floor(x) || y === Math.floor(y)) exact++
  }
  return 10 * exact > 9 * picks
}

/** Places so far apart along a line hardly share a pixel, and so no error. */
const APART: i32 = 3

/** How far a place lies off the middle of the two that are as far before and behind it. */
function bendAt(line: i32, n: i32, i: i32): f64 {
  const a = wrap(i - APART, n)
  const c = wrap(i + APART, n)
  const dx = px(line, c) - px(line, a)
  const dy = py(line, c) - py(line, a)
  const length = sqrt(dx * dx + dy * dy)
  return length > 0 ? ((px(line, i) - px(line, a)) * dy - (py(line, i) - py(line, a)) * dx) / length : 0
}

/** By how much the bend at a place is another one than on both sides of it. */
function bendOffAt(line: i32, n: i32, i: i32): f64 {
  const beside = bendAt(line, n, wrap(i + APART + 1, n)) + bendAt(line, n, wrap(i - APART - 1, n))
  return abs(bendAt(line, n, i) - beside / 2)
}

/** A line of fewer places bends too much from one to the next but one for its bends to tell of noise. */
const SHORT: i32 = 160

/** The third difference of four neighbours across their way, which no smooth curve has, however it bends. */
function thirdAt(line: i32, n: i32, a: i32): f64 {
  const b = wrap(a + 1, n)
  const c = wrap(a + 2, n)
  const d = wrap(a + 3, n)
  const x = px(line, d) - 3 * px(line, c) + 3 * px(line, b) - px(line, a)
  const y = py(line, d) - 3 * py(line, c) + 3 * py(line, b) - py(line, a)
  const tx = px(line, d) - px(line, a)
  const ty = py(line, d) - py(line, a)
  const length = sqrt(tx * tx + ty * ty)
  return length > 0 ? abs(x * ty - y * tx) / length : 0
}

/**
 * Standard deviation of a line's points off a smooth curve, px: by how much the bend at a place differs from the mean of those before and behind
 * it, which no smooth curve does. The median of many, so that corners do not count; 0.6745 makes a deviation of a median, 1.5 is what nine places
 * with independent errors make of theirs, √20 what third differences do.
 */
function noiseOf(line: i32, n: i32): f64 {
  if (n < 24) return 0
  const isShort = n < SHORT
  const picks = min(n, isShort ? SHORT_PICKS : NOISE_PICKS)
  for (let k = 0; k < picks; k++) {
    const i = (k * n) / picks
    const found = isShort ? thirdAt(line, n, i) : bendOffAt(line, n, i)
    let at = k
    for (; at > 0 && load<f64>(picked + 8 * at - 8) > found; at--) store<f64>(picked + 8 * at, load<f64>(picked + 8 * at - 8))
    store<f64>(picked + 8 * at, found)
  }
  return load<f64>(picked + 8 * (picks >> 1)) / (0.6745 * (isShort ? sqrt(20.0) : 1.5))
}

/**
 * One isoline as a closed path of lines and cubics.
 * @param tolerance largest distance from the line, px; never below what the line's own noise allows
 * @param limit a turn of more than this is a corner, radians @param work room of `workBytes(n)`
 * @param kinds a byte a piece goes here: 0 line, 1 cubic @param points x, y of the start, then of each piece's points
 * @returns the number of pieces
 */
export function outline(line: i32, n: i32, tolerance: f64, limit: f64, work: i32, kinds: i32, points: i32): i32 {
  const stepped = isStepped(line, n)
  const noise = stepped ? STEPPED : noiseOf(line, n)
  const grainy = !stepped && n >= SHORT && noise > GRAINY
  setTangentReach(stepped ? 14 : grainy ? min(noise > VERY_GRAINY ? 16 : 10, n >> 4) : 5)
  setGrainy(grainy)
  setSideNoise(grainy ? noise : 0)
  const max = Math.max(tolerance, stepped ? STEPPED_MAX : noise * (grainy ? 5.7 : 4))
  const rms = Math.max(tolerance / 3, noise * (grainy ? 1.4 : 1.3))
  const turn = work
  const way = work
  const corners = work + 8 * n + 32
  const places = corners + 4 * n + 16
  const stretch = places + 16 * n + 16
  const m = findCorners(line, n, limit, turn, corners)
  if (m === 0) {
    // A smooth line: opened where it is straightest, with the same tangent on both sides.
    const seam = straightest(line, n)
    copyAround(line, n, seam, n + 1, stretch)
    const reach = min(stepped ? 14 : grainy ? min(16, 6 + (n >> 5)) : 6, (n - 1) >> 1)
    copyAround(line, n, wrap(seam - reach, n), 2 * reach + 1, places)
    tangentAt(places, 2 * reach, reach, 1)
    if (grainy) {
      settle(stretch, 0)
      settle(stretch, n)
    }
    beginPath(px(stretch, 0), py(stretch, 0), kinds, points, way, max, rms)
    fitStretch(stretch, n, tangentX, tangentY, -tangentX, -tangentY)
    return pieceCount
  }
  for (let k = 0; k < m; k++) {
    const here = load<i32>(corners + 4 * k)
    const before = m === 1 ? n : wrap(here - load<i32>(corners + 4 * (k === 0 ? m - 1 : k - 1)), n)
    const after = m === 1 ? n : wrap(load<i32>(corners + 4 * (k === m - 1 ? 0 : k + 1)) - here, n)
    placeCorner(line, n, here, before, after, places + 16 * k)
  }
  beginPath(px(places, 0), py(places, 0), kinds, points, way, max, rms)
  for (let k = 0; k < m; k++) {
    const next = k === m - 1 ? 0 : k + 1
    const from = load<i32>(corners + 4 * k)
    const span = m === 1 ? n : wrap(load<i32>(corners + 4 * next) - from, n)
    const last = between(line, n, from, span, places + 16 * k, places + 16 * next, stretch)
    fitStretch(stretch, last, 0, 0, 0, 0)
  }
  return pieceCount
}

/**
 * The points between two corners, with the corners' true places as ends and without the points they round off.
 * @returns index of the last point
 */
function between(line: i32, n: i32, from: i32, span: i32, a: i32, b: i32, out: i32): i32 {
  const clear: f64 = span > 6 ? 1.44 : 0.16
  const ax = load<f64>(a)
  const ay = load<f64>(a, 8)
  const bx = load<f64>(b)
  const by = load<f64>(b, 8)
  store<f64>(out, ax)
  store<f64>(out, ay, 8)
  let at = out + 16
  for (let k = 1; k < span; k++) {
    const i = wrap(from + k, n)
    const x = px(line, i)
    const y = py(line, i)
    if (k < 4 && (x - ax) * (x - ax) + (y - ay) * (y - ay) < clear) continue
    if (span - k < 4 && (x - bx) * (x - bx) + (y - by) * (y - by) < clear) continue
    store<f64>(at, x)
    store<f64>(at, y, 8)
    at += 16
  }
  store<f64>(at, bx)
  store<f64>(at, by, 8)
  return (at - out) >> 4
}

/** Copies `count` points from `start` on, around the line's end. */
function copyAround(line: i32, n: i32, start: i32, count: i32, out: i32): void {
  const first = min(count, n - start)
  memory.copy(out, line + 16 * start, 16 * first)
  if (count > first) memory.copy(out + 16 * first, line, 16 * (count - first))
}

function straightest(line: i32, n: i32): i32 {
  const w = max(1, min(6, n >> 3))
  let best = Infinity
  let at = 0
  for (let i = 0; i < n; i += max(1, n >> 8)) {
    const a = wrap(i - w, n)
    const c = wrap(i + w, n)
    const x = px(line, a) + px(line, c) - 2 * px(line, i)
    const y = py(line, a) + py(line, c) - 2 * py(line, i)
    const bend = x * x + y * y
    if (bend < best) {
      best = bend
      at = i
    }
  }
  return at
}
