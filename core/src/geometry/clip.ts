import {
  Clipper,
  Clipper64,
  ClipType,
  EndType,
  FillRule,
  JoinType,
  type Path64,
  type Paths64,
  type PolyPath64,
  PolyTree64,
} from 'clipper2-ts'
import { apart } from './apart.ts'
import { type Ring, ringArea } from './ring.ts'

/**
 * Boolean operations and offsets of polygons, by the library behind this interface. It counts in integers: one of
 * its units is 0.1 µm, so results are exact to that grid and the largest coordinate is about 10⁸ mm.
 */
const UNITS_PER_MM = 10_000

export type Join = 'round' | 'mitre' | 'bevel'

const joinTypes: Record<Join, JoinType> = { round: JoinType.Round, mitre: JoinType.Miter, bevel: JoinType.Bevel }

/** How far a round join may lie from the true arc, in mm. */
const ARC_TOLERANCE_MM = 0.01

/** Shapes nearer than this may touch on the grid, mm. */
const TOUCH_MM = 0.001
const MITRE_LIMIT = 4

function toGrid(rings: readonly Ring[]): Paths64 {
  return rings.map((ring) => {
    const path: Path64 = new Array(ring.length / 2)
    for (let i = 0; i < path.length; i++)
      path[i] = { x: Math.round(ring[2 * i] * UNITS_PER_MM), y: Math.round(ring[2 * i + 1] * UNITS_PER_MM) }
    return path
  })
}

function fromGrid(paths: Paths64): Ring[] {
  const out: Ring[] = []
  for (const path of paths) {
    if (path.length >= 3) out.push(fromPath(path))
  }
  return out
}

function fromPath(path: Path64): Ring {
  const ring = new Float64Array(path.length * 2)
  for (let i = 0; i < path.length; i++) {
    ring[2 * i] = path[i].x / UNITS_PER_MM
    ring[2 * i + 1] = path[i].y / UNITS_PER_MM
  }
  return ring
}

export type Combination = 'union' | 'subtract' | 'intersect' | 'exclude'

const clipTypes: Record<Combination, ClipType> = {
  union: ClipType.Union,
  subtract: ClipType.Difference,
  intersect: ClipType.Intersection,
  exclude: ClipType.Xor,
}

/** Boolean of two filled shapes, each by the even-odd rule. @param a mm @param b mm @returns rings in mm, holes turning against their outer ring */
export function combine(operation: Combination, a: readonly Ring[], b: readonly Ring[] = []): Ring[] {
  return apart([a, b], TOUCH_MM).flatMap(([own, other]) =>
    fromGrid(Clipper.booleanOp(clipTypes[operation], toGrid(own), toGrid(other), FillRule.EvenOdd)),
  )
}

export interface OffsetOptions {
  /** What stands at outward corners. Default round. */
  readonly join?: Join
  /** Drops holes first, so that only the outermost edges are offset. */
  readonly outermost?: boolean
  /** Called again and again with the share done 0–1; may throw to cancel. */
  readonly progress?: (done: number) => void
}

/**
 * A filled shape (even-odd) grown by `distanceMm`, or shrunk where it is negative: every point of the result's edge
 * lies that far from the shape's edge.
 * @param rings mm @param distanceMm mm, outside positive @returns rings in mm; outer rings have positive area
 */
export function offset(rings: readonly Ring[], distanceMm: number, options: OffsetOptions = {}): Ring[] {
  if (!Number.isFinite(distanceMm)) throw new RangeError(`The distance must be a number of millimetres, not ${distanceMm}.`)
  // A mitre reaches up to the limit times the distance.
  const reach = Math.max(0, distanceMm) * (options.join === 'mitre' ? MITRE_LIMIT : 1)
  return apart([rings], 2 * reach + TOUCH_MM).flatMap(([group], i, all) => {
    const tick = (): void => options.progress?.(i / all.length)
    return offsetTogether(group, distanceMm, options, tick)
  })
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

/** @param tick called again and again; may throw to cancel */
function offsetTogether(rings: readonly Ring[], distanceMm: number, options: OffsetOptions, tick: () => void): Ring[] {
  tick()
  const shapes = shapesOf(toGrid(rings), FillRule.EvenOdd, options.outermost ?? false)
  if (distanceMm === 0) return fromGrid(shapes.flat())
  const join = joinTypes[options.join ?? 'round']
  const grown = shapes.map((shape, i) => {
    if (i % AT_ONCE === 0) tick()
    const made = Clipper.inflatePaths(
      shape,
      distanceMm * UNITS_PER_MM,
      join,
      EndType.Polygon,
      MITRE_LIMIT,
      ARC_TOLERANCE_MM * UNITS_PER_MM,
    )
    // The library leaves vertices closer than its own grid deserves; simplifying keeps the next step quick.
    return Clipper.simplifyPaths(made, 0.002 * UNITS_PER_MM)
  })
  // Shapes that shrink stay apart.
  if (distanceMm < 0) return fromGrid(grown.flat())
  return fromGrid(unionOf(grown, options.outermost ?? false, tick).filter((path) => !isSliver(path)))
}

/** Whether a hole is narrower than round joins are true: it lies between two of them that stand for the same arc. */
function isSliver(path: Path64): boolean {
  const area = -Clipper.area(path)
  if (area <= 0) return false
  let around = 0
  path.forEach((point, i) => {
    const next = path[(i + 1) % path.length]
    around += Math.hypot(next.x - point.x, next.y - point.y)
  })
  return 2 * area < around * ARC_TOLERANCE_MM * UNITS_PER_MM
}

/**
 * The disjoint shapes of a union: each an outer path with its holes. @param outermost without holes, and without what lies in
 * them
 */
function shapesOf(paths: Paths64, rule: FillRule, outermost: boolean): Paths64[] {
  const tree = new PolyTree64()
  Clipper.booleanOpWithPolyTree(ClipType.Union, paths, null, tree, rule)
  const shapes: Paths64[] = []
  const outer = (node: PolyPath64): void => {
    const shape: Paths64 = [node.poly!]
    shapes.push(shape)
    if (outermost) return
    for (let i = 0; i < node.count; i++) {
      const hole = node.child(i)
      shape.push(hole.poly!)
      for (let k = 0; k < hole.count; k++) outer(hole.child(k))
    }
  }
  for (let i = 0; i < tree.count; i++) outer(tree.child(i))
  return shapes
}

/** So many shapes are united at once. */
const AT_ONCE = 16

/**
 * The union of shapes, neighbours first: what lies within is gone before the whole is swept, whose work grows with all that a
 * line across it meets. @param outermost see `shapesOf`
 */
function unionOf(shapes: readonly Paths64[], outermost: boolean, tick: () => void): Paths64 {
  tick()
  const united = (paths: Paths64): Paths64 =>
    outermost ? shapesOf(paths, FillRule.NonZero, true).flat() : Clipper.union(paths, FillRule.NonZero)
  // One shape alone is a union already; nothing but its holes can be in its way.
  if (shapes.length === 1) return outermost ? shapes[0].filter((path) => Clipper.area(path) > 0) : shapes[0]
  if (shapes.length <= AT_ONCE) return united(shapes.flat())
  const middles = shapes.map((shape) => {
    const { left, right, top, bottom } = Clipper.getBounds(shape[0] ?? [])
    return { shape, x: (left + right) / 2, y: (top + bottom) / 2 }
  })
  const width = spread(middles.map(({ x }) => x))
  const along = width > spread(middles.map(({ y }) => y)) ? 'x' : 'y'
  middles.sort((a, b) => a[along] - b[along])
  const half = middles.length >> 1
  const part = (list: typeof middles): Paths64 =>
    unionOf(
      list.map(({ shape }) => shape),
      outermost,
      tick,
    )
  return united([...part(middles.slice(0, half)), ...part(middles.slice(half))])
}

const spread = (values: readonly number[]): number =>
  values.reduce((a, b) => Math.max(a, b)) - values.reduce((a, b) => Math.min(a, b))

/** What lies within a distance of lines, ends round. @param lines polylines, mm @param halfMm mm @returns rings in mm */
export function growLines(lines: readonly Ring[], halfMm: number): Ring[] {
  if (!(halfMm > 0) || lines.length === 0) return []
  const grown = Clipper.inflatePaths(
    toGrid(lines),
    halfMm * UNITS_PER_MM,
    JoinType.Round,
    EndType.Round,
    MITRE_LIMIT,
    ARC_TOLERANCE_MM * UNITS_PER_MM,
  )
  return fromGrid(Clipper.simplifyPaths(grown, 0.002 * UNITS_PER_MM))
}

/** Between two pieces that were one, mm: far less than any kerf. */
const SPLIT_MM = 0.01

/** A filled shape (even-odd) parted where lines run through it. @param rings mm @param lines polylines, mm @returns rings in mm */
export const splitBy = (rings: readonly Ring[], lines: readonly Ring[]): Ring[] =>
  combine('subtract', rings, growLines(lines, SPLIT_MM / 2))

/** The parts of lines that lie within a filled shape (even-odd). @param lines polylines, mm @returns polylines, mm */
export function linesWithin(lines: readonly Ring[], shape: readonly Ring[]): Ring[] {
  const clipper = new Clipper64()
  clipper.addOpenSubject(toGrid(lines))
  clipper.addClip(toGrid(shape))
  const closed: Paths64 = []
  const open: Paths64 = []
  clipper.execute(ClipType.Intersection, FillRule.EvenOdd, closed, open)
  return open.filter(({ length }) => length > 1).map(fromPath)
}

/** A shape whose paths are filled by a rule, as one filled by even-odd. @param rings mm */
export const filledBy = (rule: 'nonzero' | 'evenodd', rings: readonly Ring[]): Ring[] =>
  fromGrid(Clipper.union(toGrid(rings), rule === 'nonzero' ? FillRule.NonZero : FillRule.EvenOdd))

/** Filled shapes (rings as `filledBy` and `combine` return them) together as one. @param rings mm */
export const together = (rings: readonly Ring[]): Ring[] => fromGrid(Clipper.union(toGrid(rings), FillRule.Positive))

/** The filled shape's area in mm², holes taken off (rings as `combine` and `offset` return them). */
export const shapeArea = (rings: readonly Ring[]): number => rings.reduce((sum, ring) => sum + ringArea(ring), 0)
