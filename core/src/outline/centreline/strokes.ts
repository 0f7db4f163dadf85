import { CUBIC, type Path } from '../../geometry/path.ts'
import { fitLine } from './fit-line.ts'
import type { Skeleton } from './graph.ts'
import { beyond, type End, type Followed, type Joint, type Overlaps } from './overlaps.ts'

/** A stroke as it was drawn: places in its middle, its corners among them. */
export interface Stroke {
  readonly x: readonly number[]
  readonly y: readonly number[]
  /** Half its width, place by place of those that were seen. */
  readonly half: readonly number[]
  /** Indices of its corners. */
  readonly corners: readonly number[]
  readonly closed: boolean
}

/** Px between places where strokes go on unseen. */
const STEP = 2

const nameOf = ({ line, last }: End): string => `${line} ${last}`

/** Strokes from branches: where two ends are one stroke they are joined, all others end at their knots. */
export function strokes(lines: readonly Followed[], knots: Skeleton['knots'], { joints, gone }: Overlaps): Stroke[] {
  const jointOf = new Map<string, { readonly joint: Joint; readonly other: End }>()
  for (const joint of joints) {
    const [a, b] = joint.ends
    jointOf.set(nameOf(a), { joint, other: b })
    jointOf.set(nameOf(b), { joint, other: a })
  }
  const used = new Set<number>()
  const made: Stroke[] = []
  const walk = (start: End): void => {
    const x: number[] = []
    const y: number[] = []
    const half: number[] = []
    const corners: number[] = []
    let closed = false
    const put = (px: number, py: number): void => {
      x.push(px)
      y.push(py)
    }
    for (let end: End | undefined = start; end; ) {
      const { line, last } = end
      used.add(line)
      const { branch, x: lx, y: ly, half: lh } = lines[line]
      const n = lx.length
      const knotAt = (atLast: boolean) => (atLast ? branch.to : branch.from)
      const trim = (atLast: boolean): number => {
        const found = jointOf.get(nameOf({ line, last: atLast }))
        return found ? beyond(lines[line], atLast, knots[knotAt(atLast)], found.joint.within) : 0
      }
      const [before, after] = [trim(last), trim(!last)]
      if (end === start && !jointOf.has(nameOf(end)) && knotAt(last) >= 0) put(knots[knotAt(last)].x, knots[knotAt(last)].y)
      const from = x.length
      for (let k = before; k < n - after; k++) {
        const i = last ? n - 1 - k : k
        put(lx[i], ly[i])
        half.push(lh[i])
      }
      if (from > 1 && !corners.includes(from - 1)) bridge(x, y, from)
      const out: End = { line, last: !last }
      const next = jointOf.get(nameOf(out))
      if (!next) {
        const knot = knotAt(!last)
        if (knot >= 0) put(knots[knot].x, knots[knot].y)
        break
      }
      if (next.joint.corner) {
        corners.push(x.length)
        put(next.joint.corner.x, next.joint.corner.y)
      }
      if (used.has(next.other.line)) {
        closed = true
        break
      }
      end = next.other
    }
    made.push({ x, y, half, corners, closed })
  }
  lines.forEach(({ branch, x, y, half }, line) => {
    if (gone.has(line)) return
    if (branch.closed) {
      used.add(line)
      made.push({ x: Array.from(x), y: Array.from(y), half: Array.from(half), corners: [], closed: true })
      return
    }
    if (used.has(line)) return
    for (const last of [false, true]) {
      if (used.has(line) || jointOf.has(nameOf({ line, last }))) continue
      walk({ line, last })
    }
  })
  // What is left runs around.
  lines.forEach((_, line) => {
    if (!used.has(line) && !gone.has(line)) walk({ line, last: false })
  })
  return made
}

/** Places between two pieces of one stroke, by a cubic that leaves each as it runs (Hermite). @param at where the second begins */
function bridge(x: number[], y: number[], at: number): void {
  const [ax, ay, bx, by] = [x[at - 1], y[at - 1], x[at], y[at]]
  const gap = Math.hypot(bx - ax, by - ay)
  const count = Math.floor(gap / STEP)
  if (count < 2) return
  const back = Math.max(0, at - 6)
  const ahead = Math.min(x.length - 1, at + 5)
  const towards = (i: number, k: number): readonly [number, number] => {
    const length = Math.hypot(x[k] - x[i], y[k] - y[i]) || 1
    return [(gap * (x[k] - x[i])) / length, (gap * (y[k] - y[i])) / length]
  }
  const [sx, sy] = towards(back, at - 1)
  const [ex, ey] = towards(at, ahead)
  const xs: number[] = []
  const ys: number[] = []
  for (let k = 1; k < count; k++) {
    const t = k / count
    const [h00, h10] = [(1 + 2 * t) * (1 - t) ** 2, t * (1 - t) ** 2]
    const [h01, h11] = [t * t * (3 - 2 * t), t * t * (t - 1)]
    xs.push(h00 * ax + h10 * sx + h01 * bx + h11 * ex)
    ys.push(h00 * ay + h10 * sy + h01 * by + h11 * ey)
  }
  x.splice(at, 0, ...xs)
  y.splice(at, 0, ...ys)
}

/** A stroke as one path: smooth between its corners. */
export function pathOfStroke({ x, y, corners, closed }: Stroke, tolerance: number): Path {
  if (corners.length === 0) return fitLine(x, y, closed, tolerance)
  // Around, it begins at a corner and ends there.
  const turned = (list: readonly number[]): readonly number[] =>
    closed ? [...list.slice(corners[0]), ...list.slice(0, corners[0] + 1)] : list
  const [xs, ys] = [turned(x), turned(y)]
  const inner = closed ? corners.slice(1).map((corner) => corner - corners[0]) : corners
  const cuts = [0, ...inner.filter((corner) => corner > 0 && corner < xs.length - 1), xs.length - 1]
  const kinds: number[] = []
  const points: number[] = []
  for (let i = 1; i < cuts.length; i++) {
    const part = fitLine(xs.slice(cuts[i - 1], cuts[i] + 1), ys.slice(cuts[i - 1], cuts[i] + 1), false, tolerance)
    kinds.push(...Array.from(part.kinds, () => CUBIC))
    points.push(...Array.from(part.points).slice(i === 1 ? 0 : 2))
  }
  return { closed, kinds: Uint8Array.from(kinds), points: Float64Array.from(points) }
}
