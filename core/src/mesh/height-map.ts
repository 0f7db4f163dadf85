import type { GreyPicture } from '../picture/picture.ts'
import type { Triangles } from './stl.ts'

/** The axis a mesh is looked along: `+z` sees it from above. */
export type ViewAxis = '+x' | '-x' | '+y' | '-y' | '+z' | '-z'

/** Which way is right and up, and which coordinate comes nearer, for whoever looks along an axis; signs and indices. */
const VIEWS: Readonly<
  Record<ViewAxis, readonly [right: number, rightSign: number, up: number, upSign: number, near: number, nearSign: number]>
> = {
  '+z': [0, 1, 1, 1, 2, 1],
  '-z': [0, -1, 1, 1, 2, -1],
  '+x': [1, 1, 2, 1, 0, 1],
  '-x': [1, -1, 2, 1, 0, -1],
  '+y': [0, -1, 2, 1, 1, 1],
  '-y': [0, 1, 2, 1, 1, -1],
}

/** Extent of a mesh seen along an axis, in its own unit. */
export interface MeshExtent {
  readonly width: number
  readonly height: number
  readonly depth: number
}

interface Seen extends MeshExtent {
  readonly left: number
  readonly top: number
  readonly front: number
}

function seen({ count, points }: Triangles, axis: ViewAxis): Seen {
  const [r, rs, u, us, n, ns] = VIEWS[axis]
  const low = [Infinity, Infinity, Infinity]
  const high = [-Infinity, -Infinity, -Infinity]
  for (let i = 0; i < 9 * count; i += 3) {
    const place = [rs * points[i + r], us * points[i + u], ns * points[i + n]]
    for (let k = 0; k < 3; k++) {
      if (place[k] < low[k]) low[k] = place[k]
      if (place[k] > high[k]) high[k] = place[k]
    }
  }
  return {
    width: high[0] - low[0],
    height: high[1] - low[1],
    depth: high[2] - low[2],
    left: low[0],
    top: high[1],
    front: high[2],
  }
}

export const meshExtent = (mesh: Triangles, axis: ViewAxis): MeshExtent => {
  const { width, height, depth } = seen(mesh, axis)
  return { width, height, depth }
}

/**
 * The depth of a mesh along an axis as a 16-bit picture: an orthographic z-buffer (E. Catmull, 1974) at pixel centres.
 * The nearest is white, the farthest black; where there is no mesh it is transparent. What lies outside `near`…`far`
 * is cut to them.
 * @param near,far share of the depth, 0 the nearest point to 1 the farthest
 * @throws RangeError where the mesh has no width, height or depth along this axis
 */
export function heightMap(
  mesh: Triangles,
  axis: ViewAxis,
  {
    widthPx,
    heightPx,
    near,
    far,
  }: { readonly widthPx: number; readonly heightPx: number; readonly near: number; readonly far: number },
  progress?: (done: number) => void,
): GreyPicture {
  const { width, height, depth, left, top, front } = seen(mesh, axis)
  if (!(width > 0 && height > 0)) throw new RangeError('Seen along this axis the mesh is only a line. Choose another axis.')
  if (!(depth > 0)) throw new RangeError('Along this axis the mesh is flat: there is no depth to carve. Choose another axis.')
  if (!(far > near)) throw new RangeError(`The far end (${far}) must lie behind the near one (${near}).`)
  const [r, rs, u, us, n, ns] = VIEWS[axis]
  const { count, points } = mesh
  const sx = widthPx / width
  const sy = heightPx / height
  const nearest = new Float32Array(widthPx * heightPx).fill(Infinity)
  for (let t = 0; t < count; t++) {
    if (progress && (t & 16_383) === 0) progress(t / count)
    const i = 9 * t
    const ax = (rs * points[i + r] - left) * sx
    const ay = (top - us * points[i + u]) * sy
    const az = front - ns * points[i + n]
    const bx = (rs * points[i + 3 + r] - left) * sx
    const by = (top - us * points[i + 3 + u]) * sy
    const bz = front - ns * points[i + 3 + n]
    const cx = (rs * points[i + 6 + r] - left) * sx
    const cy = (top - us * points[i + 6 + u]) * sy
    const cz = front - ns * points[i + 6 + n]
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
    if (area === 0) continue
    const x0 = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5))
    const x1 = Math.min(widthPx - 1, Math.floor(Math.max(ax, bx, cx) - 0.5))
    const y0 = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5))
    const y1 = Math.min(heightPx - 1, Math.floor(Math.max(ay, by, cy) - 0.5))
    for (let y = y0; y <= y1; y++) {
      const py = y + 0.5
      for (let x = x0; x <= x1; x++) {
        const px = x + 0.5
        const wa = ((bx - px) * (cy - py) - (by - py) * (cx - px)) / area
        const wb = ((cx - px) * (ay - py) - (cy - py) * (ax - px)) / area
        const wc = 1 - wa - wb
        // A hair of tolerance, so that no seam opens between neighbours.
        if (wa < -1e-6 || wb < -1e-6 || wc < -1e-6) continue
        const z = wa * az + wb * bz + wc * cz
        const at = y * widthPx + x
        if (z < nearest[at]) nearest[at] = z
      }
    }
  }
  const samples = new Uint16Array(nearest.length)
  const alpha = new Uint8Array(nearest.length)
  let whole = true
  const from = near * depth
  const span = (far - near) * depth
  for (let i = 0; i < nearest.length; i++) {
    if (nearest[i] === Infinity) {
      samples[i] = 65_535
      whole = false
      continue
    }
    const share = (nearest[i] - from) / span
    samples[i] = share <= 0 ? 65_535 : share >= 1 ? 0 : (1 - share) * 65_535 + 0.5
    alpha[i] = 255
  }
  return { widthPx, heightPx, full: 65_535, samples, ...(whole ? {} : { alpha }) }
}
