import { offset, shapeArea } from '../../geometry/clip.ts'
import { hullOf } from '../../geometry/hull.ts'
import { type Ring, ringsBounds } from '../../geometry/ring.ts'
import { cosSin, moving } from '../../space/affine.ts'
import { mappedRings } from '../../space/map-shapes.ts'
import { type Climb, climbed, largestAt } from './climb.ts'
import { type FitPose, liesIn } from './contact.ts'
import { type Discs, discsOf, distanceAt, type EdgeDistances, edgeDistances, widthAcross } from './discs.ts'
import { type Edges, edgesOf, fewCorners } from './shape.ts'

export interface FitSettings {
  /** So far from the edge, mm. */
  readonly marginMm?: number
  /** Only these angles, degrees clockwise; absent: any. */
  readonly angles?: readonly number[]
  /** False: as large as it is, or not at all. */
  readonly mayScale?: boolean
}

/** How a shape lies in another one. */
export interface Fit {
  /** Against its own size. */
  readonly scale: number
  readonly angleDeg: number
  /** Where the middle of the box around the unturned shape comes to lie, mm. */
  readonly x: number
  readonly y: number
  readonly marginMm: number
}

/** A shape for which there is no place. @property scale the largest at which it would have one; 0: none at all */
export interface NoFit {
  readonly fits: false
  readonly scale: number
  readonly message: string
}

/** Nodes at which distances are known, and how many lie across a narrow room. */
const NODES = 9000
const MOST_NODES = 60_000
const ACROSS = 8
/** Places along the longer side, and across a narrow room. */
const PLACES = 44
const PLACES_ACROSS = 4
const STEP_DEG = 5
/** Poses that are climbed from. */
const STARTS = 7
/** Poses that come within this share of the best are worth to be climbed from. */
const WORTH = 0.85
/** Kept from the edge so that numbers of a file do not cross it, share of the scale. */
const CLEAR = 1e-7
/** Larger by less than this share is not worth a turn. */
const UNSEEN = 0.001
/** Edges against edges: more take too long to be climbed along once more. */
const MOST_PAIRS = 60_000

/**
 * The largest scale, the angle and the place at which a shape lies within another one with a margin. Places and angles are tried on a
 * grid, the shape as discs against distances from the edge; from the best of them exact contacts are climbed along.
 * @param shape,into filled by even-odd, mm
 */
export function fit(shape: readonly Ring[], into: readonly Ring[], settings: FitSettings = {}): Fit | NoFit {
  const { marginMm = 0, angles, mayScale = true } = settings
  const box = ringsBounds(shape)
  const room = marginMm > 0 ? offset(into, -marginMm) : into
  if (!(box.x1 > box.x0 && box.y1 > box.y0)) return { fits: false, scale: 0, message: 'This shape encloses nothing.' }
  if (room.length === 0 || shapeArea(offset(room, 0)) <= 0)
    return { fits: false, scale: 0, message: `A margin of ${marginMm} mm leaves nothing of where it should lie.` }
  const { whole: wholeRoom, few: fewRoom } = fewCorners(room)
  const roomEdges = edgesOf(fewRoom)
  // In a convex room only the hull counts.
  const isConvex = roomEdges.pointed.every((v) => v === 1)
  const { whole, few } = fewCorners(isConvex ? [hullOf(shape)] : shape)
  const discs = discsOf(few)
  const [ox, oy] = [discs.x[0], discs.y[0]]
  const atOrigin = (rings: readonly Ring[]): Ring[] => mappedRings(moving(-ox, -oy), rings)
  const edges = edgesOf(atOrigin(few))
  const reach = edges.ax.reduce((most, x, i) => Math.max(most, Math.hypot(x, edges.ay[i])), 0)
  const degs = angles ?? Array.from({ length: 360 / STEP_DEG }, (_, i) => i * STEP_DEG)
  const climb = { shape: edges, into: roomEdges, reach, turns: angles === undefined, mostScale: mayScale ? Infinity : 1 }
  let best: FitPose | undefined
  for (const start of starts(
    discs,
    distances(fewRoom),
    widthAcross(fewRoom),
    degs,
    Math.sqrt(shapeArea(fewRoom) / shapeArea(few)),
  )) {
    const inside = settled(edges, roomEdges, start)
    if (!inside) continue
    const up = climbed({ ...climb, ...(best && { toBeat: best.scale }) }, inside)
    if (!best || isBetter(up, best)) best = up
    if (!mayScale && best.scale >= 1) break
  }
  const all = { ...climb, shape: edgesOf(atOrigin(whole)), into: edgesOf(wholeRoom) }
  const refined = (pose: FitPose, turns: boolean): FitPose | undefined => {
    const near = exact(all, pose)
    // With all corners a little more may be left.
    return near && (all.shape.ax.length * all.into.ax.length < MOST_PAIRS ? climbed({ ...all, turns }, near, 0.004, 8) : near)
  }
  const turned = best && refined(best, climb.turns)
  const sure = turned && climb.turns && turned.deg % 360 !== 0 ? (asGoodUnturned(turned) ?? turned) : turned
  if (!sure) return { fits: false, scale: 0, message: 'There is no place for it here, however small.' }
  if (!mayScale && sure.scale < 1 - 1e-6) return { fits: false, scale: sure.scale, message: tooLarge(sure.scale) }
  /** Not turned, where that is as large but for what nobody sees: a circle is not turned for a millionth. */
  function asGoodUnturned({ x, y, scale }: FitPose): FitPose | undefined {
    const start = settled(edges, roomEdges, { x, y, deg: 0, scale: scale * (1 - UNSEEN) })
    const up = start && climbed({ ...climb, turns: false }, start)
    const pose = up && refined(up, false)
    return pose && pose.scale >= scale * (1 - UNSEEN) ? pose : undefined
  }
  const [cos, sin] = cosSin(sure.deg)
  const [mx, my] = [(box.x0 + box.x1) / 2 - ox, (box.y0 + box.y1) / 2 - oy]
  const scale = mayScale ? sure.scale * (1 - CLEAR) : 1
  return {
    scale,
    angleDeg: normal(sure.deg),
    x: sure.x + scale * (cos * mx - sin * my),
    y: sure.y + scale * (sin * mx + cos * my),
    marginMm,
  }
}

/** Larger, or as large and turned less. */
const isBetter = (a: FitPose, b: FitPose): boolean =>
  a.scale > b.scale * (1 + 1e-5) || (a.scale > b.scale * (1 - 1e-5) && Math.abs(normal(a.deg)) < Math.abs(normal(b.deg)) - 1e-6)

const tooLarge = (scale: number): string =>
  `It does not fit: it would at ${Math.floor(1000 * scale) / 10} % of its size, ${Math.ceil(1000 * (1 - scale)) / 10} % smaller.`

const normal = (deg: number): number => {
  const within = ((deg % 360) + 360) % 360
  return within > 180 ? within - 360 : within
}

function distances(room: readonly Ring[]): EdgeDistances {
  const { x0, y0, x1, y1 } = ringsBounds(room)
  const area = (x1 - x0) * (y1 - y0)
  const fine = Math.min(Math.sqrt(area / NODES), widthAcross(room) / ACROSS)
  return edgeDistances(room, Math.max(fine, Math.sqrt(area / MOST_NODES)))
}

/** Poses of the grid that are worth to be climbed from, the best first, none near another one. */
function starts(discs: Discs, room: EdgeDistances, across: number, degs: readonly number[], mostScale: number): FitPose[] {
  const { columns, rows, x0, y0, cell } = room
  const step = Math.max(Math.min((Math.max(columns, rows) * cell) / PLACES, across / PLACES_ACROSS), cell)
  const turned = degs.map((deg) => {
    const [cos, sin] = cosSin(deg)
    const x = new Float64Array(discs.count)
    const y = new Float64Array(discs.count)
    for (let i = 0; i < discs.count; i++) {
      const [dx, dy] = [discs.x[i] - discs.x[0], discs.y[i] - discs.y[0]]
      x[i] = cos * dx - sin * dy
      y[i] = sin * dx + cos * dy
    }
    return { deg, x, y }
  })
  const fits = (x: number, y: number, at: (typeof turned)[number], scale: number): boolean => {
    for (let i = 0; i < discs.count; i++)
      if (distanceAt(room, x + scale * at.x[i], y + scale * at.y[i]) < scale * discs.r[i]) return false
    return true
  }
  const places: { x: number; y: number; away: number }[] = []
  for (let y = y0 + step / 2; y < y0 + rows * cell; y += step)
    for (let x = x0 + step / 2; x < x0 + columns * cell; x += step) {
      const away = distanceAt(room, x, y)
      if (away > 0) places.push({ x, y, away })
    }
  places.sort((a, b) => b.away - a.away)
  let most = 0
  const found: FitPose[] = []
  for (const { x, y, away } of places) {
    // Not even its largest disc.
    const limit = Math.min(mostScale, away / discs.r[0])
    if (limit < WORTH * most) break
    for (const at of turned) {
      let low = Math.max(WORTH * most, 1e-4 * mostScale)
      if (limit <= low || !fits(x, y, at, low)) continue
      let high = limit
      for (let k = 0; k < 7; k++) {
        const middle = (low + high) / 2
        if (fits(x, y, at, middle)) low = middle
        else high = middle
      }
      most = Math.max(most, low)
      found.push({ x, y, deg: at.deg, scale: low })
    }
  }
  found.sort((a, b) => b.scale - a.scale)
  const chosen: FitPose[] = []
  for (const pose of found) {
    if (chosen.length === STARTS || pose.scale < WORTH * most) break
    const isNear = (other: FitPose): boolean =>
      Math.hypot(other.x - pose.x, other.y - pose.y) < 3 * step && Math.abs(normal(other.deg - pose.deg)) < 25
    if (!chosen.some(isNear)) chosen.push(pose)
  }
  return chosen
}

/** A pose of the grid in which the shape surely lies inside: made smaller until it does. */
function settled(shape: Edges, into: Edges, start: FitPose): FitPose | undefined {
  for (let scale = start.scale; scale > 0.5 * start.scale; scale *= 0.96)
    if (liesIn(shape, into, { ...start, scale }))
      return { ...start, scale: largestAt(shape, into, start, scale, Infinity) || scale }
  return undefined
}

/** The pose with as much as the shapes have with all their corners. */
function exact({ shape, into, mostScale }: Climb, pose: FitPose): FitPose | undefined {
  const isLarge = shape.ax.length * into.ax.length > MOST_PAIRS
  for (let scale = pose.scale; scale > 0.8 * pose.scale; scale *= 0.995) {
    if (isLarge) {
      if (liesIn(shape, into, { ...pose, scale })) return { ...pose, scale: largerStill(shape, into, pose, scale, mostScale) }
      continue
    }
    const grown = largestAt(shape, into, pose, scale, mostScale)
    if (grown > 0) return { ...pose, scale: grown }
  }
  return undefined
}

/** A little more than a scale at which a shape lies inside, found by halving: of many edges contacts take too long. */
function largerStill(shape: Edges, into: Edges, pose: FitPose, scale: number, most: number): number {
  let low = scale
  let high = Math.min(most, 1.01 * scale)
  if (liesIn(shape, into, { ...pose, scale: high })) return high
  for (let k = 0; k < 12; k++) {
    const middle = (low + high) / 2
    if (liesIn(shape, into, { ...pose, scale: middle })) low = middle
    else high = middle
  }
  return low
}
