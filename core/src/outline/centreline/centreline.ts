import type { Path } from '../../geometry/path.ts'
import type { GreyPicture } from '../../picture/picture.ts'
import { type Channel, opacityAsInk } from '../ink.ts'
import { squaredDistances } from './distance.ts'
import { fitLine } from './fit-line.ts'
import { merged, pruned, skeletonGraph } from './graph.ts'
import { middles, pixelLight } from './refine.ts'
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
  progress?.(0.1)
  const distances = squaredDistances(ink, width, height)
  progress?.(0.3)
  thin(ink, width, distances, progress && ((done) => progress(0.3 + 0.4 * done)))
  const reach = (i: number): number => Math.sqrt(distances[i])
  const { branches, knots } = pruned(merged(skeletonGraph(ink, width), reach, ONE_KNOT), reach, SPUR)
  const lines: Centreline[] = []
  branches.forEach(({ from, to, pixels, closed }, i) => {
    if ((i & 63) === 0) progress?.(0.7 + (0.3 * i) / branches.length)
    const kept = closed ? pixels : capped(pixels, from < 0, to < 0, reach)
    if (kept.length < 2) return
    const xs = Float64Array.from(kept, (p) => (p % width) - 0.5)
    const ys = Float64Array.from(kept, (p) => Math.floor(p / width) - 0.5)
    const near = (x: number, y: number): number => reach(Math.floor(y + 1) * width + Math.floor(x + 1))
    const middle = middles(picture, xs, ys, closed, level, near)
    const x = Array.from(middle.x)
    const y = Array.from(middle.y)
    if (from >= 0) {
      x.unshift(knots[from].x - 1)
      y.unshift(knots[from].y - 1)
    }
    if (to >= 0) {
      x.push(knots[to].x - 1)
      y.push(knots[to].y - 1)
    }
    let length = 0
    for (let k = 1; k < x.length; k++) length += Math.hypot(x[k] - x[k - 1], y[k] - y[k - 1])
    if (length < minLengthPx) return
    const widthPx = (2 * middle.half.reduce((sum, h) => sum + h, 0)) / middle.half.length
    lines.push({ path: fitLine(x, y, closed, tolerancePx), widthPx })
  })
  return lines
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
