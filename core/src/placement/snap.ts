import type { Bounds } from '../geometry/bounds.ts'

/** A line that is drawn to what something snapped to, mm of the face. */
export interface SnapLine {
  readonly x0: number
  readonly y0: number
  readonly x1: number
  readonly y1: number
  /** One of gaps that are alike. */
  readonly isGap?: boolean
}

export interface Snap {
  /** What is added to the way that something was moved, mm. */
  readonly dx: number
  readonly dy: number
  readonly lines: readonly SnapLine[]
}

interface Candidate {
  /** How far something must move along one axis to lie there. */
  readonly by: number
  readonly lines: (moved: Bounds) => SnapLine[]
}

/** What boxes snap to: the sides and the middle of each other, the face's own, and gaps that are alike. */
export interface SnapTargets {
  /** The box around the workpiece's face. */
  readonly face: Bounds
  /** Boxes around what stays. */
  readonly others: readonly Bounds[]
  /** A margin to the face's edge that something keeps already, mm. */
  readonly marginMm?: number
}

/**
 * Where a box that is moved comes to lie exactly: of everything within reach the nearest, for each axis by itself.
 * @param box as it was moved @param reachMm how near is meant
 */
export function snapped(box: Bounds, targets: SnapTargets, reachMm: number): Snap {
  const x = nearest(candidates(box, targets), reachMm)
  const flip = ({ x0, y0, x1, y1 }: Bounds): Bounds => ({ x0: y0, y0: x0, x1: y1, y1: x1 })
  const y = nearest(candidates(flip(box), { ...targets, face: flip(targets.face), others: targets.others.map(flip) }), reachMm)
  const [dx, dy] = [x?.by ?? 0, y?.by ?? 0]
  const moved = { x0: box.x0 + dx, y0: box.y0 + dy, x1: box.x1 + dx, y1: box.y1 + dy }
  const back = ({ x0, y0, x1, y1, isGap }: SnapLine): SnapLine => ({ x0: y0, y0: x0, x1: y1, y1: x1, ...(isGap && { isGap }) })
  return { dx, dy, lines: [...(x?.lines(moved) ?? []), ...(y?.lines(flip(moved)).map(back) ?? [])] }
}

function nearest(all: readonly Candidate[], reachMm: number): Candidate | undefined {
  let best: Candidate | undefined
  // The first of those that are as near: the face before others, lines before gaps.
  for (const each of all) if (Math.abs(each.by) <= reachMm && (!best || Math.abs(each.by) < Math.abs(best.by) - 1e-9)) best = each
  return best
}

/** Everything to which a box can come along x. */
function candidates(box: Bounds, { face, others, marginMm }: SnapTargets): Candidate[] {
  const out: Candidate[] = []
  const middle = (b: Bounds): number => (b.x0 + b.x1) / 2
  const upright = (x: number, other: Bounds) => (moved: Bounds) => [
    { x0: x, x1: x, y0: Math.min(moved.y0, other.y0), y1: Math.max(moved.y1, other.y1) },
  ]
  const to = (x: number, from: number, other: Bounds): void => void out.push({ by: x - from, lines: upright(x, other) })
  to(middle(face), middle(box), face)
  to(face.x0, box.x0, face)
  to(face.x1, box.x1, face)
  if (marginMm !== undefined && marginMm > 0) {
    to(face.x0 + marginMm, box.x0, face)
    to(face.x1 - marginMm, box.x1, face)
  }
  for (const other of others) {
    to(middle(other), middle(box), other)
    for (const x of [other.x0, other.x1]) {
      to(x, box.x0, other)
      to(x, box.x1, other)
    }
  }
  // Gaps: between neighbours that lie beside it, and as wide as one that is there already.
  const beside = others.filter((other) => other.y0 < box.y1 && box.y0 < other.y1)
  const gapLine = (from: number, until: number, y: number): SnapLine => ({ x0: from, x1: until, y0: y, y1: y, isGap: true })
  const heightOf = (moved: Bounds): number => (moved.y0 + moved.y1) / 2
  const wide = box.x1 - box.x0
  const lefts = [...beside, { ...face, x1: face.x0 }].filter((other) => other.x1 <= middle(box))
  const rights = [...beside, { ...face, x0: face.x1 }].filter((other) => other.x0 >= middle(box))
  const left = lefts.reduce((most, other) => (other.x1 > most.x1 ? other : most), lefts[0])
  const right = rights.reduce((least, other) => (other.x0 < least.x0 ? other : least), rights[0])
  if (left && right && right.x0 - left.x1 > wide)
    out.push({
      by: (left.x1 + right.x0 - wide) / 2 - box.x0,
      lines: (moved) => [gapLine(left.x1, moved.x0, heightOf(moved)), gapLine(moved.x1, right.x0, heightOf(moved))],
    })
  const row = [...beside].sort((a, b) => a.x0 - b.x0)
  for (let i = 0; i + 1 < row.length; i++) {
    const [a, b] = [row[i], row[i + 1]]
    const gap = b.x0 - a.x1
    if (gap <= 0) continue
    const known = (moved: Bounds): SnapLine => gapLine(a.x1, b.x0, heightOf(moved))
    out.push(
      { by: b.x1 + gap - box.x0, lines: (moved) => [known(moved), gapLine(b.x1, moved.x0, heightOf(moved))] },
      { by: a.x0 - gap - box.x1, lines: (moved) => [known(moved), gapLine(moved.x1, a.x0, heightOf(moved))] },
    )
  }
  return out
}
