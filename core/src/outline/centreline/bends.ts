import type { Skeleton } from './graph.ts'
import type { Followed } from './overlaps.ts'

/** Half widths before and after a place over which a stroke's direction is taken, and px more. */
const SPAN = 1.6
const MORE = 3
/** A stroke that turns by more than this within them has a corner there, degrees. */
const TURN_DEG = 95

/**
 * Lines parted where they bend sharply: two strokes that meet there, whose tip was thinned away. Each such place is a knot of its own,
 * where two ends meet.
 */
export function partedAtBends(
  lines: readonly Followed[],
  knots: Skeleton['knots'],
): { readonly lines: readonly Followed[]; readonly knots: Skeleton['knots'] } {
  const all = [...knots]
  const parted = lines.flatMap((line): Followed[] => {
    const { branch, x, y, half } = line
    const cuts = bendsOf(line)
    if (cuts.length === 0) return [line]
    const at = cuts.map((i) => {
      all.push({ x: x[i], y: y[i], pixels: [branch.pixels[Math.min(branch.pixels.length - 1, i)]] })
      return all.length - 1
    })
    const part = (from: number, to: number, start: number, end: number): Followed => {
      const slice = (list: Float64Array): Float64Array =>
        to > from ? list.slice(from, to + 1) : Float64Array.from([...list.slice(from), ...list.slice(0, to + 1)])
      return {
        branch: { from: start, to: end, pixels: branch.pixels, closed: false },
        x: slice(x),
        y: slice(y),
        half: slice(half),
      }
    }
    if (branch.closed) return cuts.map((cut, k) => part(cut, cuts[(k + 1) % cuts.length], at[k], at[(k + 1) % cuts.length]))
    const marks = [0, ...cuts, x.length - 1]
    const names = [branch.from, ...at, branch.to]
    return marks.slice(1).map((mark, k) => part(marks[k], mark, names[k], names[k + 1]))
  })
  return { lines: parted, knots: all }
}

/** Where a line turns most, and sharply. */
function bendsOf({ branch: { closed }, x, y, half }: Followed): number[] {
  const n = x.length
  const found: { readonly i: number; readonly turn: number; readonly reach: number }[] = []
  for (let i = 0; i < n; i++) {
    const reach = Math.ceil(SPAN * half[i] + MORE)
    if (2 * reach >= n || (!closed && (i < reach || i >= n - reach))) continue
    const [a, b] = [(i - reach + n) % n, (i + reach) % n]
    const [ux, uy, vx, vy] = [x[i] - x[a], y[i] - y[a], x[b] - x[i], y[b] - y[i]]
    const turn = Math.acos(Math.min(1, Math.max(-1, (ux * vx + uy * vy) / (Math.hypot(ux, uy) * Math.hypot(vx, vy) || 1))))
    if (turn > (TURN_DEG * Math.PI) / 180) found.push({ i, turn, reach })
  }
  // Of neighbours the sharpest.
  const kept: number[] = []
  for (const { i, reach } of found.sort((p, q) => q.turn - p.turn)) {
    const apart = (k: number): number => (closed ? Math.min(Math.abs(k - i), n - Math.abs(k - i)) : Math.abs(k - i))
    if (kept.every((k) => apart(k) > 2 * reach)) kept.push(i)
  }
  return kept.sort((p, q) => p - q)
}
