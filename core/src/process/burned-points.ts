import type { Ring } from '../geometry/ring.ts'
import { dotOnFace } from '../lineage/field.ts'
import type { Burning } from './process.ts'
import { processOf } from './table.ts'

/** So many places of an operation are looked at. */
const MOST_PLACES = 6000

/** Places that an operation burns, spread over all that it does: corners of its paths, marks of its rows. @returns x, y pairs, face mm */
export function burnedPoints(context: Burning): Float64Array {
  const process = processOf(context.operation)
  const made = process.dots?.(context)
  if (!made) return spread(process.framed(context))
  const { field, marks } = made
  const { levels, columns, rows } = marks
  const step = Math.max(1, Math.floor(Math.sqrt((columns * rows) / MOST_PLACES)))
  const out: number[] = []
  for (let r = 0; r < rows; r += r === rows - 1 ? 1 : Math.min(step, rows - 1 - r)) {
    let last = -1
    for (let c = 0; c < columns; c++) {
      if (levels[r * columns + c] === 0) continue
      // The first and the last mark of a row, and some in between.
      if (last < 0 || c - last >= step) {
        out.push(...dotOnFace(field, c, r))
        last = c
      }
    }
    let end = columns - 1
    while (end >= 0 && levels[r * columns + end] === 0) end--
    if (end > last) out.push(...dotOnFace(field, end, r))
  }
  return Float64Array.from(out)
}

/** Places along rings: their corners, and places between corners that lie far apart. */
function spread(rings: readonly Ring[]): Float64Array {
  const long = rings.reduce((sum, ring) => sum + ring.length / 2, 0)
  const out: number[] = []
  const each = Math.max(1, Math.ceil(long / MOST_PLACES))
  for (const ring of rings) {
    for (let i = 0; i < ring.length; i += 2 * each) {
      const j = (i + 2) % ring.length
      const parts = Math.max(1, Math.min(100, Math.ceil(Math.hypot(ring[j] - ring[i], ring[j + 1] - ring[i + 1]) / 2)))
      for (let k = 0; k < parts; k++)
        out.push(ring[i] + ((ring[j] - ring[i]) * k) / parts, ring[i + 1] + ((ring[j + 1] - ring[i + 1]) * k) / parts)
    }
  }
  return Float64Array.from(out)
}
