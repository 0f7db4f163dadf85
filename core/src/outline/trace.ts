import type { Path } from '../geometry/path.ts'
import type { Ring } from '../geometry/ring.ts'
import { Arena, kernelMaker } from '../kernels/kernel.ts'
import { OUTLINE_WASM } from '../kernels/outline.wasm.ts'
import { blurRows } from '../picture/blur.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { pictureKernel } from '../picture/picture-kernel.ts'
import { type Channel, fieldStride, writeLight } from './ink.ts'

export interface TraceOptions {
  /** Lightness 0–1 below which a pixel is ink; for alpha, opacity above which it counts. */
  readonly threshold: number
  /** Makes the threshold the upper end of a band: lightness 0–1 (opacity) that counts must lie above this too. */
  readonly above?: number
  readonly channel: Channel
  /** Ripples narrower than this are smoothed away first: sigma of a Gaussian, px, 0 (default) to 10. */
  readonly smoothPx?: number
  /** Largest distance of the outline from the isoline, px; also its RMS limit is a third of it. Never below what the noise of the picture lets it be. */
  readonly tolerancePx: number
  /** A line that turns more than this within a few pixels has a corner. */
  readonly cornerDeg: number
  /** Specks and holes smaller than this are dropped, px². */
  readonly minAreaPx: number
  /** Called now and then with the share done 0–1; may throw to cancel. */
  readonly progress?: (done: number) => void
}

export const DEFAULT_TOLERANCE_PX = 0.15
export const DEFAULT_CORNER_DEG = 32

/** What `kernels/src/outline` does; places in its memory are bytes. */
interface OutlineKernel {
  freeFrom(): number
  countCracks(field: number, stride: number, height: number, level: number): number
  beginIsolines(): void
  isolines(
    field: number,
    stride: number,
    width: number,
    height: number,
    from: number,
    to: number,
    level: number,
    seen: number,
    out: number,
    ends: number,
    lines: number,
  ): number
  twiceArea(line: number, n: number): number
  workBytes(n: number): number
  outline(line: number, n: number, tolerance: number, limit: number, work: number, kinds: number, points: number): number
  outlineBytes(): number
}

const outlineKernel = kernelMaker<OutlineKernel>(OUTLINE_WASM)

const up16 = (at: number): number => (at + 15) & ~15
/** Rows between two looks whether the work is still wanted. */
const BAND = 512

/** A threshold as light 0–255: the less opaque, the lighter. */
const levelOf = (channel: Channel, threshold: number): number => 255 * (channel === 'alpha' ? 1 - threshold : threshold)

/** Light by its distance from the nearer end of a band: 127.5 on it, darker within, lighter outside. */
function bandTable(one: number, other: number): Uint8Array {
  const low = Math.min(one, other)
  const high = Math.max(one, other)
  return Uint8Array.from({ length: 256 }, (_, v) => Math.round(Math.min(255, Math.max(0, 127.5 - Math.min(v - low, high - v)))))
}

/** Blurs a field by a Gaussian. Beyond its border there is paper. */
function smoothField(light: Uint8Array, stride: number, height: number, sigma: number): void {
  const kernel = pictureKernel()
  const row = new Float32Array(stride)
  blurRows(kernel, new Arena(kernel.run.freeFrom()), stride, height, sigma, {
    fetch: (y, at) => {
      row.set(light.subarray(y * stride, (y + 1) * stride))
      new Float32Array(kernel.room(0).buffer, at, stride).set(row)
    },
    take: (y, at) => {
      const blurred = new Float32Array(kernel.room(0).buffer, at, stride)
      for (let x = 0, to = y * stride; x < stride; x++, to++) light[to] = blurred[x] + 0.5
    },
  })
}

/**
 * Picture → outlines of its dark (or opaque) areas, as closed paths of lines and cubics in source pixels.
 * Filled by even-odd; outer paths run clockwise on a screen, holes against it. How, the kernel `kernels/src/outline` tells.
 */
export function trace(picture: GreyPicture, options: TraceOptions): Path[] {
  const { threshold, channel, minAreaPx, cornerDeg, tolerancePx, progress } = options
  if (!(threshold >= 0 && threshold <= 1)) throw new RangeError(`The threshold lies between 0 and 1, not ${threshold}.`)
  const { above, smoothPx = 0 } = options
  if (above !== undefined && !(above >= 0 && above < threshold))
    throw new RangeError(`A band begins below the threshold, not at ${above}.`)
  const band = above === undefined ? undefined : bandTable(levelOf(channel, threshold), levelOf(channel, above))
  const level = band ? 127.5 : Math.min(254.5, Math.max(0.5, levelOf(channel, threshold)))
  const limit = (cornerDeg * Math.PI) / 180
  const { run, room } = outlineKernel.kept()
  const width = picture.widthPx + 2
  const height = picture.heightPx + 2
  const stride = fieldStride(picture.widthPx)
  // The memory: the field, what was seen of it, where lines end, their points, then room for one outline at a time.
  // An edge is looked at over a few pixels: a row of paper above the field and one below are there for that.
  const field = up16(run.freeFrom()) + stride
  const seen = field + stride * (height + 1)
  const ends = up16(seen + ((stride * height) >> 3))
  const memory = room(ends)
  memory.fill(255, field - stride, seen)
  const light = memory.subarray(field, seen)
  writeLight(picture, channel, light)
  if (smoothPx > 0.05) smoothField(light, stride, height, Math.min(10, smoothPx))
  if (band) for (let i = 0; i < light.length; i++) light[i] = band[light[i]]
  /** The isolines of the field: how many, and where the memory behind them begins. */
  const isolines = (): { readonly count: number; readonly out: number; readonly work: number } => {
    room(ends).fill(0, seen, ends)
    const cracks = run.countCracks(field, stride, height, level)
    const out = up16(ends + cracks + 4)
    const work = up16(out + 16 * cracks)
    room(work)
    run.beginIsolines()
    let count = 0
    for (let y = 1; y < height - 1; y += BAND) {
      progress?.((0.3 * y) / height)
      count = run.isolines(field, stride, width, height, y, Math.min(height - 1, y + BAND), level, seen, out, ends, count)
    }
    return { count, out, work }
  }
  const { count, out, work } = isolines()
  const lineEnds = new Int32Array(room(work).buffer, ends, count).slice()
  const longest = lineEnds.reduce((most, end, i) => Math.max(most, end - (i > 0 ? lineEnds[i - 1] : 0)), 0) / 16
  const kinds = up16(work + run.workBytes(longest))
  const points = up16(kinds + 2 * longest + 16)
  const { buffer } = room(points + 96 * longest + 256)
  const paths: Path[] = []
  let start = 0
  for (let i = 0; i < count; i++) {
    if (progress && (i & 255) === 0) progress(0.3 + (0.7 * i) / count)
    const n = (lineEnds[i] - start) / 16
    const line = out + start
    start = lineEnds[i]
    if (n < 3 || Math.abs(run.twiceArea(line, n)) < 2 * minAreaPx) continue
    const pieces = run.outline(line, n, tolerancePx, limit, work, kinds, points)
    paths.push({
      closed: true,
      kinds: new Uint8Array(buffer, kinds, pieces).slice(),
      points: new Float64Array(buffer, points, run.outlineBytes() / 8).slice(),
    })
  }
  return paths
}

/**
 * A closed line of places as a path of lines and cubics: corners where it has corners, smooth where it is smooth.
 * @param unit about how far its places are from each other: tolerances are in this @param tolerance in the same unit
 */
export function pathThrough(ring: Ring, unit: number, tolerance: number, cornerDeg = DEFAULT_CORNER_DEG): Path {
  const n = ring.length / 2
  const { run, room } = outlineKernel.kept()
  const line = up16(run.freeFrom())
  const work = up16(line + 16 * n)
  const kinds = up16(work + run.workBytes(n))
  const points = up16(kinds + 2 * n + 16)
  const { buffer } = room(points + 96 * n + 256)
  const units = new Float64Array(buffer, line, 2 * n)
  for (let i = 0; i < 2 * n; i++) units[i] = ring[i] / unit
  const pieces = run.outline(line, n, tolerance, (cornerDeg * Math.PI) / 180, work, kinds, points)
  return {
    closed: true,
    kinds: new Uint8Array(buffer, kinds, pieces).slice(),
    points: new Float64Array(buffer, points, run.outlineBytes() / 8).map((v) => v * unit),
  }
}
