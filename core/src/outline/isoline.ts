import type { InkField } from './ink.ts'

/**
 * One closed line between ink and paper: x, y pairs about a pixel apart, ink on the right hand (outer lines run
 * clockwise on a screen, holes against it). In source pixels, pixel (0,0) spans 0…1.
 */
export type Isoline = Float64Array

/** A step in code values below which neighbours count as the same tone. */
const FLAT = 5
/** Ink and paper must differ by this much before the sum of coverage is trusted. */
const MIN_CONTRAST = 48
/** How many pixels an edge may be blurred over on either side of the crossing. */
const REACH = 3

/**
 * All lines where the ink crosses `level`, to sub-pixel accuracy.
 *
 * Walks the cracks between ink and paper pixels; every crack crosses the line of two pixel centres, where the place is
 * found. Linear interpolation there is biased, since a pixel holds the *area* covered: where tones are flat on both
 * sides, the coverage summed along the dominant axis gives the edge's mean place across that pixel exactly.
 * Saddles are joined by the mean of their four pixels.
 * @param level ink value 0–255 that parts paper (≤) from ink (>)
 */
export function isolines(field: InkField, level: number, progress?: (done: number) => void): Isoline[] {
  const { width, height, ink } = field
  const seen = new Uint8Array(width * height)
  const lines: Isoline[] = []
  let points = new Float64Array(1 << 16)
  for (let y = 1; y < height - 1; y++) {
    if (progress && (y & 255) === 0) progress(y / height)
    const end = (y + 1) * width - 1
    for (let p = y * width + 1; p < end; p++) {
      if (ink[p] <= level || ink[p - width] > level || seen[p] !== 0) continue
      let count = 0
      // Heading: 0 east, 1 south, 2 west, 3 north. `inside` is the ink pixel on the right hand, `outside` on the left.
      let heading = 0
      let inside = p
      let outside = p - width
      do {
        if (heading === 0) seen[inside] = 1
        if (count + 2 > points.length) {
          const larger = new Float64Array(points.length * 2)
          larger.set(points)
          points = larger
        }
        count = crossing(field, level, inside, outside, heading, points, count)
        // The two pixels ahead: right and left of the way.
        const step = heading === 0 ? 1 : heading === 1 ? width : heading === 2 ? -1 : -width
        const right = inside + step
        const left = outside + step
        const rightInk = ink[right] > level
        const leftInk = ink[left] > level
        if (rightInk && !leftInk) {
          inside = right
          outside = left
        } else if (rightInk || (leftInk && ink[inside] + ink[outside] + ink[right] + ink[left] > 4 * level)) {
          // Ink ahead: turn left. The pixel ahead on the left becomes the ink on the right hand.
          inside = left
          heading = (heading + 3) & 3
        } else {
          // Paper ahead: turn right around the same ink pixel.
          outside = right
          heading = (heading + 1) & 3
        }
      } while (inside !== p || heading !== 0 || outside !== p - width)
      lines.push(points.slice(0, count))
    }
  }
  return lines
}

/** Writes the place where the line crosses between two pixels; skips it where the other axis sees the edge better. */
function crossing(
  field: InkField,
  level: number,
  inside: number,
  outside: number,
  heading: number,
  points: Float64Array,
  count: number,
): number {
  const { width, ink } = field
  const step = outside - inside
  const side = step === 1 || step === -1 ? width : 1
  const a = ink[inside]
  const b = ink[outside]
  const along = 2 * (a - b)
  const across = ink[inside + side] - ink[inside - side] + ink[outside + side] - ink[outside - side]
  const steep = across < 0 ? -across : across
  // Edges in the other direction are measured by the cracks of that direction.
  if (steep > along + 2) return count
  let place = (a - level) / (a - b)
  // Walk to flat ground on both sides, adding up the coverage.
  let inner = a
  let m = 0
  let at = inside
  let sum = a
  let flat = false
  while (m <= REACH) {
    const next = ink[at - step] ?? 0
    const rise = next - inner
    if (rise <= FLAT) {
      flat = rise >= -FLAT
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
    sum += b
    flat = false
    while (n <= REACH + 1) {
      const next = ink[at + step] ?? 0
      const fall = outer - next
      if (fall <= FLAT) {
        flat = fall >= -FLAT
        break
      }
      n++
      at += step
      outer = next
      sum += next
    }
    const contrast = inner - outer
    if (flat && contrast >= MIN_CONTRAST && Math.abs(level - (inner + outer) / 2) <= 0.2 * contrast) {
      // Coverage of the pixels −m…n, from the outer border of pixel −m to the edge.
      place = (sum - (m + n + 1) * outer) / contrast - m - 0.5
    }
  }
  const row = (inside / width) | 0
  const column = inside - row * width
  // The border of one pixel is taken off again; centres lie at +0.5.
  let x = column - 0.5
  let y = row - 0.5
  if (heading === 0) y -= place
  else if (heading === 1) x += place
  else if (heading === 2) y += place
  else x -= place
  points[count] = x
  points[count + 1] = y
  return count + 2
}
