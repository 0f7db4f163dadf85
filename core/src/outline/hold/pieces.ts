import { combine } from '../../geometry/clip.ts'
import { nest } from '../../geometry/nesting.ts'
import { type Ring, ringArea, ringBounds } from '../../geometry/ring.ts'

/** A piece of the sheet after all cuts. */
export interface Piece {
  readonly outer: Ring
  readonly holes: readonly Ring[]
  /** How many pieces are around it. */
  readonly depth: number
  readonly areaMm2: number
}

/** Pieces smaller than this are crumbs of the arithmetic, mm². */
const CRUMB_MM2 = 0.05

/**
 * What a sheet falls into when bands of it are cut away: the faces of the arrangement that are left. Only bands that reach the
 * sheet's edge are clipped against it; all others are told apart by what lies in what.
 * @param sheet its edge by even-odd, mm @param bands what the cuts take away, rings that do not cross, mm
 */
export function piecesOfSheet(sheet: readonly Ring[], bands: readonly Ring[]): Piece[] {
  // Of an upright rectangle it is enough to look at boxes; any other edge is clipped against.
  const upright = sheet.length === 1 && isUpright(sheet[0])
  const border = ringBounds(sheet[0])
  const within = (ring: Ring): boolean => {
    const { x0, y0, x1, y1 } = ringBounds(ring)
    return x0 > border.x0 + CLEAR_MM && y0 > border.y0 + CLEAR_MM && x1 < border.x1 - CLEAR_MM && y1 < border.y1 - CLEAR_MM
  }
  const { depth: level, parent: around } = nest(bands)
  const rootOf = (i: number): number => {
    let at = i
    while (around[at] >= 0) at = around[at]
    return at
  }
  const inside = bands.map((_, i) => upright && within(bands[level[i] === 0 ? i : rootOf(i)]))
  const rings = [
    ...combine(
      'subtract',
      sheet,
      bands.filter((_, i) => !inside[i]),
    ),
    ...bands.filter((_, i) => inside[i]),
  ]
  const { parent, depth } = nest(rings)
  const holesOf = new Map<number, Ring[]>()
  rings.forEach((ring, i) => {
    const list = holesOf.get(parent[i])
    if (list) list.push(ring)
    else holesOf.set(parent[i], [ring])
  })
  return rings.flatMap((outer, i): Piece[] => {
    // Outer rings and holes take turns; each hole belongs to the outer ring right around it.
    if (depth[i] % 2 === 1) return []
    const holes = holesOf.get(i) ?? []
    const areaMm2 = Math.abs(ringArea(outer)) - holes.reduce((sum, hole) => sum + Math.abs(ringArea(hole)), 0)
    return areaMm2 < CRUMB_MM2 ? [] : [{ outer, holes, depth: depth[i] / 2, areaMm2 }]
  })
}

/** Farther than this from the sheet's edge nothing touches it, mm. */
const CLEAR_MM = 0.01

/** A rectangle along the axes: its box is itself. */
function isUpright(ring: Ring): boolean {
  const { x0, y0, x1, y1 } = ringBounds(ring)
  return Math.abs(Math.abs(ringArea(ring)) - (x1 - x0) * (y1 - y0)) < 1e-6
}
