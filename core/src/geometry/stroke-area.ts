import { growRaw } from './clip.ts'
import { rawOffset } from './raw-offset.ts'
import { type Ring, reversed, thereAndBack } from './ring.ts'

/** How a stroke ends, and how it goes around its corners (SVG 1.1, 11.4). */
export interface StrokeEnds {
  /** Absent: as round as it is wide. `butt`: it ends where its line does. */
  readonly cap?: 'butt' | 'square'
  /** Absent: round. `mitre`: pointed, as long as the limit lets it be. */
  readonly join?: 'mitre' | 'bevel'
  /** How many times as long as the stroke is wide a point may be. */
  readonly mitreLimit?: number
}

/**
 * The area that strokes along lines cover. @param lines polylines, mm; one that ends where it begins is closed
 * @param halfMm half of their width @returns rings in mm, outer ones against holes
 */
export function strokeArea(lines: readonly Ring[], halfMm: number, { cap, join, mitreLimit = 4 }: StrokeEnds = {}): Ring[] {
  if (!(halfMm > 0) || lines.length === 0) return []
  const reachMm = halfMm * Math.max(2, join === 'mitre' ? mitreLimit : 0)
  return growRaw(lines, halfMm, reachMm, (line, half, tolerance) => {
    const corner = { join: join ?? 'round', limit: mitreLimit, over: 'bevel' } as const
    const plain = withoutDoubles(line)
    const n = plain.length
    // A point: a dot, or a square, or nothing.
    if (n < 4) return dotOf(plain, half, cap, tolerance)
    if (n >= 8 && plain[0] === plain[n - 2] && plain[1] === plain[n - 1]) {
      const ring = plain.subarray(0, n - 2)
      return [
        rawOffset(ring, half, corner.join, tolerance, corner),
        rawOffset(reversed(ring), half, corner.join, tolerance, corner),
      ]
    }
    const open = cap === 'square' ? longer(plain, half) : plain
    const last = n / 2 - 1
    const ends = (i: number): 'bevel' | 'round' | undefined =>
      i === 0 || i === last ? (cap === undefined ? 'round' : 'bevel') : undefined
    return [rawOffset(thereAndBack(open), half, corner.join, tolerance, { ...corner, ends })]
  })
}

/** A line without places that are where the one before is. */
function withoutDoubles(line: Ring): Ring {
  const out = new Float64Array(line.length)
  let n = 0
  for (let i = 0; i < line.length; i += 2) {
    if (n > 0 && out[n - 2] === line[i] && out[n - 1] === line[i + 1]) continue
    out[n++] = line[i]
    out[n++] = line[i + 1]
  }
  return out.subarray(0, n)
}

/** What a stroke without a length is: its caps alone (SVG 1.1, 11.4). */
function dotOf([x, y]: Ring, half: number, cap: StrokeEnds['cap'], tolerance: number): Ring[] {
  if (cap === 'butt') return []
  if (cap === 'square') return [Float64Array.of(x - half, y - half, x + half, y - half, x + half, y + half, x - half, y + half)]
  const steps = Math.max(8, Math.ceil(Math.PI / Math.acos(Math.max(0, 1 - tolerance / half))))
  return [
    Float64Array.from({ length: 2 * steps }, (_, i) => {
      const angle = (2 * Math.PI * (i >> 1)) / steps
      return Math.round(i % 2 === 0 ? x + half * Math.cos(angle) : y + half * Math.sin(angle))
    }),
  ]
}

/** A line half a width longer at both ends. */
function longer(line: Ring, half: number): Ring {
  const out = line.slice()
  const n = out.length
  const pull = (end: number, next: number): void => {
    const [dx, dy] = [line[end] - line[next], line[end + 1] - line[next + 1]]
    const long = Math.hypot(dx, dy) || 1
    out[end] = Math.round(line[end] + (dx * half) / long)
    out[end + 1] = Math.round(line[end + 1] + (dy * half) / long)
  }
  pull(0, 2)
  pull(n - 2, n - 4)
  return out
}
