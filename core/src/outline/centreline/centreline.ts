import type { Path } from '../../geometry/path.ts'
import type { GreyPicture } from '../../picture/picture.ts'
import { type Channel, opacityAsInk } from '../ink.ts'
import { partedAtBends } from './bends.ts'
import { squaredDistances } from './distance.ts'
import { merged, pruned, skeletonGraph } from './graph.ts'
import { type Followed, overlaps, throughCap } from './overlaps.ts'
import { fillPinholes } from './pinholes.ts'
import { lightAt, middles, pixelLight } from './refine.ts'
import { pathOfStroke, strokes } from './strokes.ts'
import { thin } from './thin.ts'

export interface CentrelineOptions {
  /** Lightness 0–1 below which a pixel is ink; for alpha, opacity above which it is. */
  readonly threshold: number
  readonly channel: Channel
  /** Largest distance of the curves from the middle of the stroke, px. */
  readonly tolerancePx: number
  /** Lines shorter than this are dropped, px. */
  readonly minLengthPx: number
  /** Called now and then with the share done 0–1; may throw to cancel. */
  readonly progress?: (done: number) => void
}

/** A line in the middle of a stroke, and how wide the stroke is on average, px. */
export interface Centreline {
  readonly path: Path
  readonly widthPx: number
}

/** A free branch shorter than this many half widths of the stroke it leaves is a rough edge or a corner. */
const SPUR = 1.7
/** From this slope on, over so many pixels, a stroke's end is its cap and no taper. */
const CAP_SLOPE = 0.45
const CAP_STEP = 3
/** Knots nearer to each other than this many half widths are one: a crossing of wide strokes. */
const ONE_KNOT = 1

/**
 * Picture → lines in the middle of its strokes, as open paths (closed ones for rings) of cubics in source pixels: thinned by
 * distance, spurs pruned, knots kept, every place moved to the middle between both edges, then fitted.
 */
export function centreline(whole: GreyPicture, options: CentrelineOptions): Centreline[] {
  const { threshold, channel, tolerancePx, minLengthPx, progress } = options
  if (!(threshold > 0 && threshold < 1)) throw new RangeError(`The threshold lies between 0 and 1, not ${threshold}.`)
  const picture = channel === 'alpha' ? opacityAsInk(whole) : whole
  const level = 255 * (channel === 'alpha' ? 1 - threshold : threshold)
  // A border without ink all around, so that nothing needs to look where the picture ends.
  const width = picture.widthPx + 2
  const height = picture.heightPx + 2
  const ink = new Uint8Array(width * height)
  for (let y = 0; y < picture.heightPx; y++)
    for (let x = 0; x < picture.widthPx; x++) if (pixelLight(picture, x, y) < level) ink[(y + 1) * width + x + 1] = 1
  const lightOf = (i: number): number => pixelLight(picture, (i % width) - 1, Math.floor(i / width) - 1)
  fillPinholes(ink, width, lightOf, level)
  progress?.(0.1)
  const distances = squaredDistances(ink, width, height)
  progress?.(0.3)
  thin(ink, width, distances, progress && ((done) => progress(0.3 + 0.4 * done)))
  const reach = (i: number): number => Math.sqrt(distances[i])
  const skeleton = pruned(merged(skeletonGraph(ink, width), reach, ONE_KNOT), reach, SPUR, (stem, arms, knot) =>
    mayBeTip(stem, arms, knot, reach, width),
  )
  const { branches } = skeleton
  // Knots in pixels of the picture, without the border.
  const knots = skeleton.knots.map(({ x, y, pixels }) => ({ x: x - 1, y: y - 1, pixels }))
  const followed: Followed[] = []
  branches.forEach((branch, i) => {
    if ((i & 63) === 0) progress?.(0.7 + (0.2 * i) / branches.length)
    const { from, to, pixels, closed } = branch
    const kept = closed ? pixels : capped(pixels, from < 0, to < 0, reach)
    const xs = Float64Array.from(kept, (p) => (p % width) - 0.5)
    const ys = Float64Array.from(kept, (p) => Math.floor(p / width) - 0.5)
    const near = (x: number, y: number): number => reach(Math.floor(y + 1) * width + Math.floor(x + 1))
    const middle = middles(picture, xs, ys, closed, level, near)
    if (!closed && from < 0) throughCap(middle, false)
    if (!closed && to < 0) throughCap(middle, true)
    followed.push({ branch: { ...branch, pixels: kept as number[] }, ...middle })
  })
  const lines: Centreline[] = []
  const parted = partedAtBends(followed, knots)
  const isInk = (x: number, y: number): boolean => lightAt(picture, x, y) < level
  const all = strokes(parted.lines, parted.knots, overlaps(parted.lines, parted.knots, reach, isInk))
  all.forEach((stroke, i) => {
    if ((i & 63) === 0) progress?.(0.9 + (0.1 * i) / all.length)
    const { x, y, half } = stroke
    if (x.length < 2 || half.length < 2) return
    let length = 0
    for (let k = 1; k < x.length; k++) length += Math.hypot(x[k] - x[k - 1], y[k] - y[k - 1])
    if (length < minLengthPx) return
    const widthPx = (2 * half.reduce((sum, h) => sum + h, 0)) / half.length
    lines.push({ path: pathOfStroke(stroke, tolerancePx), widthPx })
  })
  return lines
}

/** Strokes that leave a knot nearer to each other than this may have a tip there, degrees. */
const TIP_DEG = 90
/** Half widths over which a direction is taken, from one half width on. */
const TIP_SPAN = 3

/** Whether a short line may be the tip of two strokes that meet at a sharp angle, and no rough edge: it goes on between them. */
function mayBeTip(
  stem: readonly number[],
  arms: readonly (readonly number[])[],
  knot: { readonly x: number; readonly y: number },
  reach: (pixel: number) => number,
  width: number,
): boolean {
  if (arms.length !== 2) return false
  const wide = reach(stem[0])
  const way = (pixels: readonly number[], from: number, to: number): readonly [number, number] | undefined => {
    const [i, k] = [Math.min(pixels.length - 1, Math.round(from)), Math.min(pixels.length - 1, Math.round(to))]
    if (k - i < 3) return undefined
    const dx = (pixels[k] % width) - (pixels[i] % width)
    const dy = Math.floor(pixels[k] / width) - Math.floor(pixels[i] / width)
    const length = Math.hypot(dx, dy) || 1
    return [dx / length, dy / length]
  }
  const [a, b] = arms.map((pixels) => way(pixels, wide, TIP_SPAN * wide))
  if (!a || !b) return false
  const end = stem[stem.length - 1]
  const [sx, sy] = [(end % width) + 0.5 - knot.x, Math.floor(end / width) + 0.5 - knot.y]
  const length = Math.hypot(sx, sy) || 1
  const cosine = a[0] * b[0] + a[1] * b[1]
  const [mx, my] = [a[0] + b[0], a[1] + b[1]]
  const along = -(sx * mx + sy * my) / (length * (Math.hypot(mx, my) || 1))
  return cosine > Math.cos((TIP_DEG * Math.PI) / 180) && (along > 0.5 || stem.length < 4)
}

/** A branch without the pixels in the caps of its free ends, where the stroke widens about as fast as the line goes on. */
function capped(pixels: readonly number[], first: boolean, last: boolean, reach: (pixel: number) => number): readonly number[] {
  const inCap = (k: number, way: 1 | -1): boolean => reach(pixels[k + way * CAP_STEP]) - reach(pixels[k]) > CAP_SLOPE * CAP_STEP
  let from = 0
  let to = pixels.length
  if (first) while (from + CAP_STEP < to - 1 && inCap(from, 1)) from++
  if (last) while (to - 1 - CAP_STEP > from && inCap(to - 1, -1)) to--
  return pixels.slice(from, to)
}
