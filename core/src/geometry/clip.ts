import { Clipper64, ClipType, FillRule, type Path64, type Paths64 } from 'clipper2-ts'
import type { Bounds } from './bounds.ts'
import { nest } from './nesting.ts'
import { WIDEST } from './overlay/arrangement.ts'
import { type Filled, overlay } from './overlay/overlay.ts'
import { type Join, MITRE_LIMIT, rawOffset } from './raw-offset.ts'
import { type Ring, ringArea, ringBounds, ringsBounds, thereAndBack } from './ring.ts'

/**
 * Boolean operations and offsets of polygons. They count in whole numbers: a unit is 0.1 µm, so results are exact to that grid;
 * it is coarser where shapes are more than 6.7 m wide.
 */
const UNITS_PER_MM = 10_000

export type { Join } from './raw-offset.ts'

/** How far a round join may lie from the true arc, in mm. */
const ARC_TOLERANCE_MM = 0.01

/** Units to a millimetre for shapes and what is made of them. @param beyondMm how far results reach beyond the shapes */
function unitsFor(rings: readonly Ring[], beyondMm = 0): number {
  let least = Infinity
  let most = -Infinity
  for (const ring of rings)
    for (const v of ring) {
      if (!Number.isFinite(v)) throw new RangeError('An outline has a place that is no number.')
      if (v < least) least = v
      if (v > most) most = v
    }
  const wideMm = most - least + 2 * beyondMm
  return wideMm * UNITS_PER_MM < WIDEST ? UNITS_PER_MM : (WIDEST - 2) / wideMm
}

const toGrid = (rings: readonly Ring[], units: number): Ring[] => rings.map((ring) => ring.map((v) => Math.round(v * units)))
const fromGrid = (rings: readonly Ring[], units: number): Ring[] => rings.map((ring) => ring.map((v) => v / units))

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
export function combine(operation: Combination, a: readonly Ring[], b: readonly Ring[] = []): Ring[] {
  const units = unitsFor([...a, ...b])
  return fromGrid(overlay(toGrid(a, units), toGrid(b, units), fills[operation]), units)
}

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
  const units = unitsFor(rings, MITRE_LIMIT * Math.max(0, distanceMm))
  const own = toGrid(rings, units)
  const clean = options.simple ? own : overlay(own, [], isOdd, progress && ((done) => progress(0.2 * done)))
  const shape = outermost ? outermostOf(clean) : clean
  if (distanceMm === 0) return fromGrid(shape, units)
  const [distance, tolerance] = [distanceMm * units, ARC_TOLERANCE_MM * units]
  if ((join ?? 'round') === 'round' && isDense(shape, distance)) {
    const band = bandAround(shape, Math.abs(distance), tolerance, (done) => progress?.(0.2 + 0.7 * done))
    const dense = overlay(shape, band, distance > 0 ? (a, b) => a > 0 || b > 0 : (a, b) => a > 0 && b <= 0)
    return fromGrid(outermost ? outermostOf(dense) : dense, units).filter((ring) => !isSliver(ring))
  }
  const raw = (some: readonly Ring[]): Ring[] => some.map((ring) => rawOffset(ring, distance, join ?? 'round', tolerance))
  const open = shape.filter((ring) => !closes(ring, distance))
  const made =
    distance < 0
      ? overlay(raw(open), [], isAround, progress && ((done) => progress(0.2 + 0.8 * done)))
      : grownTogether(open, raw, (done) => progress?.(0.2 + 0.8 * done))
  return fromGrid(outermost ? outermostOf(made) : made, units).filter((ring) => !isSliver(ring))
}

/** So many corners beside each on average, within the distance that edges are moved: noise, or dots. */
const DENSE = 40
/** Fewer corners of one edge are quickly seen to. */
const MANY_DENSE = 4000

/** Whether corners lie so close for how far edges are moved that moving them one by one would cross all neighbours with each other. */
function isDense(rings: readonly Ring[], distance: number): boolean {
  const side = Math.abs(distance)
  // Many small shapes beside each other are united one by one already.
  const long = rings.filter(({ length }) => length > 2 * MANY_DENSE)
  const count = long.reduce((sum, ring) => sum + ring.length / 2, 0)
  if (count === 0 || !(side > 0)) return false
  const cells = new Map<number, number>()
  for (const ring of long)
    for (let i = 0; i < ring.length; i += 2) {
      const cell = Math.floor(ring[i] / side) * 0x4000000 + Math.floor(ring[i + 1] / side)
      cells.set(cell, (cells.get(cell) ?? 0) + 1)
    }
  let beside = 0
  for (const inCell of cells.values()) beside += inCell ** 2
  return beside / count > DENSE
}

/** Edges that are widened at once. */
const EDGES_AT_ONCE = 32

/**
 * All that lies within a distance of the edges of shapes: short stretches of them are widened one by one, and neighbours united, then what came
 * of them. So what lies within many others is gone before it meets more.
 */
function bandAround(rings: readonly Ring[], reach: number, tolerance: number, progress: (done: number) => void): Ring[] {
  const whole = rings.reduce((sum, ring) => sum + ring.length, 0)
  let done = 0
  const stretch = (ring: Ring, from: number, to: number): Ring[] => {
    const n = ring.length / 2
    if (to - from <= EDGES_AT_ONCE) {
      const line = new Float64Array(2 * (to - from + 1))
      for (let i = from; i <= to; i++) line.set([ring[2 * (i % n)], ring[2 * (i % n) + 1]], 2 * (i - from))
      done += 2 * (to - from)
      return overlay([rawOffset(thereAndBack(line), reach, 'round', tolerance)], [], isAround)
    }
    const half = (from + to) >> 1
    const made = overlay([...stretch(ring, from, half), ...stretch(ring, half, to)], [], isAround)
    progress(done / whole)
    return made
  }
  return rings.map((ring) => stretch(ring, 0, ring.length / 2)).reduce<Ring[]>((all, band) => all.concat(band), [])
}

/** What is united at once where many shapes lie over each other. */
const AT_ONCE = 24

/**
 * Shapes grown one by one, and united: what a shape's own edges make of each other is gone before they meet others. Where many
 * lie over each other, neighbours are united first, and all that lies within them is gone before the rest is.
 */
function grownTogether(rings: readonly Ring[], raw: (some: readonly Ring[]) => Ring[], progress: (done: number) => void): Ring[] {
  const shapes = shapesOf(rings)
  if (shapes.length === 1) return overlay(raw(shapes[0]), [], isAround, progress)
  const grown = shapes.map((shape, i) => {
    if (i % AT_ONCE === 0) progress((0.5 * i) / shapes.length)
    return overlay(raw(shape), [], isAround)
  })
  const boxes = grown.map((shape) => ringsBounds(shape))
  const size = ({ x0, y0, x1, y1 }: Bounds): number => (x1 - x0) * (y1 - y0)
  const layers = boxes.reduce((sum, box) => sum + size(box), 0) / size(ringsBounds(grown.flat()))
  if (layers < MANY_LAYERS) return overlay(grown.flat(), [], isAround, (done) => progress(0.5 + 0.5 * done))
  let done = 0
  const united = (some: readonly number[]): Ring[] => {
    if (some.length <= AT_ONCE) {
      progress(0.5 + (0.5 * done) / shapes.length)
      done += some.length
      return overlay(
        some.flatMap((i) => grown[i]),
        [],
        isAround,
      )
    }
    const around = ringsBounds(some.flatMap((i) => grown[i]))
    const along = around.x1 - around.x0 > around.y1 - around.y0 ? 'x0' : 'y0'
    const sorted = [...some].sort((a, b) => boxes[a][along] - boxes[b][along])
    const half = sorted.length >> 1
    return overlay([...united(sorted.slice(0, half)), ...united(sorted.slice(half))], [], isAround)
  }
  return united(shapes.map((_, i) => i))
}

/** So many shapes lie over each other on average before neighbours are united first. */
const MANY_LAYERS = 2.5

/** Simple rings by shape: an outer ring (of positive area) with its holes. */
export function shapesOf(rings: readonly Ring[]): Ring[][] {
  const { parent } = nest(rings)
  const shapes = new Map<number, Ring[]>()
  rings.forEach((ring, i) => {
    if (ringArea(ring) > 0) shapes.set(i, [ring])
  })
  rings.forEach((ring, i) => {
    if (ringArea(ring) <= 0) shapes.get(parent[i])?.push(ring)
  })
  return [...shapes.values()]
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
  return 2 * area < around * ARC_TOLERANCE_MM
}

/**
 * What rings around lines cover together: each line is handed over in whole units with a distance, and gives the rings around it.
 * @param lines polylines, mm @param reachMm how far beyond the lines they reach at most @returns rings in mm
 */
export function growRaw(
  lines: readonly Ring[],
  halfMm: number,
  reachMm: number,
  around: (line: Ring, half: number, tolerance: number) => readonly Ring[],
): Ring[] {
  const units = unitsFor(lines, reachMm)
  const raw = toGrid(lines, units).flatMap((line) => around(line, halfMm * units, ARC_TOLERANCE_MM * units))
  return fromGrid(overlay(raw, [], isAround), units)
}

/** What lies within a distance of lines, ends round. @param lines polylines, mm @param halfMm mm @returns rings in mm */
export function growLines(lines: readonly Ring[], halfMm: number): Ring[] {
  if (!(halfMm > 0) || lines.length === 0) return []
  const units = unitsFor(lines, halfMm)
  const raw = toGrid(lines, units).map((line) => rawOffset(thereAndBack(line), halfMm * units, 'round', ARC_TOLERANCE_MM * units))
  return fromGrid(overlay(raw, [], isAround), units)
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
  toGrid(rings, UNITS_PER_MM).map(
    (ring): Path64 => Array.from({ length: ring.length / 2 }, (_, i) => ({ x: ring[2 * i], y: ring[2 * i + 1] })),
  )

/** What rings wind around as often as `filled` says. @param rings mm */
function wound(rings: readonly Ring[], filled: Filled): Ring[] {
  const units = unitsFor(rings)
  return fromGrid(overlay(toGrid(rings, units), [], filled), units)
}

/** A shape whose paths are filled by a rule, as one filled by even-odd. @param rings mm */
export const filledBy = (rule: 'nonzero' | 'evenodd', rings: readonly Ring[]): Ring[] =>
  wound(rings, rule === 'nonzero' ? (winding) => winding !== 0 : isOdd)

/** Filled shapes (rings as `filledBy` and `combine` return them) together as one. @param rings mm */
export const together = (rings: readonly Ring[]): Ring[] => wound(rings, isAround)

/** The filled shape's area in mm², holes taken off (rings as `combine` and `offset` return them). */
export const shapeArea = (rings: readonly Ring[]): number => rings.reduce((sum, ring) => sum + ringArea(ring), 0)
