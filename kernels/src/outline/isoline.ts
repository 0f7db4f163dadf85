/** A step in code values below which neighbours count as the same tone. */
const FLAT: i32 = 5
/** Ink and paper must differ by this much before the sum of coverage is trusted. */
const MIN_CONTRAST: i32 = 48
/** How many pixels an edge may be blurred over on either side of the crossing. */
const REACH: i32 = 3

function light(at: i32): i32 {
  return <i32>load<u8>(at)
}

/** How far from the ink pixel's centre towards the paper pixel's the edge lies. */
function crossing(level: f64, inside: i32, outside: i32, step: i32): f64 {
  const a = light(inside)
  const b = light(outside)
  // Walk to flat ground on both sides, adding up the lightness.
  let inner = a
  let m = 0
  let at = inside
  let sum = a + b
  let flat = false
  while (m <= REACH) {
    const next = light(at - step)
    const fall = inner - next
    if (fall <= FLAT) {
      flat = fall >= -FLAT
      break
    }
    m++
    at -= step
    inner = next
    sum += next
  }
  if (flat) {
    let outer = b
    let n = 1
    at = outside
    flat = false
    while (n <= REACH + 1) {
      const next = light(at + step)
      const rise = next - outer
      if (rise <= FLAT) {
        flat = rise >= -FLAT
        break
      }
      n++
      at += step
      outer = next
      sum += next
    }
    const contrast = outer - inner
    if (flat && contrast >= MIN_CONTRAST && abs(level - <f64>(inner + outer) / 2) <= 0.2 * <f64>contrast)
      // Ink in the pixels −m…n, from the outer border of pixel −m to the edge.
      return <f64>((m + n + 1) * outer - sum) / <f64>contrast - <f64>m - 0.5
  }
  return (level - <f64>a) / <f64>(b - a)
}

/**
 * How many cracks lie between ink and paper: no line has a point more than that, and no line takes fewer than four.
 * @param field lightness with a border of paper; rows `stride` bytes apart, a multiple of 16
 */
export function countCracks(field: i32, stride: i32, height: i32, level: f64): i32 {
  const limit = i8x16.splat(<i8>(<i32>Math.ceil(level)))
  let count = 0
  for (let at = field + stride, end = field + stride * height; at < end; at += 16) {
    const here = i8x16.lt_u(v128.load(at), limit)
    const above = i8x16.lt_u(v128.load(at - stride), limit)
    const before = i8x16.lt_u(v128.load(at - 1), limit)
    count += popcnt(i8x16.bitmask(v128.xor(here, above))) + popcnt(i8x16.bitmask(v128.xor(here, before)))
  }
  return count
}

function wasSeen(seen: i32, i: i32): bool {
  return ((<i32>load<u8>(seen + (i >> 3)) >> (i & 7)) & 1) !== 0
}

function see(seen: i32, i: i32): void {
  const at = seen + (i >> 3)
  const bit: i32 = 1 << (i & 7)
  store<u8>(at, <u8>(<i32>load<u8>(at) | bit))
}

/** Bytes of points written so far. */
let pointBytes: i32 = 0

/**
 * All lines that start in rows from…to where the lightness crosses `level`, to sub-pixel accuracy.
 *
 * Walks the cracks between ink and paper pixels; every crack crosses the line of two pixel centres, where the place is
 * found. Linear interpolation there is biased, since a pixel holds the *area* covered: where tones are flat on both
 * sides, the coverage summed along the dominant axis gives the edge's mean place across that pixel exactly.
 * Saddles are joined by the mean of their four pixels.
 *
 * @param field lightness, 255 paper, with a border of paper; rows `stride` bytes apart, a multiple of 16
 * @param seen a bit for each of its bytes, all 0 at the first call @param out where x, y pairs (f64) go
 * @param ends where the end of every line goes (i32, bytes from `out`) @param lines number of lines found before
 * @param level lightness that parts ink (below) from paper
 * @returns number of lines now
 */
export function isolines(
  field: i32,
  stride: i32,
  width: i32,
  height: i32,
  from: i32,
  to: i32,
  level: f64,
  seen: i32,
  out: i32,
  ends: i32,
  lines: i32,
): i32 {
  // Whole numbers compare quicker, and say the same of whole lightnesses.
  const paper = <i32>Math.ceil(level)
  const paper4 = <i32>Math.ceil(4 * level)
  const limit = i8x16.splat(<i8>paper)
  let at = out + pointBytes
  for (let y = from; y < to; y++) {
    const row = field + y * stride
    for (let x = 0; x < stride; x += 16) {
      const here = v128.load(row + x)
      const above = v128.load(row + x - stride)
      // A line starts at a crack with paper above and ink below.
      let starts = i8x16.bitmask(v128.and(i8x16.lt_u(here, limit), i8x16.ge_u(above, limit)))
      while (starts !== 0) {
        const k = ctz(starts)
        starts &= starts - 1
        const start = row + x + k
        if (wasSeen(seen, start - field)) continue
        // Heading: 0 east, 1 south, 2 west, 3 north. `inside` is the ink pixel on the right hand, paper on the left.
        let heading = 0
        let inside = start
        let cy = y
        let cx = x + k
        let skipped = 0
        do {
          if (heading === 0) see(seen, inside - field)
          const toLeft = (heading + 3) & 3
          const dlx = (1 - toLeft) * (1 - (toLeft & 1))
          const dly = (2 - toLeft) * (toLeft & 1)
          const dx = (1 - heading) * (1 - (heading & 1))
          const dy = (2 - heading) * (heading & 1)
          const step = dlx + dly * stride
          const ahead = dx + dy * stride
          const outside = inside + step
          const a = light(inside)
          const b = light(outside)
          const right = light(inside + ahead)
          const left = light(outside + ahead)
          const across = right - light(inside - ahead) + left - light(outside - ahead)
          // An edge that runs far more in the other direction is measured by the cracks of that direction. Along a diagonal of a
          // soft edge neither direction is: then every third crack counts, or the line would have a gap there.
          if (abs(across) <= 3 * (b - a) + 2 || skipped === 2) {
            skipped = 0
            const ox = cx + dlx
            const oy = cy + dly
            // Where the picture itself ends, so does the ink: exactly there, whatever the level.
            const atFrame = ox === 0 || oy === 0 || ox === width - 1 || oy === height - 1
            const place = atFrame ? 0.5 : crossing(level, inside, outside, step)
            // The border of one pixel is taken off again; centres lie at +0.5.
            store<f64>(at, <f64>cx - 0.5 + <f64>dlx * place)
            store<f64>(at, <f64>cy - 0.5 + <f64>dly * place, 8)
            at += 16
          } else skipped++
          if (right < paper && left >= paper) {
            inside += ahead
            cx += dx
            cy += dy
          } else if (right < paper || (left < paper && a + b + right + left < paper4)) {
            // Ink ahead: turn left. The pixel ahead on the left becomes the ink on the right hand.
            inside = outside + ahead
            cx += dx + dlx
            cy += dy + dly
            heading = toLeft
          } else {
            // Paper ahead: turn right around the same ink pixel.
            heading = (heading + 1) & 3
          }
        } while (inside !== start || heading !== 0)
        pointBytes = at - out
        store<i32>(ends + 4 * lines, pointBytes)
        lines++
      }
    }
  }
  return lines
}

/** Begins a new picture. */
export function beginIsolines(): void {
  pointBytes = 0
}
