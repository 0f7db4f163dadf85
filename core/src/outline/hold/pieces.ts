import { combine } from '../../geometry/clip.ts'
import { nest } from '../../geometry/nesting.ts'
import { type Ring, ringArea } from '../../geometry/ring.ts'

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
 * What a sheet falls into when bands of it are cut away: the faces of the arrangement that are left.
 * @param sheet ring, mm @param bands what the cuts take away, filled by even-odd, mm
 */
export function piecesOfSheet(sheet: Ring, bands: readonly Ring[]): Piece[] {
  const rings = combine('subtract', [sheet], bands)
  const { parent, depth } = nest(rings)
  return rings.flatMap((outer, i): Piece[] => {
    const area = ringArea(outer)
    // Outer rings turn one way, holes the other; each hole belongs to the outer ring right around it.
    if (depth[i] % 2 === 1) return []
    const holes = rings.filter((_, j) => parent[j] === i)
    const areaMm2 = Math.abs(area) - holes.reduce((sum, hole) => sum + Math.abs(ringArea(hole)), 0)
    return areaMm2 < CRUMB_MM2 ? [] : [{ outer, holes, depth: depth[i] / 2, areaMm2 }]
  })
}
