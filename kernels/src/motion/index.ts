// The kernel of motion time. Compiled to `core/src/kernels/motion.wasm.ts`; `core/src/motion/time.ts` tells what it works out.

/** One entry a move the machine knows of, in a ring whose size is a power of two above the depth. */
const LENGTH: i32 = 0
const NOMINAL: i32 = 8
const ACC: i32 = 16
/** Square of the speed allowed at the start of the move, by corner and nominal speeds. */
const CORNER: i32 = 24
/** Sum of 2·a·length of all moves before this one. */
const ALONG: i32 = 32
const BURNING: i32 = 40
const SECTION: i32 = 44
const ENTRY: i32 = 48

let maxX: f64 = 0
let maxY: f64 = 0
let accX: f64 = 0
let accY: f64 = 0
let maxZ: f64 = Infinity
let accZ: f64 = Infinity
let maxA: f64 = Infinity
let accA: f64 = Infinity
let deviation: f64 = 0
let depth: i32 = 0

let ring: i32 = 0
let mask: i32 = 0
/** Joints of the window in a queue with rising values of corner + along. */
let queue: i32 = 0
let queueHead: i32 = 0
let queueTail: i32 = 0

let first: i32 = 0
let next: i32 = 0
let sum: f64 = 0
let entry2: f64 = 0
let lastX: i32 = 0
let lastY: i32 = 0
let lastZ: i32 = 0
let lastA: i32 = 0
let lastUx: f64 = 0
let lastUy: f64 = 0
let lastUz: f64 = 0
let lastUa: f64 = 0

// The box around all that is burned, µm.
let boxX0: i32 = i32.MAX_VALUE
let boxY0: i32 = i32.MAX_VALUE
let boxX1: i32 = i32.MIN_VALUE
let boxY1: i32 = i32.MIN_VALUE

/** Left, top, right or bottom (0…3) of what is burned, µm; left is beyond right where nothing is. */
export function burned(side: i32): i32 {
  return side === 0 ? boxX0 : side === 1 ? boxY0 : side === 2 ? boxX1 : boxY1
}

/** Where the time at the end of each move goes (f64), if anybody wants it; seconds since the start. */
let times: i32 = 0
let told: i32 = 0
let clock: f64 = 0

/** From now on the ends of moves are told, from `at` on. */
export function timesInto(at: i32): void {
  times = at
  told = 0
}

/** How many were told since. */
export function timesTold(): i32 {
  return told
}

/** Seconds, mm dark and mm burning of each section (f64). */
let totals: i32 = 0
let section: i32 = 0

/** Where memory is free for the caller. */
export function freeFrom(): usize {
  return __heap_base
}

/** Bytes that `begin` needs: for the ring and the queue. */
export function workBytes(size: i32): i32 {
  return size * (ENTRY + 4) + 64
}

/** @param size power of two of at least depth + 2 @param sums where the totals of sections go, 24 bytes each */
export function begin(
  speedX: f64,
  speedY: f64,
  accelX: f64,
  accelY: f64,
  junction: f64,
  planner: i32,
  size: i32,
  work: i32,
  sums: i32,
): void {
  maxX = speedX
  maxY = speedY
  accX = accelX
  accY = accelY
  deviation = junction
  depth = planner
  mask = size - 1
  ring = work
  queue = work + size * ENTRY
  totals = sums
}

/** What the lens and what turns can do: mm/s and mm/s², degrees/s and degrees/s². */
export function beginAxes(speedZ: f64, accelZ: f64, speedA: f64, accelA: f64): void {
  maxZ = speedZ
  accZ = accelZ
  maxA = speedA
  accA = accelA
}

/** Stands for some seconds, after all moves known are run to rest. */
export function dwell(seconds: f64): void {
  finish()
  clock += seconds
  store<f64>(section, load<f64>(section) + seconds)
}

/** Moves that follow count for section `number`. */
export function beginSection(number: i32): void {
  section = totals + 24 * number
  store<f64>(section, 0)
  store<f64>(section, 0, 8)
  store<f64>(section, 0, 16)
}

function entry(i: i32): i32 {
  return ring + (i & mask) * ENTRY
}

/** @param x,y ends of the moves, µm (i32) @param s beam (u16) @param speed mm/s (f32), 0 a rapid */
export function add(count: i32, x: i32, y: i32, s: i32, speed: i32): void {
  for (let i = 0; i < count; i++)
    addMove(load<i32>(x + 4 * i), load<i32>(y + 4 * i), <i32>load<u16>(s + 2 * i), <f64>load<f32>(speed + 4 * i))
}

/** The same for moves that lift and turn. @param z µm (i32) @param a thousandths of a degree (i32), a degree counts as a mm */
export function addAll(count: i32, x: i32, y: i32, z: i32, a: i32, s: i32, speed: i32): void {
  for (let i = 0; i < count; i++) {
    const cx = load<i32>(x + 4 * i)
    const cy = load<i32>(y + 4 * i)
    const cz = load<i32>(z + 4 * i)
    const ca = load<i32>(a + 4 * i)
    const beam = <i32>load<u16>(s + 2 * i)
    const v = <f64>load<f32>(speed + 4 * i)
    if (cz === lastZ && ca === lastA) addMove(cx, cy, beam, v)
    else addLifted(cx, cy, cz, ca, beam, v)
  }
}

function addLifted(x: i32, y: i32, z: i32, a: i32, s: i32, speed: f64): void {
  const dx = <f64>(x - lastX) * 0.001
  const dy = <f64>(y - lastY) * 0.001
  const dz = <f64>(z - lastZ) * 0.001
  const da = <f64>(a - lastA) * 0.001
  if (s > 0) widenBox(x, y)
  lastX = x
  lastY = y
  lastZ = z
  lastA = a
  if (next - first >= depth) retire()
  const length = sqrt(dx * dx + dy * dy + dz * dz + da * da)
  const ux = dx / length
  const uy = dy / length
  const uz = dz / length
  const ua = da / length
  let top = min(maxX / abs(ux), maxY / abs(uy))
  top = min(top, min(maxZ / abs(uz), maxA / abs(ua)))
  let acc = min(accX / abs(ux), accY / abs(uy))
  acc = min(acc, min(accZ / abs(uz), accA / abs(ua)))
  const wanted = speed > 0 && speed < top ? speed : top
  let corner: f64 = 0
  if (next > 0) {
    const before = entry(next - 1)
    const slower = min(wanted, load<f64>(before, NOMINAL))
    const cos = -(lastUx * ux + lastUy * uy + lastUz * uz + lastUa * ua)
    corner = cornerSpeed2(cos, slower, min(acc, load<f64>(before, ACC)))
  }
  lastUx = ux
  lastUy = uy
  lastUz = uz
  lastUa = ua
  enter(length, wanted, acc, corner, s > 0)
}

// @ts-expect-error: decorator
function widenBox(x: i32, y: i32): void {
  boxX0 = min(boxX0, min(lastX, x))
  boxX1 = max(boxX1, max(lastX, x))
  boxY0 = min(boxY0, min(lastY, y))
  boxY1 = max(boxY1, max(lastY, y))
}

function addMove(x: i32, y: i32, s: i32, speed: f64): void {
  if (x === lastX && y === lastY) return
  const dx = <f64>(x - lastX) * 0.001
  const dy = <f64>(y - lastY) * 0.001
  if (s > 0) widenBox(x, y)
  lastX = x
  lastY = y
  if (next - first >= depth) retire()
  // Axis limits along this direction; rows of pictures run along x.
  let length: f64
  let ux: f64
  let uy: f64 = 0
  let top = maxX
  let acc = accX
  if (dy === 0) {
    length = abs(dx)
    ux = dx < 0 ? -1 : 1
  } else {
    length = sqrt(dx * dx + dy * dy)
    ux = dx / length
    uy = dy / length
    const ax = abs(ux)
    const ay = abs(uy)
    top = ax > 1e-9 ? min(maxX / ax, maxY / ay) : maxY
    acc = ax > 1e-9 ? min(accX / ax, accY / ay) : accY
  }
  const wanted = speed > 0 && speed < top ? speed : top
  let corner: f64 = 0
  if (next > 0) {
    const before = entry(next - 1)
    const slower = min(wanted, load<f64>(before, NOMINAL))
    corner =
      ux === lastUx && uy === lastUy
        ? slower * slower
        : cornerSpeed2(-(lastUx * ux + lastUy * uy), slower, min(acc, load<f64>(before, ACC)))
  }
  lastUx = ux
  lastUy = uy
  lastUz = 0
  lastUa = 0
  enter(length, wanted, acc, corner, s > 0)
}

/** The machine knows of one move more. @param corner square of the speed allowed at its start */
// @ts-expect-error: decorator
function enter(length: f64, wanted: f64, acc: f64, corner: f64, burns: bool): void {
  const at = entry(next)
  store<f64>(at, length, LENGTH)
  store<f64>(at, wanted, NOMINAL)
  store<f64>(at, acc, ACC)
  store<f64>(at, corner, CORNER)
  store<f64>(at, sum, ALONG)
  store<i32>(at, burns ? 1 : 0, BURNING)
  store<i32>(at, section, SECTION)
  // The joint at the start of this move joins the queue.
  const value = corner + sum
  sum += 2 * acc * length
  while (queueTail > queueHead) {
    const back = entry(load<i32>(queue + 4 * ((queueTail - 1) & mask)))
    if (load<f64>(back, CORNER) + load<f64>(back, ALONG) < value) break
    queueTail--
  }
  store<i32>(queue + 4 * (queueTail & mask), next)
  queueTail++
  next++
  if (sum > 1e12) rebase()
}

/** @param cos cosine of the angle between the moves, −1 straight on @param slower speed of the slower move */
function cornerSpeed2(cos: f64, slower: f64, acc: f64): f64 {
  if (cos < -0.999999) return slower * slower
  if (cos > 0.999999) return 0
  const half = sqrt((1 - cos) / 2)
  return min((acc * deviation * half) / (1 - half), slower * slower)
}

/** Runs the oldest move known, with all that the machine knows now. */
function retire(): void {
  const at = entry(first)
  // Its own start is no joint ahead any more.
  if (queueTail > queueHead && load<i32>(queue + 4 * (queueHead & mask)) === first) queueHead++
  const length = load<f64>(at, LENGTH)
  const a = load<f64>(at, ACC)
  const gain = 2 * a * length
  // At rest at the end of the last move known: v² = 0 there.
  let limit = sum
  if (queueTail > queueHead) {
    const ahead = entry(load<i32>(queue + 4 * (queueHead & mask)))
    limit = min(limit, load<f64>(ahead, CORNER) + load<f64>(ahead, ALONG))
  }
  const exit2 = max(0, min(limit - (load<f64>(at, ALONG) + gain), entry2 + gain))
  const v = load<f64>(at, NOMINAL)
  const full = v * v * (1 - 1e-9)
  // Most moves of a row run through at full speed.
  const seconds = entry2 > full && exit2 > full ? length / v : trapezoid(length, entry2, exit2, v, a)
  clock += seconds
  if (times !== 0) store<f64>(times + 8 * told++, clock)
  const total = load<i32>(at, SECTION)
  store<f64>(total, load<f64>(total) + seconds)
  const way = total + (load<i32>(at, BURNING) !== 0 ? 16 : 8)
  store<f64>(way, load<f64>(way) + length)
  entry2 = exit2
  first++
}

function rebase(): void {
  const base = load<f64>(entry(first), ALONG)
  for (let i = first; i < next; i++) store<f64>(entry(i), load<f64>(entry(i), ALONG) - base, ALONG)
  sum -= base
}

/** All moves known so far are run to rest. */
export function finish(): void {
  while (first < next) retire()
}

/** Seconds for a length between two speeds (given as squares) with a top speed and an acceleration. */
function trapezoid(length: f64, start2: f64, end2: f64, top: f64, a: f64): f64 {
  const peak2 = a * length + (start2 + end2) / 2
  const top2 = top * top
  const start = sqrt(start2)
  const end = sqrt(end2)
  if (peak2 <= top2) return (2 * sqrt(peak2) - start - end) / a
  const speeding = (top2 - start2) / (2 * a)
  const slowing = (top2 - end2) / (2 * a)
  return (top - start) / a + (top - end) / a + (length - speeding - slowing) / top
}
