import type { Homography } from '../geometry/homography.ts'
import type { GreyPicture } from './picture.ts'

/**
 * A picture drawn anew under a projective map, by bicubic interpolation (R. Keys, IEEE Trans. ASSP 29(6), 1981, a = −½).
 * What comes from outside the window is transparent.
 * @param back from new pixels to old ones, pixel corners on whole numbers
 */
export function warp(
  picture: GreyPicture,
  back: Homography,
  widthPx: number,
  heightPx: number,
  window: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  progress?: (done: number) => void,
): GreyPicture {
  const { widthPx: w, heightPx: h, samples, full, alpha } = picture
  const n = widthPx * heightPx
  const out = full === 255 ? new Uint8Array(n) : new Uint16Array(n)
  const opacity = new Uint8Array(n)
  let opaque = true
  const wx = new Float64Array(4)
  const wy = new Float64Array(4)
  const right = window.x + window.width
  const bottom = window.y + window.height
  for (let y = 0, i = 0; y < heightPx; y++) {
    if (progress && (y & 31) === 0) progress(y / heightPx)
    for (let x = 0; x < widthPx; x++, i++) {
      const px = x + 0.5
      const py = y + 0.5
      const d = back[6] * px + back[7] * py + back[8]
      const u = (back[0] * px + back[1] * py + back[2]) / d
      const v = (back[3] * px + back[4] * py + back[5]) / d
      const covered = edge(u - window.x, right - u) * edge(v - window.y, bottom - v)
      if (!(covered > 0) || d <= 0) {
        out[i] = full
        opaque = false
        continue
      }
      const fx = u - 0.5
      const fy = v - 0.5
      const x0 = Math.floor(fx)
      const y0 = Math.floor(fy)
      cubic(fx - x0, wx)
      cubic(fy - y0, wy)
      let sum = 0
      let through = 0
      for (let k = 0; k < 4; k++) {
        const sy = y0 - 1 + k
        const row = (sy < 0 ? 0 : sy >= h ? h - 1 : sy) * w
        for (let j = 0; j < 4; j++) {
          const sx = x0 - 1 + j
          const at = row + (sx < 0 ? 0 : sx >= w ? w - 1 : sx)
          const weight = wx[j] * wy[k]
          sum += weight * samples[at]
          if (alpha) through += weight * alpha[at]
        }
      }
      out[i] = sum < 0 ? 0 : sum > full ? full : sum + 0.5
      const a = covered * (alpha ? Math.min(255, Math.max(0, through)) : 255)
      opacity[i] = a + 0.5
      if (opacity[i] !== 255) opaque = false
    }
  }
  return { widthPx, heightPx, full, samples: out, ...(opaque ? {} : { alpha: opacity }) }
}

/** Half a pixel inside a border a pixel is whole. */
const edge = (near: number, far: number): number => Math.max(0, Math.min(1, near + 0.5, far + 0.5))

function cubic(t: number, w: Float64Array): void {
  const t2 = t * t
  const t3 = t2 * t
  w[0] = -0.5 * t3 + t2 - 0.5 * t
  w[1] = 1.5 * t3 - 2.5 * t2 + 1
  w[2] = -1.5 * t3 + 2 * t2 + 0.5 * t
  w[3] = 0.5 * t3 - 0.5 * t2
}
