import { convexHull } from '../../geometry/hull.ts'
import { flattenPath } from '../../geometry/path.ts'
import { type Ring, reversed, ringArea, ringsBounds } from '../../geometry/ring.ts'
import { simplified } from '../../geometry/simplify.ts'
import {
  faceOutline,
  type KeepOut,
  outlineOfFace,
  outlineSize,
  type PieceOutline,
  type Workpiece,
} from '../../job/document/workpiece.ts'
import { micro } from '../../numeric/micro.ts'
import { mapped } from '../../space/affine.ts'
import { poseMap, readDeg } from '../../space/pose.ts'
import { respaced } from './edge-walk.ts'
import type { SeenBlank } from './seen-blank.ts'

type Point = readonly [number, number]

/** A blank as a workpiece has it: its edge, how it lies on the bed, and where it has holes. */
export type BlankPiece = Pick<Workpiece, 'outline' | 'pose' | 'keepOuts'>

/** Chords of an edge lie off it by at most so much, mm. */
const CHORD_MM = 0.03
/** An edge that nowhere lies farther off a rectangle or a circle is one, mm. */
const ROUND_OFF_MM = 0.6
/** Blanks whose edges lie nowhere farther apart, but for one place in twenty, are alike, mm. */
const ALIKE_MM = 0.6
/** An edge is compared with another at so many places. */
const PLACES = 180

const turned = (ring: Ring, deg: number, [cx, cy]: Point): Ring => {
  const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
  const out = new Float64Array(ring.length)
  for (let i = 0; i < ring.length; i += 2) {
    const [x, y] = [ring[i] - cx, ring[i + 1] - cy]
    out[i] = cx + cos * x - sin * y
    out[i + 1] = cy + sin * x + cos * y
  }
  return out
}

const pointsOf = (ring: Ring): Point[] => Array.from({ length: ring.length / 2 }, (_, i): Point => [ring[2 * i], ring[2 * i + 1]])

/** How far the narrowest rectangle around a ring is turned: its longer side from the bed's x, degrees, −90 to 90. */
function levelDeg(ring: Ring): number {
  const hull = convexHull(pointsOf(ring))
  let best = 0
  let least = Number.POSITIVE_INFINITY
  hull.forEach(([ax, ay], i) => {
    const [bx, by] = hull[(i + 1) % hull.length]
    const deg = (Math.atan2(by - ay, bx - ax) * 180) / Math.PI
    const { x0, y0, x1, y1 } = ringsBounds([turned(ring, -deg, [0, 0])])
    const area = (x1 - x0) * (y1 - y0)
    if (area < least - 1e-9) {
      least = area
      // Along its longer side, the rear up.
      const along = x1 - x0 >= y1 - y0 ? deg : deg + 90
      best = along - 180 * Math.round(along / 180)
    }
  })
  // As square as it is long it is turned by as little as possible.
  const { x0, y0, x1, y1 } = ringsBounds([turned(ring, -best, [0, 0])])
  const square = Math.abs(x1 - x0 - (y1 - y0)) < 0.03 * (x1 - x0)
  return sidesDeg(ring, square ? best - 90 * Math.round(best / 90) : best)
}

/** Places so near to a side of the box are on it, so far from its corners; where they are so much of the edge, it has straight sides. */
const SIDES = { nearMm: 1.5, cornerMm: 4, share: 0.6 }

/** The turn that straight sides say: a line through the places of each, by least squares; else the one that was thought. */
function sidesDeg(ring: Ring, deg: number): number {
  const level = respaced(turned(ring, -deg, [0, 0]), 0.5)
  const box = ringsBounds([level])
  const points = pointsOf(level)
  let [onSides, sum, weights] = [0, 0, 0]
  for (const [across, along] of [
    [1, 0],
    [0, 1],
  ] as const)
    for (const end of [0, 1] as const) {
      const low = across === 1 ? [box.y0, box.y1] : [box.x0, box.x1]
      const span = along === 0 ? [box.x0, box.x1] : [box.y0, box.y1]
      const on = points.filter(
        (p) =>
          Math.abs(p[across] - low[end]) < SIDES.nearMm &&
          p[along] > span[0] + SIDES.cornerMm &&
          p[along] < span[1] - SIDES.cornerMm,
      )
      onSides += on.length
      if (on.length < 20) continue
      const [ma, mc] = [along, across].map((k) => on.reduce((all, p) => all + p[k], 0) / on.length)
      const spread = on.reduce((all, p) => all + (p[along] - ma) ** 2, 0)
      const slope = on.reduce((all, p) => all + (p[along] - ma) * (p[across] - mc), 0) / spread
      // Turned clockwise, what runs along y leans to the left.
      sum += (across === 1 ? slope : -slope) * spread
      weights += spread
    }
  return onSides > SIDES.share * points.length ? deg + (Math.atan(sum / weights) * 180) / Math.PI : deg
}

/** A ring that is a rectangle, upright, or a circle, but for what a photo cannot tell; else itself. */
function plainShape(ring: Ring, micro2: (mm: number) => number): PieceOutline {
  const { x0, y0, x1, y1 } = ringsBounds([ring])
  const [w, h] = [x1 - x0, y1 - y0]
  const points = pointsOf(respaced(ring, 0.5))
  // Corners that a photo rounds off lie off a little more.
  const offBox = points.map(([x, y]) => Math.min(x - x0, x1 - x, y - y0, y1 - y))
  if (within(offBox, ROUND_OFF_MM) && Math.abs(ringArea(ring)) > 0.985 * w * h)
    return { kind: 'rect', widthMm: micro2(middleSide(points, 0)), heightMm: micro2(middleSide(points, 1)) }
  const [cx, cy, r] = [(x0 + x1) / 2, (y0 + y1) / 2, Math.sqrt(Math.abs(ringArea(ring)) / Math.PI)]
  if (
    within(
      points.map(([x, y]) => Math.abs(Math.hypot(x - cx, y - cy) - r)),
      ROUND_OFF_MM,
    )
  )
    return { kind: 'circle', diameterMm: micro2(2 * r) }
  return faceOutline([ring])
}

/** All but one place in forty within a distance, and those within three times of it. */
const within = (off: readonly number[], most: number): boolean => {
  const sorted = [...off].sort((a, b) => a - b)
  return sorted[Math.floor(0.975 * (sorted.length - 1))] < most && sorted[sorted.length - 1] < 3 * most
}

/** How far the two sides of a rectangle are apart: the middle of all that lies on each. @param axis 0: left and right */
function middleSide(points: readonly Point[], axis: 0 | 1): number {
  const [low, high] = [Math.min(...points.map((p) => p[axis])), Math.max(...points.map((p) => p[axis]))]
  const at = (side: number): number => {
    const near = points.map((p) => p[axis]).filter((v) => Math.abs(v - side) < ROUND_OFF_MM)
    return near.reduce((sum, v) => sum + v, 0) / near.length
  }
  return at(high) - at(low)
}

/** Sizes of blanks to a hundredth of a millimetre: finer is no photo. */
const hundredth = (mm: number): number => Math.round(mm * 100) / 100

/** A blank as a workpiece: level along its longer side, its holes kept free. */
export function blankPiece({ edge, holes }: Pick<SeenBlank, 'edge' | 'holes'>): BlankPiece {
  const ring = simplified(flattenPath(edge, CHORD_MM / 2), CHORD_MM)
  const deg = readDeg(levelDeg(ring))
  return pieceAt(
    ring,
    holes.map((hole) => simplified(flattenPath(hole, CHORD_MM / 2), CHORD_MM)),
    deg,
  )
}

/** An edge that is turned so far, as a workpiece. */
function pieceAt(ring: Ring, holes: readonly Ring[], deg: number): BlankPiece {
  const box = ringsBounds([ring])
  const pivot: Point = [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2]
  const level = turned(ring, -deg, pivot)
  const outline = plainShape(level, hundredth)
  const size = outlineSize(outline)
  const { x0, y0, x1, y1 } = ringsBounds([level])
  // The middle of its box stays where it is when it is turned.
  const [mx, my] = turned(Float64Array.of((x0 + x1) / 2, (y0 + y1) / 2), deg, pivot)
  const isRound = outline.kind === 'circle'
  const pose = {
    xMm: micro(mx - size.widthMm / 2),
    yMm: micro(my - size.heightMm / 2),
    ...(deg !== 0 && !isRound && { deg }),
  }
  const [ox, oy] = [(x0 + x1 - size.widthMm) / 2, (y0 + y1 - size.heightMm) / 2]
  const keepOuts = Object.fromEntries(
    holes.map((hole, i): [string, KeepOut] => {
      const own = turned(hole, isRound ? 0 : -deg, isRound ? [mx, my] : pivot)
      const shape = plainShape(own, hundredth)
      const at = ringsBounds([own])
      const half = outlineSize(shape)
      const place = isRound ? [mx - size.widthMm / 2, my - size.heightMm / 2] : [ox, oy]
      return [
        `hole-${i + 1}`,
        {
          name: holes.length > 1 ? `hole ${i + 1}` : 'hole',
          outline: shape,
          pose: {
            xMm: micro((at.x0 + at.x1 - half.widthMm) / 2 - place[0]),
            yMm: micro((at.y0 + at.y1 - half.heightMm) / 2 - place[1]),
          },
        },
      ]
    }),
  )
  return { outline, pose, keepOuts }
}

/** Places of an edge, as far from each other all around. @param from where the first one is, places from the ring's first */
function places(ring: Ring, from = 0): Point[] {
  const n = ring.length / 2
  const lengths = new Float64Array(n + 1)
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n
    lengths[i + 1] = lengths[i] + Math.hypot(ring[2 * j] - ring[2 * i], ring[2 * j + 1] - ring[2 * i + 1])
  }
  let i = 0
  return Array.from({ length: PLACES }, (_, k): Point => {
    const at = ((((k + from) % PLACES) + PLACES) % PLACES) * (lengths[n] / PLACES)
    if (at < lengths[i]) i = 0
    while (i < n - 1 && lengths[i + 1] <= at) i++
    const t = (at - lengths[i]) / Math.max(1e-12, lengths[i + 1] - lengths[i])
    const j = (i + 1) % n
    return [ring[2 * i] + t * (ring[2 * j] - ring[2 * i]), ring[2 * i + 1] + t * (ring[2 * j + 1] - ring[2 * i + 1])]
  })
}

interface Turned {
  readonly off: number
  readonly deg: number
  /** The middles of both, which lie on each other. */
  readonly from: Point
  readonly to: Point
}

/** The turn that brings places nearest to others, and how far all but one in twenty lie off them then. */
function turnBetween(from: readonly Point[], to: readonly Point[], shift = 0): Turned {
  const middle = (of: readonly Point[]): Point => [
    of.reduce((sum, [x]) => sum + x, 0) / PLACES,
    of.reduce((sum, [, y]) => sum + y, 0) / PLACES,
  ]
  const [ma, mb] = [middle(from), middle(to)]
  let [dot, cross] = [0, 0]
  for (let k = 0; k < PLACES; k++) {
    const [a, b] = [from[k], to[(k + shift) % PLACES]]
    const [x, y, u, v] = [a[0] - ma[0], a[1] - ma[1], b[0] - mb[0], b[1] - mb[1]]
    dot += x * u + y * v
    cross += x * v - y * u
  }
  const angle = Math.atan2(cross, dot)
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
  const offs = from.map(([ax, ay], k) => {
    const [x, y] = [ax - ma[0], ay - ma[1]]
    const [bx, by] = to[(k + shift) % PLACES]
    return Math.hypot(cos * x - sin * y - (bx - mb[0]), sin * x + cos * y - (by - mb[1]))
  })
  return { off: offs.sort((a, b) => a - b)[Math.floor(0.95 * PLACES)], deg: (angle * 180) / Math.PI, from: ma, to: mb }
}

/** How one edge is turned against another one that is like it; undefined where they are not alike. */
function turnTo(from: readonly Point[], ring: Ring): Turned | undefined {
  const to = places(ring)
  let best: (Turned & { readonly shift: number }) | undefined
  for (let shift = 0; shift < PLACES; shift++) {
    const tried = turnBetween(from, to, shift)
    // Of ways that are as good, the one that is turned least.
    if (
      best === undefined ||
      tried.off < best.off - 0.1 ||
      (tried.off < best.off + 0.1 && Math.abs(tried.deg) < Math.abs(best.deg) - 1)
    )
      best = { ...tried, shift }
  }
  if (!best) return undefined
  let fine: Turned = best
  for (let part = -0.9; part < 1; part += 0.1) {
    const tried = turnBetween(from, places(ring, best.shift + part))
    if (tried.off < fine.off) fine = tried
  }
  return fine.off < ALIKE_MM ? fine : undefined
}

/**
 * Blanks as workpieces: those that are alike have the same edge, each turned as it lies. So what is laid on one lies on each of them.
 * @returns one for each blank, and which of them each is like: the first of its kind is like itself
 */
export function blankPieces(blanks: readonly SeenBlank[]): { readonly piece: BlankPiece; readonly like: number }[] {
  const rings = blanks.map(({ edge }) => flattenPath(edge, CHORD_MM / 2))
  const around = rings.map((ring) => places(ring))
  const out: { readonly piece: BlankPiece; readonly like: number }[] = []
  blanks.forEach((blank, i) => {
    for (let k = 0; k < i; k++) {
      const first = out[k]
      if (first.like !== k || blanks[k].holes.length !== blank.holes.length) continue
      if (Math.abs(blanks[k].areaMm2 / blank.areaMm2 - 1) > 0.03) continue
      const turn = turnTo(around[k], rings[i])
      if (!turn) continue
      const own = readDeg((first.piece.pose.deg ?? 0) + turn.deg)
      const lies = pieceAt(rings[i], [], own).pose
      const [size, mine] = [outlineSize(first.piece.outline), outlineSize(pieceAt(rings[i], [], own).outline)]
      const pose = {
        xMm: micro(lies.xMm + (mine.widthMm - size.widthMm) / 2),
        yMm: micro(lies.yMm + (mine.heightMm - size.heightMm) / 2),
        ...(own !== 0 && first.piece.outline.kind !== 'circle' && { deg: own }),
      }
      out.push({ piece: { ...first.piece, pose }, like: k })
      return
    }
    out.push({ piece: blankPiece(blank), like: i })
  })
  return out
}

/** Where a workpiece was seen: its pose by its edge, and how far all but one in twenty places of that lie off, mm. */
export interface PieceSeen {
  readonly pose: Workpiece['pose']
  readonly offMm: number
}

/**
 * How a workpiece lies by what is seen on the bed: the blank whose edge is like its own, the nearest to where it is thought to lie.
 * @returns undefined where none is like it
 */
export function pieceSeen(piece: Pick<Workpiece, 'outline' | 'pose'>, blanks: readonly SeenBlank[]): PieceSeen | undefined {
  const rings = outlineOfFace(piece.outline)
  const outer = [...rings].sort((a, b) => Math.abs(ringArea(b)) - Math.abs(ringArea(a)))[0]
  const size = outlineSize(piece.outline)
  // As it is thought to lie: of ways that are as good the one that is turned least against that counts.
  const map = poseMap(piece.pose, size)
  const thought = Float64Array.from(outer, (_, i) => mapped(map, outer[i - (i % 2)], outer[i - (i % 2) + 1])[i % 2])
  const clockwise = ringArea(thought) > 0 ? thought : reversed(thought)
  const own = places(clockwise)
  const area = Math.abs(ringArea(outer))
  let best: (PieceSeen & { readonly far: number }) | undefined
  for (const { edge } of blanks) {
    const ring = flattenPath(edge, CHORD_MM / 2)
    if (Math.abs(Math.abs(ringArea(ring)) / area - 1) > 0.05) continue
    const turn = turnTo(own, ring)
    if (!turn) continue
    const [mx, my] = mapped(map, size.widthMm / 2, size.heightMm / 2)
    const [cos, sin] = [Math.cos((turn.deg * Math.PI) / 180), Math.sin((turn.deg * Math.PI) / 180)]
    const [dx, dy] = [mx - turn.from[0], my - turn.from[1]]
    const [x, y] = [turn.to[0] + cos * dx - sin * dy, turn.to[1] + sin * dx + cos * dy]
    const isRound = piece.outline.kind === 'circle'
    const deg = isRound ? (piece.pose.deg ?? 0) : readDeg((piece.pose.deg ?? 0) + turn.deg)
    const pose = { xMm: micro(x - size.widthMm / 2), yMm: micro(y - size.heightMm / 2), ...(deg !== 0 && { deg }) }
    const far = Math.hypot(x - mx, y - my)
    if (!best || far < best.far) best = { pose, offMm: turn.off, far }
  }
  return best && { pose: best.pose, offMm: best.offMm }
}
