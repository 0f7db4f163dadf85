import { combine, offset } from '../geometry/clip.ts'
import { type Ring, ringsBounds } from '../geometry/ring.ts'
import type { Workpiece } from '../job/document/workpiece.ts'
import { outlineOfFace } from '../job/document/workpiece.ts'

export interface JigSettings {
  /** Between the piece and its jig, mm. */
  readonly clearanceMm: number
  /** Of the frame around it, mm. */
  readonly borderMm: number
  /** Places for fingers at both ends, to lift it out. */
  readonly fingers: boolean
  /** Holes through which the air of the assist escapes, so that a light jig is not lifted. */
  readonly vents: boolean
}

export const JIG: JigSettings = { clearanceMm: 0.3, borderMm: 20, fingers: true, vents: true }

/** What a finger needs, mm across. */
const FINGER_MM = 20
const VENT_MM = 6
/** From vent to vent, mm. */
const VENTS_MM = 40
/** Chords of round holes. */
const CHORDS = 48

const circle = (x: number, y: number, radius: number): Ring =>
  Float64Array.from({ length: 2 * CHORDS }, (_, i) => {
    const a = (2 * Math.PI * (i >> 1)) / CHORDS
    return i % 2 ? y + radius * Math.sin(a) : x + radius * Math.cos(a)
  })

/**
 * A frame in which a piece lies always in the same place: its outline with room around it, cut out of a sheet, as rings to be cut;
 * the largest is the frame's own edge. Holes of the piece stay open: the jig does not fill them.
 */
export function jigOf({ outline }: Pick<Workpiece, 'outline'>, { clearanceMm, borderMm, fingers, vents }: JigSettings): Ring[] {
  const pocket = offset(outlineOfFace(outline), clearanceMm, { outermost: true })
  const box = ringsBounds(pocket)
  const edge = { x0: box.x0 - borderMm, y0: box.y0 - borderMm, x1: box.x1 + borderMm, y1: box.y1 + borderMm }
  const frame = Float64Array.of(edge.x0, edge.y0, edge.x1, edge.y0, edge.x1, edge.y1, edge.x0, edge.y1)
  const [left, right] = [endOf(pocket, -1), endOf(pocket, 1)]
  // No wider than the piece is high there, or than what is left of the border.
  const radius = Math.min(FINGER_MM, box.y1 - box.y0, 2 * borderMm - 8) / 2
  const grips = fingers && radius > 3 ? [circle(...left, radius), circle(...right, radius)] : []
  const opening = grips.length > 0 ? combine('union', combine('union', pocket, [grips[0]]), [grips[1]]) : pocket
  const holes = vents
    ? ventsIn(edge, borderMm).filter(
        ([x, y]) => !grips.some((_, i) => Math.hypot(x - [left, right][i][0], y - [left, right][i][1]) < radius + VENT_MM),
      )
    : []
  return [frame, ...opening, ...holes.map(([x, y]) => circle(x, y, VENT_MM / 2))]
}

/** The place of an outline that lies farthest to a side. */
function endOf(rings: readonly Ring[], side: 1 | -1): readonly [number, number] {
  let far = -Infinity
  const at: [number, number][] = []
  for (const ring of rings)
    for (let i = 0; i < ring.length; i += 2) {
      const x = side * ring[i]
      if (x > far + 1e-6) at.length = 0
      if (x >= far - 1e-6) at.push([ring[i], ring[i + 1]])
      far = Math.max(far, x)
    }
  // In the middle of a straight end.
  const ys = at.map(([, y]) => y)
  return [at[0][0], (Math.min(...ys) + Math.max(...ys)) / 2]
}

/** Places all around in the middle of a border. */
function ventsIn({ x0, y0, x1, y1 }: { x0: number; y0: number; x1: number; y1: number }, borderMm: number): [number, number][] {
  if (borderMm < 2 * VENT_MM) return []
  const [ax, ay, bx, by] = [x0 + borderMm / 2, y0 + borderMm / 2, x1 - borderMm / 2, y1 - borderMm / 2]
  const along = (from: number, to: number): number[] => {
    const n = Math.max(1, Math.round((to - from) / VENTS_MM))
    return Array.from({ length: n + 1 }, (_, i) => from + ((to - from) * i) / n)
  }
  return [
    ...along(ax, bx).flatMap((x): [number, number][] => [
      [x, ay],
      [x, by],
    ]),
    ...along(ay, by)
      .slice(1, -1)
      .flatMap((y): [number, number][] => [
        [ax, y],
        [bx, y],
      ]),
  ]
}
