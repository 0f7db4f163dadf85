import { cosSin } from '../space/affine.ts'
import { type Camera, sightOf } from './camera.ts'
import type { Photo } from './photo.ts'

/** A part of the bed, as fine as it is wanted. */
export interface BedView {
  /** Its corner, mm. */
  readonly x: number
  readonly y: number
  readonly pxPerMm: number
  readonly widthPx: number
  readonly heightPx: number
  /** Turned about its corner, degrees clockwise; absent: it lies as the bed does. */
  readonly deg?: number
}

/** Whether photos of one size may be by a camera that was calibrated with another: only their fineness differs. */
export const sameShape = (
  a: { readonly widthPx: number; readonly heightPx: number },
  b: { readonly widthPx: number; readonly heightPx: number },
): boolean => Math.abs(a.widthPx / a.heightPx - b.widthPx / b.heightPx) < 0.002

/** The camera is asked at every so many pixels; between them its answers are straight enough. */
const MESH = 16

/**
 * The bed as it is seen straight from above, from a photo: each pixel shows what lies there at a height over the bed. What the photo does not
 * show stays clear.
 * @param heightMm of what is looked at: a plate of that thickness @param progress called with the share done; may throw to cancel
 */
export function rectified(
  photo: Photo,
  camera: Camera,
  view: BedView,
  heightMm: number,
  progress?: (done: number) => void,
): Uint8ClampedArray {
  const { x, y, pxPerMm, widthPx, heightPx, deg = 0 } = view
  const [cos, sin] = cosSin(deg)
  const { seen } = sightOf(camera)
  // Photos of another size than calibrated with, but of the same shape, are the same camera.
  const [sx, sy] = [photo.widthPx / camera.widthPx, photo.heightPx / camera.heightPx]
  const out = new Uint8ClampedArray(4 * widthPx * heightPx)
  const columns = Math.ceil(widthPx / MESH) + 1
  /** Where the corners of the mesh are in the photo, a row of them; not a number where they are not. */
  const rowAt = (py: number): Float64Array => {
    const row = new Float64Array(2 * columns)
    for (let c = 0; c < columns; c++) {
      const [dx, dy] = [(c * MESH) / pxPerMm, py / pxPerMm]
      const at = seen(x + cos * dx - sin * dy, y + sin * dx + cos * dy, heightMm)
      row[2 * c] = at ? at[0] * sx - 0.5 : Number.NaN
      row[2 * c + 1] = at ? at[1] * sy - 0.5 : Number.NaN
    }
    return row
  }
  let above = rowAt(0)
  for (let top = 0; top < heightPx; top += MESH) {
    progress?.(top / heightPx)
    const below = rowAt(top + MESH)
    for (let c = 0; c + 1 < columns; c++) fillCell(photo, out, view, c * MESH, top, above, below, 2 * c)
    above = below
  }
  return out
}

/** One square of the mesh. @param at of its left corners in the rows of corners */
function fillCell(
  { widthPx: w, heightPx: h, rgba }: Photo,
  out: Uint8ClampedArray,
  { widthPx, heightPx }: BedView,
  left: number,
  top: number,
  above: Float64Array,
  below: Float64Array,
  at: number,
): void {
  const stride = 4 * w
  const bottom = Math.min(heightPx, top + MESH)
  const right = Math.min(widthPx, left + MESH)
  for (let py = top; py < bottom; py++) {
    const t = (py + 0.5 - top) / MESH
    const u0 = above[at] + (below[at] - above[at]) * t
    const v0 = above[at + 1] + (below[at + 1] - above[at + 1]) * t
    const du = (above[at + 2] + (below[at + 2] - above[at + 2]) * t - u0) / MESH
    const dv = (above[at + 3] + (below[at + 3] - above[at + 3]) * t - v0) / MESH
    let u = u0 + du / 2
    let v = v0 + dv / 2
    let o = 4 * (py * widthPx + left)
    const n = right - left
    const [ue, ve] = [u + (n - 1) * du, v + (n - 1) * dv]
    if (u >= 0 && v >= 0 && ue >= 0 && ve >= 0 && u < w - 1 && v < h - 1 && ue < w - 1 && ve < h - 1) {
      // Wholly within the photo: whole numbers only, weights of 65 536 in all.
      for (let end = o + 4 * n; o < end; o += 4, u += du, v += dv) {
        const iu = u | 0
        const iv = v | 0
        const fu = ((u - iu) * 256) | 0
        const fv = ((v - iv) * 256) | 0
        const wd = fu * fv
        const wb = (fu << 8) - wd
        const wc = (fv << 8) - wd
        const wa = 65_536 - (fu << 8) - (fv << 8) + wd
        const i = 4 * (iv * w + iu)
        const j = i + stride
        out[o] = (wa * rgba[i] + wb * rgba[i + 4] + wc * rgba[j] + wd * rgba[j + 4] + 32_768) >> 16
        out[o + 1] = (wa * rgba[i + 1] + wb * rgba[i + 5] + wc * rgba[j + 1] + wd * rgba[j + 5] + 32_768) >> 16
        out[o + 2] = (wa * rgba[i + 2] + wb * rgba[i + 6] + wc * rgba[j + 2] + wd * rgba[j + 6] + 32_768) >> 16
        out[o + 3] = 255
      }
      continue
    }
    for (let px = left; px < right; px++, u += du, v += dv, o += 4) {
      // False as well where it is no number.
      if (!(u > -0.5 && v > -0.5 && u < w - 0.5 && v < h - 0.5)) continue
      const [cu, cv] = [Math.min(w - 1, Math.max(0, u)), Math.min(h - 1, Math.max(0, v))]
      const [iu, iv] = [cu | 0, cv | 0]
      const [fu, fv] = [cu - iu, cv - iv]
      const a = 4 * (iv * w + iu)
      const b = iu + 1 < w ? a + 4 : a
      const down = iv + 1 < h ? stride : 0
      for (let k = 0; k < 3; k++) {
        const over = rgba[a + k] * (1 - fu) + rgba[b + k] * fu
        const under = rgba[a + down + k] * (1 - fu) + rgba[b + down + k] * fu
        out[o + k] = over * (1 - fv) + under * fv
      }
      out[o + 3] = 255
    }
  }
}
