import { combine, linesWithin } from '../../geometry/clip.ts'
import { flattenPath, LINE, type Path, pathFromRing } from '../../geometry/path.ts'
import { type Ring, ringBounds, ringContains, ringsBounds } from '../../geometry/ring.ts'

const CHORD_MM = 0.004

/**
 * What of a shape lies within a clip region: untouched where all of it does. An area is intersected; of a mere stroke the
 * lines inside remain. @param paths mm @param region filled by even-odd, mm @param area whether the shape is filled
 */
export function clippedPaths(paths: readonly Path[], region: readonly Ring[], area: boolean): Path[] {
  const flat = paths.map((path) => flattenPath(path, CHORD_MM))
  if (flat.length === 0 || region.length === 0) return []
  const box = ringsBounds(flat)
  // Most shapes lie wholly within a page that clips them.
  if (region.length === 1 && isBox(region[0])) {
    const b = ringBounds(region[0])
    const slack = 1e-6
    if (box.x0 >= b.x0 - slack && box.x1 <= b.x1 + slack && box.y0 >= b.y0 - slack && box.y1 <= b.y1 + slack) return [...paths]
  }
  if (area)
    return combine(
      'intersect',
      flat.filter((ring) => ring.length >= 6),
      region,
    ).map(pathFromRing)
  return paths.flatMap((path, i) => {
    const line = path.closed ? Float64Array.of(...flat[i], flat[i][0], flat[i][1]) : flat[i]
    const parts = linesWithin([line], region)
    if (parts.length === 1 && parts[0].length === line.length && ringContains(region[0], line[0], line[1])) return [path]
    return parts.map((part) => ({
      closed: false,
      kinds: new Uint8Array(part.length / 2 - 1).fill(LINE),
      points: part,
    }))
  })
}

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
