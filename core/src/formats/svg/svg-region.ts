import { combine, filledBy, linesWithin } from '../../geometry/clip.ts'
import { flattenPath, type Path, pathFromLine, pathFromRing } from '../../geometry/path.ts'
import { type Ring, ringBounds, ringsBounds } from '../../geometry/ring.ts'

export const CHORD_MM = 0.004

/** Paths as polygons, mm. */
export const flatOf = (paths: readonly Path[]): Ring[] => paths.map((path) => flattenPath(path, CHORD_MM))

/** The area of paths by a rule, by even-odd, mm. */
export const areaOf = (paths: readonly Path[], rule: 'nonzero' | 'evenodd'): Ring[] =>
  filledBy(
    rule,
    flatOf(paths).filter((ring) => ring.length >= 6),
  )

/** Whether a shape lies wholly within a region: most lie within a page that clips them. @param grownMm a stroke reaches so far beyond */
export function isWithin(flat: readonly Ring[], region: readonly Ring[], grownMm: number): boolean {
  if (region.length !== 1 || !isBox(region[0])) return false
  const box = ringsBounds(flat as Ring[])
  const b = ringBounds(region[0])
  const slack = 1e-6 - grownMm
  return box.x0 >= b.x0 - slack && box.x1 <= b.x1 + slack && box.y0 >= b.y0 - slack && box.y1 <= b.y1 + slack
}

/** What of an area lies within a region, as paths. @param rings by even-odd */
export const areaWithin = (rings: readonly Ring[], region: readonly Ring[]): Path[] =>
  rings.length === 0 || region.length === 0 ? [] : combine('intersect', rings, region).map(pathFromRing)

/** What of lines lies within a region, as open paths. */
export const linesIn = (lines: readonly Ring[], region: readonly Ring[]): Path[] =>
  region.length === 0 ? [] : linesWithin(lines, region).map(pathFromLine)

function isBox(ring: Ring): boolean {
  if (ring.length !== 8) return false
  const { x0, y0, x1, y1 } = ringBounds(ring)
  for (let i = 0; i < 8; i += 2) {
    const onX = Math.abs(ring[i] - x0) < 1e-9 || Math.abs(ring[i] - x1) < 1e-9
    const onY = Math.abs(ring[i + 1] - y0) < 1e-9 || Math.abs(ring[i + 1] - y1) < 1e-9
    if (!onX || !onY) return false
  }
  return true
}
