import { type Bounds, boundsHold } from '../../geometry/bounds.ts'
import { fromEdge } from '../../geometry/edge.ts'
import { type Ring, ringArea, ringBounds, ringContains } from '../../geometry/ring.ts'

/** How a closed cut begins and ends in the waste: straight lines to and from the same corner of it. */
export interface Lead {
  /** The corner of the ring, by its number. */
  readonly start: number
  /** Where the cut begins, mm; absent: at the corner. */
  readonly into?: readonly [number, number]
  /** Where it ends. */
  readonly out?: readonly [number, number]
}

/** Rings of one operation, and which side of them is waste. */
export interface CutRings {
  readonly rings: readonly Ring[]
  /** Whether what lies within them (by even-odd) is wanted, else what is around. */
  readonly keepsInside: boolean
}

/** So many corners of a ring are tried. */
const MOST_TRIED = 24
/** A lead that has no room is halved so often. */
const SHORTER = 3
/** It leaves the cut at this angle. */
const AWAY = Math.SQRT1_2
/** Places of a lead that are looked at. */
const SAMPLES = 6

interface Known extends CutRings {
  readonly boxes: readonly Bounds[]
}

/**
 * Leads for closed cuts, each in the waste, clear of all cuts by at least a kerf. Where no corner of a ring has room for a shortened
 * one, it has none. Found by the rings alone, so that forecast and program have the same. @param others cuts of other operations on the sheet
 */
export function leadsFor(
  own: CutRings,
  others: readonly CutRings[],
  { intoMm, outMm, kerfMm }: { readonly intoMm: number; readonly outMm: number; readonly kerfMm: number },
): (Lead | undefined)[] {
  const known = (cut: CutRings): Known => ({ ...cut, boxes: cut.rings.map(ringBounds) })
  const all = [known(own), ...others.map(known)]
  return own.rings.map((ring, index) => {
    for (let k = 0, share = 1; k < SHORTER; k++, share /= 2)
      for (const start of candidates(ring, own.keepsInside)) {
        const lead = leadAt(ring, start, intoMm * share, outMm * share, (x, y) => isWaste(all, x, y))
        if (lead && isClear(all, index, ring, lead, kerfMm)) return lead
      }
    return undefined
  })
}

/** Corners to begin at: those that stand out into the waste first, then others all around. */
function candidates(ring: Ring, keepsInside: boolean): number[] {
  const n = ring.length / 2
  const way = (ringArea(ring) > 0 ? 1 : -1) * (keepsInside ? 1 : -1)
  const turn = (i: number): number => {
    const [a, b, c] = [2 * ((i + n - 1) % n), 2 * i, 2 * ((i + 1) % n)]
    const [ux, uy] = [ring[b] - ring[a], ring[b + 1] - ring[a + 1]]
    const [vx, vy] = [ring[c] - ring[b], ring[c + 1] - ring[b + 1]]
    return Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy) * way
  }
  const step = Math.max(1, Math.floor(n / MOST_TRIED))
  const some = Array.from({ length: Math.ceil(n / step) }, (_, k) => k * step)
  return some
    .map((i) => ({ i, turn: turn(i) }))
    .sort((p, q) => q.turn - p.turn || p.i - q.i)
    .map(({ i }) => i)
}

/** The lead at a corner, on the side that is waste; undefined where neither side is. */
function leadAt(
  ring: Ring,
  start: number,
  intoMm: number,
  outMm: number,
  waste: (x: number, y: number) => boolean,
): Lead | undefined {
  const n = ring.length / 2
  const at = (i: number): readonly [number, number] => [ring[2 * ((i + n) % n)], ring[2 * ((i + n) % n) + 1]]
  const [px, py] = at(start)
  const unit = (dx: number, dy: number): readonly [number, number] => {
    const long = Math.hypot(dx, dy) || 1
    return [dx / long, dy / long]
  }
  const [nx, ny] = at(start + 1)
  const [bx, by] = at(start - 1)
  const [ux, uy] = unit(nx - px, ny - py)
  const [vx, vy] = unit(px - bx, py - by)
  for (const side of [1, -1]) {
    const into: readonly [number, number] = [px + intoMm * AWAY * (-ux - side * uy), py + intoMm * AWAY * (-uy + side * ux)]
    const out: readonly [number, number] = [px + outMm * AWAY * (vx - side * vy), py + outMm * AWAY * (vy + side * vx)]
    if ((intoMm === 0 || waste(...into)) && (outMm === 0 || waste(...out)))
      return { start, ...(intoMm > 0 ? { into } : {}), ...(outMm > 0 ? { out } : {}) }
  }
  return undefined
}

/** Whether a place is waste for every operation that cuts the sheet. */
const isWaste = (all: readonly Known[], x: number, y: number): boolean =>
  all.every(({ rings, boxes, keepsInside }, i) => {
    const inside = rings.reduce((odd, ring, k) => odd !== (boundsHold(boxes[k], x, y) && ringContains(ring, x, y)), false)
    // Parts of another operation are kept; what its stencil opens may be cut into.
    return keepsInside ? !inside : inside || i > 0
  })

/** Whether a lead stays in the waste, and away from every cut but its own corner. */
function isClear(all: readonly Known[], index: number, ring: Ring, { start, into, out }: Lead, kerfMm: number): boolean {
  const [px, py] = [ring[2 * start], ring[2 * start + 1]]
  for (const end of [into, out]) {
    if (!end) continue
    const long = Math.hypot(end[0] - px, end[1] - py)
    for (let k = 1; k <= SAMPLES; k++) {
      const share = k / SAMPLES
      const [x, y] = [px + (end[0] - px) * share, py + (end[1] - py) * share]
      if (!isWaste(all, x, y)) return false
      // The corner itself is near its own ring: from there on it goes away from it.
      const own = Math.min(kerfMm, 0.5 * long * share)
      for (const [i, { rings, boxes }] of all.entries())
        for (const [k2, other] of rings.entries()) {
          const clear = i === 0 && k2 === index ? own : kerfMm
          if (boundsHold(boxes[k2], x, y, clear) && fromEdge([other], x, y) < clear - 1e-6) return false
        }
    }
  }
  return true
}
