import { convexHull } from '../geometry/hull.ts'
import { faceSize, outlineOfFace, type Workpiece } from '../job/document/workpiece.ts'
import { micro } from '../numeric/micro.ts'
import { type Affine, mapped } from '../space/affine.ts'
import { type Pose, poseMap } from '../space/pose.ts'
import { counted } from '../units/counted.ts'

type Point = readonly [number, number]

/** A place that is known, and where it was found, mm. */
export interface FoundMark {
  readonly known: Point
  readonly found: Point
}

/** How freely a map may be: moved · also turned · also made larger · also sheared. */
export type Freedom = 'shift' | 'turn' | 'similarity' | 'affine'

/** How many marks each needs at least. */
export const LEAST_MARKS: Readonly<Record<Freedom, number>> = { shift: 1, turn: 2, similarity: 2, affine: 3 }

/** A map from known places to where they were found. */
export interface Registration {
  readonly freedom: Freedom
  readonly map: Affine
  /** Degrees clockwise, and how much larger; of an affine map the nearest such. */
  readonly deg: number
  readonly scale: number
  /** How far each mark lies from where the map puts it, mm; and the one that lies farthest. */
  readonly offMm: readonly number[]
  readonly worst: number
  readonly rmsMm: number
}

/** Nearer to each other than this, marks tell no angle, mm. */
const APART_MM = 2

/**
 * The map that brings known places nearest to where they were found, by least squares: turns and similarities in closed form
 * (S. Umeyama, IEEE PAMI 13(4), 1991), affine maps by their normal equations.
 * @returns a sentence where the marks do not give one
 */
export function registered(marks: readonly FoundMark[], freedom: Freedom): Registration | { readonly not: string } {
  const n = marks.length
  const least = LEAST_MARKS[freedom]
  if (n < least) return { not: `${counted(least - n, 'mark')} more.` }
  const mean = (of: (mark: FoundMark) => number): number => marks.reduce((sum, mark) => sum + of(mark), 0) / n
  const [kx, ky] = [mean(({ known }) => known[0]), mean(({ known }) => known[1])]
  const [fx, fy] = [mean(({ found }) => found[0]), mean(({ found }) => found[1])]
  let [xx, xy, yy, ux, uy, vx, vy] = [0, 0, 0, 0, 0, 0, 0]
  for (const { known, found } of marks) {
    const [x, y, u, v] = [known[0] - kx, known[1] - ky, found[0] - fx, found[1] - fy]
    xx += x * x
    xy += x * y
    yy += y * y
    ux += u * x
    uy += u * y
    vx += v * x
    vy += v * y
  }
  let linear: readonly [number, number, number, number] = [1, 0, 0, 1]
  if (freedom === 'turn' || freedom === 'similarity') {
    if (xx + yy < APART_MM ** 2 / 2) return { not: 'The marks lie on one place: find one that is farther away.' }
    const [along, across] = [ux + vy, vx - uy]
    const long = Math.hypot(along, across)
    if (long < 1e-9) return { not: 'The marks were found on one place: each has its own.' }
    const scale = freedom === 'similarity' ? long / (xx + yy) : 1
    const [c, s] = [(scale * along) / long, (scale * across) / long]
    linear = [c, s, -s, c]
  } else if (freedom === 'affine') {
    const det = xx * yy - xy * xy
    if (det < APART_MM ** 2 * Math.max(xx, yy) * 0.1) return { not: 'The marks lie on one line: find one beside it.' }
    linear = [(ux * yy - uy * xy) / det, (vx * yy - vy * xy) / det, (uy * xx - ux * xy) / det, (vy * xx - vx * xy) / det]
  }
  const [a, b, c, d] = linear
  const map: Affine = [a, b, c, d, fx - a * kx - c * ky, fy - b * kx - d * ky]
  const offMm = marks.map(({ known, found }) => {
    const [x, y] = mapped(map, ...known)
    return Math.hypot(x - found[0], y - found[1])
  })
  return {
    freedom,
    map,
    deg: (Math.atan2(b - c, a + d) * 180) / Math.PI,
    scale: Math.sqrt(Math.abs(a * d - b * c)),
    offMm,
    worst: offMm.indexOf(Math.max(...offMm)),
    rmsMm: Math.sqrt(offMm.reduce((sum, off) => sum + off * off, 0) / n),
  }
}

/** How a workpiece lies on the bed where places of its face were found there; one alone moves it, more turn it as well. */
export function poseFound(
  piece: Pick<Workpiece, 'outline' | 'pose'>,
  marks: readonly FoundMark[],
): { readonly pose: Pose; readonly registration: Registration } | { readonly not: string } {
  const { widthMm, heightMm } = faceSize(piece)
  const turned = marks.length > 1
  const registration = turned ? registered(marks, 'turn') : registered(asItLies(piece, marks), 'shift')
  if ('not' in registration) return registration
  if (!turned) {
    const [, , , , dx, dy] = registration.map
    return { pose: { ...piece.pose, xMm: micro(piece.pose.xMm + dx), yMm: micro(piece.pose.yMm + dy) }, registration }
  }
  const [x, y] = mapped(registration.map, widthMm / 2, heightMm / 2)
  const deg = Math.round(registration.deg * 1000) / 1000
  return { pose: { xMm: micro(x - widthMm / 2), yMm: micro(y - heightMm / 2), ...(deg !== 0 && { deg }) }, registration }
}

/** Marks with their known places on the bed, as the workpiece lies by the job. */
function asItLies({ outline, pose }: Pick<Workpiece, 'outline' | 'pose'>, marks: readonly FoundMark[]): FoundMark[] {
  const map = poseMap(pose, faceSize({ outline }))
  return marks.map(({ known, found }) => ({ known: mapped(map, ...known), found }))
}

/** More corners than these are too many to choose from. */
const MOST_CORNERS = 8

/** Places of a face that can be found again with the head: what was marked on it, and its outermost corners. */
export function placesToFind({ outline, marks }: Pick<Workpiece, 'outline' | 'marks'>): Point[] {
  const marked = Object.values(marks).map(({ xMm, yMm }): Point => [xMm, yMm])
  if (outline.kind === 'circle') return marked
  const points = outlineOfFace(outline).flatMap((ring) =>
    Array.from({ length: ring.length / 2 }, (_, i): Point => [ring[2 * i], ring[2 * i + 1]]),
  )
  let corners = [...convexHull(points)]
  // The corner whose loss changes the outline least goes first.
  while (corners.length > MOST_CORNERS) {
    const areas = corners.map(([x, y], i) => {
      const [ax, ay] = corners[(i + corners.length - 1) % corners.length]
      const [bx, by] = corners[(i + 1) % corners.length]
      return Math.abs((x - ax) * (by - ay) - (y - ay) * (bx - ax))
    })
    const least = areas.indexOf(Math.min(...areas))
    corners = corners.filter((_, i) => i !== least)
  }
  return [...marked, ...corners]
}
