import { Clipper64, ClipType, FillRule, type Path64, type Paths64 } from 'clipper2-ts'
import { nest } from './nesting.ts'
import { type Filled, overlay } from './overlay/overlay.ts'
import { type Join, rawOffset } from './raw-offset.ts'
import { type Ring, ringArea, ringBounds } from './ring.ts'

/**
 * Boolean operations and offsets of polygons. They count in whole numbers: a unit is 0.1 µm, so results are exact to that grid,
 * and a shape may be 6.7 m wide.
 */
const UNITS_PER_MM = 10_000

export type { Join } from './raw-offset.ts'

/** How far a round join may lie from the true arc, in mm. */
const ARC_TOLERANCE_MM = 0.01

const toGrid = (rings: readonly Ring[]): Ring[] => rings.map((ring) => ring.map((v) => Math.round(v * UNITS_PER_MM)))
const fromGrid = (rings: readonly Ring[]): Ring[] => rings.map((ring) => ring.map((v) => v / UNITS_PER_MM))

const isOdd: Filled = (winding) => (winding & 1) !== 0
const isAround: Filled = (winding) => winding > 0

export type Combination = 'union' | 'subtract' | 'intersect' | 'exclude'

const fills: Record<Combination, Filled> = {
  union: (a, b) => ((a | b) & 1) !== 0,
  subtract: (a, b) => (a & ~b & 1) !== 0,
  intersect: (a, b) => (a & b & 1) !== 0,
  exclude: (a, b) => ((a ^ b) & 1) !== 0,
}

/** Boolean of two filled shapes, each by the even-odd rule. @param a mm @param b mm @returns rings in mm, holes turning against their outer ring */
export const combine = (operation: Combination, a: readonly Ring[], b: readonly Ring[] = []): Ring[] =>
  fromGrid(overlay(toGrid(a), toGrid(b), fills[operation]))

export interface OffsetOptions {
  /** What stands at outward corners. Default round. */
  readonly join?: Join
  /** Drops holes first, so that only the outermost edges are offset. */
  readonly outermost?: boolean
  /** True where the rings are known not to cross, outer ones with positive area and holes with negative. */
  readonly simple?: boolean
  /** Called again and again with the share done 0–1; may throw to cancel. */
  readonly progress?: (done: number) => void
}

/**
 * A filled shape (even-odd) grown by `distanceMm`, or shrunk where it is negative: every point of the result's edge
 * lies that far from the shape's edge.
 * @param rings mm @param distanceMm mm, outside positive @returns rings in mm; outer rings have positive area
 */
export function offset(rings: readonly Ring[], distanceMm: number, options: OffsetOptions = {}): Ring[] {
  const { join, outermost, progress } = options
  if (!Number.isFinite(distanceMm)) throw new RangeError(`The distance must be a number of millimetres, not ${distanceMm}.`)
  progress?.(0)
  const own = toGrid(rings)
  const clean = options.simple ? own : overlay(own, [], isOdd, progress && ((done) => progress(0.3 * done)))
  const shape = outermost ? outermostOf(clean) : clean
  if (distanceMm === 0) return fromGrid(shape)
  const [distance, tolerance] = [distanceMm * UNITS_PER_MM, ARC_TOLERANCE_MM * UNITS_PER_MM]
  const raw = shape.filter((ring) => !closes(ring, distance)).map((ring) => rawOffset(ring, distance, join ?? 'round', tolerance))
  const made = overlay(raw, [], isAround, progress && ((done) => progress(0.3 + 0.7 * done)))
  return fromGrid((outermost ? outermostOf(made) : made).filter((ring) => !isSliver(ring)))
}

/** Whether a ring is so narrow that nothing is left of it: a hole when its shape grows, a shape when it shrinks. */
function closes(ring: Ring, distance: number): boolean {
  if (ringArea(ring) * distance >= 0) return false
  const { x0, y0, x1, y1 } = ringBounds(ring)
  return Math.min(x1 - x0, y1 - y0) <= 2 * Math.abs(distance)
}

/** Rings that no other is around, of simple ones. */
function outermostOf(rings: readonly Ring[]): Ring[] {
  const outer = rings.filter((ring) => ringArea(ring) > 0)
  const { depth } = nest(outer)
  return outer.filter((_, i) => depth[i] === 0)
}

/** How many offsets, and on which sides. */
export interface OffsetSteps extends OffsetOptions {
  /** Each as far again from the one before; absent: one. */
  readonly steps?: number
  /** Inside as well as outside. */
  readonly both?: boolean
}

/** A filled shape's offsets at once, twice, three times the distance, one after the other, outside before inside. @returns rings in mm */
export const offsets = (rings: readonly Ring[], distanceMm: number, { steps = 1, both, ...options }: OffsetSteps): Ring[] =>
  Array.from({ length: steps }, (_, i) => distanceMm * (i + 1)).flatMap((mm) =>
    (both ? [mm, -mm] : [mm]).flatMap((at) => offset(rings, at, options)),
  )

/** Whether a hole is narrower than round joins are true: it lies between two of them that stand for the same arc. */
function isSliver(ring: Ring): boolean {
  const area = -ringArea(ring)
  if (area <= 0) return false
  let around = 0
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
    around += Math.hypot(ring[i] - ring[j], ring[i + 1] - ring[j + 1])
  return 2 * area < around * ARC_TOLERANCE_MM * UNITS_PER_MM
}

/** What lies within a distance of lines, ends round. @param lines polylines, mm @param halfMm mm @returns rings in mm */
export function growLines(lines: readonly Ring[], halfMm: number): Ring[] {
  if (!(halfMm > 0) || lines.length === 0) return []
  const raw = toGrid(lines).map((line) =>
    rawOffset(thereAndBack(line), halfMm * UNITS_PER_MM, 'round', ARC_TOLERANCE_MM * UNITS_PER_MM),
  )
  return fromGrid(overlay(raw, [], isAround))
}

/** A line as a ring without width. */
function thereAndBack(line: Ring): Ring {
  const n = line.length
  const out = new Float64Array(Math.max(n, 2 * n - 4))
  out.set(line)
  for (let i = n, j = n - 4; i < out.length; i += 2, j -= 2) {
    out[i] = line[j]
    out[i + 1] = line[j + 1]
  }
  return out
}

/** Between two pieces that were one, mm: far less than any kerf. */
const SPLIT_MM = 0.01

/** A filled shape (even-odd) parted where lines run through it. @param rings mm @param lines polylines, mm @returns rings in mm */
export const splitBy = (rings: readonly Ring[], lines: readonly Ring[]): Ring[] =>
  combine('subtract', rings, growLines(lines, SPLIT_MM / 2))

/** The parts of lines that lie within a filled shape (even-odd). @param lines polylines, mm @returns polylines, mm */
export function linesWithin(lines: readonly Ring[], shape: readonly Ring[]): Ring[] {
  const clipper = new Clipper64()
  clipper.addOpenSubject(toPaths(lines))
  clipper.addClip(toPaths(shape))
  const closed: Paths64 = []
  const open: Paths64 = []
  clipper.execute(ClipType.Intersection, FillRule.EvenOdd, closed, open)
  return open
    .filter(({ length }) => length > 1)
    .map((path) => Float64Array.from(path.flatMap(({ x, y }) => [x / UNITS_PER_MM, y / UNITS_PER_MM])))
}

const toPaths = (rings: readonly Ring[]): Paths64 =>
  toGrid(rings).map((ring): Path64 => Array.from({ length: ring.length / 2 }, (_, i) => ({ x: ring[2 * i], y: ring[2 * i + 1] })))

/** A shape whose paths are filled by a rule, as one filled by even-odd. @param rings mm */
export const filledBy = (rule: 'nonzero' | 'evenodd', rings: readonly Ring[]): Ring[] =>
  fromGrid(overlay(toGrid(rings), [], rule === 'nonzero' ? (winding) => winding !== 0 : isOdd))

/** Filled shapes (rings as `filledBy` and `combine` return them) together as one. @param rings mm */
export const together = (rings: readonly Ring[]): Ring[] => fromGrid(overlay(toGrid(rings), [], isAround))

/** The filled shape's area in mm², holes taken off (rings as `combine` and `offset` return them). */
export const shapeArea = (rings: readonly Ring[]): number => rings.reduce((sum, ring) => sum + ringArea(ring), 0)
