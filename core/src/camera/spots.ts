import type { GreyPicture } from '../picture/picture.ts'

/** A dark round spot of a photo. */
export interface DarkSpot {
  /** Its middle, px: weighed by how dark it is, finer than a pixel. */
  readonly u: number
  readonly v: number
  readonly areaPx: number
}

/** Light is looked at over this share of the photo's width around each pixel: it is never even over a bed. */
const AROUND = 1 / 24
/** Darker than this share of the light around it is dark. */
const DARK = 0.72
const LEAST_AREA_PX = 12
/** A pixel counts by how much darker it is than its light, as a share of that; so much is grain. */
const FAINT_SHARE = 0.12
/** A spot is not longer than so many times its width, and fills at least this share of its ellipse. */
const LONGEST = 2.4
const FULLEST = 0.72

/** Sums of all that lies above and left of each pixel, one row and column more than the picture. */
function sums({ widthPx: w, heightPx: h, samples }: GreyPicture): Float64Array {
  const out = new Float64Array((w + 1) * (h + 1))
  for (let y = 0; y < h; y++) {
    let row = 0
    for (let x = 0; x < w; x++) {
      row += samples[y * w + x]
      out[(y + 1) * (w + 1) + x + 1] = out[y * (w + 1) + x + 1] + row
    }
  }
  return out
}

/** What is dark of a picture, in one piece: its middle, px, weighed by how dark it is, and the box around it. */
export interface DarkBlot {
  readonly u: number
  readonly v: number
  readonly widthPx: number
  readonly heightPx: number
}

/** Pixels that are darker than the light around them, and that light. @param reach light is looked at so far around each, px */
function darkOf(picture: GreyPicture, reach: number): { readonly dark: Uint8Array; readonly light: Float32Array } {
  const { widthPx: w, heightPx: h, samples } = picture
  const table = sums(picture)
  const light = new Float32Array(w * h)
  const dark = new Uint8Array(w * h)
  for (let y = 0; y < h; y++) {
    const [y0, y1] = [Math.max(0, y - reach), Math.min(h, y + reach + 1)]
    for (let x = 0; x < w; x++) {
      const [x0, x1] = [Math.max(0, x - reach), Math.min(w, x + reach + 1)]
      const sum = table[y1 * (w + 1) + x1] - table[y0 * (w + 1) + x1] - table[y1 * (w + 1) + x0] + table[y0 * (w + 1) + x0]
      const i = y * w + x
      light[i] = sum / ((x1 - x0) * (y1 - y0))
      if (samples[i] < DARK * light[i]) dark[i] = 1
    }
  }
  return { dark, light }
}

/** Dark pixels that touch each other, each lot once; what touches the edge of the picture is none. @param dark is used up */
function* darkLots(dark: Uint8Array, w: number, h: number): Generator<readonly number[]> {
  const stack: number[] = []
  for (let from = 0; from < w * h; from++) {
    if (dark[from] !== 1) continue
    const pixels: number[] = []
    let touches = false
    stack.push(from)
    dark[from] = 2
    while (stack.length > 0) {
      const i = stack.pop()!
      pixels.push(i)
      const x = i % w
      if (x === 0 || x === w - 1 || i < w || i >= w * (h - 1)) {
        touches = true
        continue
      }
      for (const j of [i - 1, i + 1, i - w, i + w])
        if (dark[j] === 1) {
          dark[j] = 2
          stack.push(j)
        }
    }
    if (!touches && pixels.length >= LEAST_AREA_PX) yield pixels
  }
}

/**
 * The dark round spots of a photo: what is darker than the light around it, whole, and as round as a circle seen from the side. What
 * touches the edge of the photo is none.
 */
export function darkSpots(picture: GreyPicture): DarkSpot[] {
  const { widthPx: w, heightPx: h, samples } = picture
  const { dark, light } = darkOf(picture, Math.max(4, Math.round((w * AROUND) / 2)))
  const spots: DarkSpot[] = []
  for (const pixels of darkLots(dark, w, h)) {
    const spot = roundSpot(pixels, w, samples, light)
    if (spot) spots.push(spot)
  }
  return spots
}

/** All that is dark of a picture, whatever its shape. @param reach light is looked at so far around each place, px */
export function darkBlots(picture: GreyPicture, reach: number): DarkBlot[] {
  const { widthPx: w, heightPx: h, samples } = picture
  const { dark, light } = darkOf(picture, reach)
  return Array.from(darkLots(dark, w, h), (pixels) => {
    let [x0, x1, y0, y1] = [w, 0, h, 0]
    for (const i of pixels) {
      const [x, y] = [i % w, Math.floor(i / w)]
      x0 = Math.min(x0, x)
      x1 = Math.max(x1, x)
      y0 = Math.min(y0, y)
      y1 = Math.max(y1, y)
    }
    // Its edge is softer than a pixel: those beside it count by how dark they are.
    const own = new Set(pixels)
    for (const i of pixels) for (const j of [i - 1, i + 1, i - w, i + w, i - w - 1, i - w + 1, i + w - 1, i + w + 1]) own.add(j)
    let [sum, su, sv] = [0, 0, 0]
    for (const i of own) {
      const weight = Math.max(0, 1 - samples[i] / light[i] - FAINT_SHARE)
      sum += weight
      su += weight * ((i % w) + 0.5)
      sv += weight * (Math.floor(i / w) + 0.5)
    }
    return { u: su / sum, v: sv / sum, widthPx: x1 - x0 + 1, heightPx: y1 - y0 + 1 }
  })
}

/** A spot of some pixels that touch each other, where it is round. */
function roundSpot(
  pixels: readonly number[],
  w: number,
  samples: GreyPicture['samples'],
  light: Float32Array,
): DarkSpot | undefined {
  const n = pixels.length
  let [mx, my] = [0, 0]
  for (const i of pixels) {
    mx += i % w
    my += Math.floor(i / w)
  }
  mx /= n
  my /= n
  let [xx, xy, yy] = [0, 0, 0]
  for (const i of pixels) {
    const [dx, dy] = [(i % w) - mx, Math.floor(i / w) - my]
    xx += dx * dx
    xy += dx * dy
    yy += dy * dy
  }
  ;[xx, xy, yy] = [xx / n, xy / n, yy / n]
  const root = Math.hypot((xx - yy) / 2, xy)
  const [long, short] = [(xx + yy) / 2 + root, (xx + yy) / 2 - root]
  if (!(short > 0) || Math.sqrt(long / short) > LONGEST) return undefined
  // An ellipse with these spreads has this area.
  const ellipse = 4 * Math.PI * Math.sqrt(long * short)
  if (n < FULLEST * ellipse || n > ellipse / FULLEST) return undefined
  // Weighed by darkness, with the pixels beside it: its edge lies within them.
  const far = Math.ceil(2 * Math.sqrt(long)) + 2
  let [sum, su, sv] = [0, 0, 0]
  const [x0, y0] = [Math.round(mx), Math.round(my)]
  const h = light.length / w
  for (let y = Math.max(0, y0 - far); y <= Math.min(h - 1, y0 + far); y++)
    for (let x = Math.max(0, x0 - far); x <= Math.min(w - 1, x0 + far); x++) {
      const [dx, dy] = [x - mx, y - my]
      // Within an ellipse a little larger than the spot: of its neighbours nothing is weighed.
      const out = (yy * dx * dx - 2 * xy * dx * dy + xx * dy * dy) / (long * short)
      if (out > 7) continue
      const i = y * w + x
      const weight = Math.max(0, 1 - samples[i] / light[i] - FAINT_SHARE)
      sum += weight
      su += weight * (x + 0.5)
      sv += weight * (y + 0.5)
    }
  return sum > 0 ? { u: su / sum, v: sv / sum, areaPx: n } : undefined
}
