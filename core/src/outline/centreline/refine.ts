import type { GreyPicture } from '../../picture/picture.ts'

/** A polyline of middles with half the stroke's width at each, px. */
export interface Middles {
  readonly x: Float64Array
  readonly y: Float64Array
  readonly half: Float64Array
}

/** Lightness 0–255 of a pixel; beyond the picture, and where it is transparent, paper. */
export function pixelLight({ widthPx, heightPx, samples, full, alpha }: GreyPicture, x: number, y: number): number {
  if (x < 0 || y < 0 || x >= widthPx || y >= heightPx) return 255
  const i = y * widthPx + x
  const light = full === 255 ? samples[i] : (samples[i] / full) * 255
  return alpha ? 255 - ((255 - light) * alpha[i]) / 255 : light
}

/** Lightness 0–255 between pixels, bilinear. */
export function lightAt(picture: GreyPicture, x: number, y: number): number {
  const i = Math.floor(x - 0.5)
  const j = Math.floor(y - 0.5)
  const s = x - 0.5 - i
  const t = y - 0.5 - j
  const above = (1 - s) * pixelLight(picture, i, j) + s * pixelLight(picture, i + 1, j)
  const below = (1 - s) * pixelLight(picture, i, j + 1) + s * pixelLight(picture, i + 1, j + 1)
  return (1 - t) * above + t * below
}

/** How far along a ray the light rises to a level, px; undefined where it does not within `most`. */
function edgeAlong(
  picture: GreyPicture,
  x: number,
  y: number,
  dx: number,
  dy: number,
  level: number,
  most: number,
): number | undefined {
  let before = lightAt(picture, x, y)
  if (before >= level) return undefined
  for (let d = 0.5; d <= most; d += 0.5) {
    const now = lightAt(picture, x + d * dx, y + d * dy)
    if (now >= level) return d - 0.5 + (0.5 * (level - before)) / (now - before)
    before = now
  }
  return undefined
}

/** A list smoothed by a Gaussian; ends stay where they are. */
function smoothed(list: Float64Array, sigma: number, closed: boolean): Float64Array {
  const reach = Math.ceil(3 * sigma)
  const n = list.length
  const weights = Array.from({ length: reach + 1 }, (_, k) => Math.exp((-k * k) / (2 * sigma * sigma)))
  return list.map((_, i) => {
    // Towards a free end the window narrows, so that the end itself does not move.
    const span = closed ? Math.min(reach, (n - 1) >> 1) : Math.min(reach, i, n - 1 - i)
    let sum = 0
    let total = 0
    for (let k = -span; k <= span; k++) {
      const w = weights[Math.abs(k)]
      sum += w * list[closed ? (i + k + n) % n : i + k]
      total += w
    }
    return sum / total
  })
}

/** Steps that the direction of a line is taken over, px. */
const BASE = 4

/**
 * Moves a line of pixels to the middle between both edges of its stroke, to a fraction of a pixel: across the line the picture
 * is looked at to either side until it is as light as the threshold.
 * @param level 0–255 @param reach px from pixel to edge, about
 */
export function middles(
  picture: GreyPicture,
  xs: Float64Array,
  ys: Float64Array,
  closed: boolean,
  level: number,
  reach: (x: number, y: number) => number,
): Middles {
  const n = xs.length
  const px = smoothed(xs, 2, closed)
  const py = smoothed(ys, 2, closed)
  const half = new Float64Array(n)
  const moved = new Float64Array(n)
  const nx = new Float64Array(n)
  const ny = new Float64Array(n)
  for (let i = 0; i < n; i++) {
    const a = closed ? (i - BASE + n * BASE) % n : Math.max(0, i - BASE)
    const b = closed ? (i + BASE) % n : Math.min(n - 1, i + BASE)
    const length = Math.hypot(px[b] - px[a], py[b] - py[a]) || 1
    nx[i] = -(py[b] - py[a]) / length
    ny[i] = (px[b] - px[a]) / length
    const r = reach(xs[i], ys[i])
    const most = 1.6 * r + 2
    const left = edgeAlong(picture, px[i], py[i], nx[i], ny[i], level, most)
    const right = edgeAlong(picture, px[i], py[i], -nx[i], -ny[i], level, most)
    if (left !== undefined && right !== undefined && Math.abs(left - right) < r + 1) {
      moved[i] = (left - right) / 2
      half[i] = (left + right) / 2
    } else half[i] = r
  }
  const by = smoothed(moved, 1.5, closed)
  return {
    x: px.map((x, i) => x + by[i] * nx[i]),
    y: py.map((y, i) => y + by[i] * ny[i]),
    half: smoothed(half, 2, closed),
  }
}
