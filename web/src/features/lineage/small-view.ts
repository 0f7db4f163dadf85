import { type Bounds, type Ring, ringBounds } from '@neotaxis/core'

/** Artwork so many times as long as it is high is seen in part, so many times nearer at most. */
const LONG = 2.2
const NEAREST = 8
/** Where no part reaches over so much of it, it is made of many small ones: a text, a row of labels, a tiling. */
const SMALL_PARTS = 0.35
/** Of such, a part that is seen smaller than this, px, is looked at so closely that it is this large. */
const DASH_PX = 5
const LEGIBLE_PX = 12
/** So many parts tell how large they are. */
const LOOKED_AT = 400

/** A piece of a plane that is shown: px per mm, and the place that lies in its corner, mm; without one it is shown in the middle. */
interface SmallView {
  readonly scale: number
  readonly from?: readonly [number, number]
}

/**
 * What a small picture of outlines shows: all of it; of what is long, where it begins; of what is made of many small parts, the first
 * of them as large as they can be told. @param room side of the picture, px
 */
export function smallView(rings: readonly Ring[], box: Bounds, room: number): SmallView {
  const [wide, high] = [box.x1 - box.x0, box.y1 - box.y0]
  const longest = Math.max(wide, high, 1e-6)
  const nearer = Math.min(NEAREST, Math.max(1, longest / (LONG * Math.max(Math.min(wide, high), 1e-6))))
  const whole = (nearer * room) / longest
  const parts = rings.length > 6 ? rings.slice(0, LOOKED_AT).map(ringBounds) : []
  const side = ({ x0, y0, x1, y1 }: Bounds): number => Math.max(x1 - x0, y1 - y0)
  const sides = parts.map(side).sort((a, b) => a - b)
  const usual = sides[sides.length >> 1] ?? longest
  if (sides.length === 0 || sides[sides.length - 1] > SMALL_PARTS * longest || usual * whole >= DASH_PX || usual <= 0)
    return { scale: whole, ...(nearer > 1 ? { from: [box.x0, box.y0] as const } : {}) }
  // The first in reading order: the leftmost of the top row.
  const top = Math.min(...parts.map(({ y0 }) => y0))
  const row = parts.filter(({ y0 }) => y0 < top + usual)
  const left = Math.min(...row.map(({ x0 }) => x0))
  return { scale: LEGIBLE_PX / usual, from: [left, top] }
}
