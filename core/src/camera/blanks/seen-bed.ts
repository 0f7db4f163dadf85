import { type Camera, sightOf } from '../camera.ts'
import type { Photo } from '../photo.ts'
import { type BedView, rectified } from '../rectify.ts'

/**
 * A bed by what its colours are made of: how light it is, as a logarithm, and two shares of its colour that light does not change: red
 * against blue, green against both.
 */
export interface SeenBed {
  readonly view: BedView
  readonly light: Float32Array
  readonly warm: Float32Array
  readonly green: Float32Array
  /** 1 where the photo shows the bed. */
  readonly seen: Uint8Array
}

/** What is darker than this, levels of three colours, is noise. */
const DARK = 30

/** A colour as light, warm and green. @param r, g, b levels 0–255 */
export function lookOf(r: number, g: number, b: number): readonly [number, number, number] {
  const sum = r + g + b + DARK
  return [Math.log(sum), (r - b) / sum, (2 * g - r - b) / sum]
}

/** A photo as its bed looks, straight from above. @param heightMm of what is looked at */
export function seenBed(photo: Photo, camera: Camera, view: BedView, heightMm: number): SeenBed {
  const rgba = rectified(photo, camera, view, heightMm)
  const n = view.widthPx * view.heightPx
  const [light, warm, green] = [new Float32Array(n), new Float32Array(n), new Float32Array(n)]
  const seen = new Uint8Array(n)
  for (let i = 0, k = 0; i < n; i++, k += 4) {
    if (rgba[k + 3] === 0) continue
    seen[i] = 1
    ;[light[i], warm[i], green[i]] = lookOf(rgba[k], rgba[k + 1], rgba[k + 2])
  }
  return { view, light, warm, green, seen }
}

/** The colour of any place of the bed in a photo, between its pixels: red, green, blue 0–255; undefined where the photo does not show it. */
export function colourAt(
  photo: Photo,
  camera: Camera,
  heightMm: number,
): (x: number, y: number) => readonly [number, number, number] | undefined {
  const { widthPx: w, heightPx: h, rgba } = photo
  const [sx, sy] = [w / camera.widthPx, h / camera.heightPx]
  const { seen } = sightOf(camera)
  return (x, y) => {
    const at = seen(x, y, heightMm)
    if (!at) return undefined
    const [u, v] = [at[0] * sx - 0.5, at[1] * sy - 0.5]
    if (!(u >= 0 && v >= 0 && u < w - 1 && v < h - 1)) return undefined
    const [iu, iv] = [u | 0, v | 0]
    const [fu, fv] = [u - iu, v - iv]
    const i = 4 * (iv * w + iu)
    const j = i + 4 * w
    const level = (k: number): number =>
      (rgba[i + k] * (1 - fu) + rgba[i + 4 + k] * fu) * (1 - fv) + (rgba[j + k] * (1 - fu) + rgba[j + 4 + k] * fu) * fv
    return [level(0), level(1), level(2)]
  }
}

/** A part of a view, in its pixels. */
export interface Part {
  readonly x0: number
  readonly y0: number
  readonly w: number
  readonly h: number
}
