import type { Path } from '../geometry/path.ts'
import { kernelMaker } from '../kernels/kernel.ts'
import { OUTLINE_WASM } from '../kernels/outline.wasm.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { type Channel, fieldStride, writeLight } from './ink.ts'

export interface TraceOptions {
  /** Lightness 0–1 below which a pixel is ink; for alpha, opacity above which it counts. */
  readonly threshold: number
  readonly channel: Channel
  /** Largest distance of the outline from the isoline, px; also its RMS limit is a third of it. */
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

/**
 * Picture → outlines of its dark (or opaque) areas, as closed paths of lines and cubics in source pixels.
 * Filled by even-odd; outer paths run clockwise on a screen, holes against it. How, the kernel `kernels/src/outline` tells.
 */
export function trace(picture: GreyPicture, options: TraceOptions): Path[] {
  const { threshold, channel, minAreaPx, cornerDeg, tolerancePx, progress } = options
  if (!(threshold >= 0 && threshold <= 1)) throw new RangeError(`The threshold lies between 0 and 1, not ${threshold}.`)
  const level = Math.min(254.5, Math.max(0.5, channel === 'alpha' ? (1 - threshold) * 255 : threshold * 255))
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
  writeLight(picture, channel, memory.subarray(field, seen))
  memory.fill(0, seen, ends)
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
