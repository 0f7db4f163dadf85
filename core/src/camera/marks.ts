import { type Camera, sightOf } from './camera.ts'
import { lightOf, type Photo, unseeable } from './photo.ts'
import { rectified } from './rectify.ts'
import { darkBlots } from './spots.ts'

type Point = readonly [number, number]

/** A mark that was looked for in a photo: where it was expected, and where it is; undefined where none is near. */
export interface SeenAt {
  readonly known: Point
  readonly found: Point | undefined
}

export interface MarkWish {
  /** How high the marks lie over the bed. */
  readonly heightMm: number
  /** They are looked for so far around where they are expected. */
  readonly reachMm?: number
  /** How large they are at least and at most: the box around them. */
  readonly leastMm?: number
  readonly mostMm?: number
}

const REACH_MM = 12
const SIZES_MM = { least: 0.5, most: 12 }
/** Marks are looked at no finer than this: a photo shows no more. */
const MOST_PX_PER_MM = 40
/** Light is looked at over so many times the largest mark around each place. */
const LIGHT_AROUND = 1.3

/** How many pixels of a photo a millimetre of the bed has at a place. */
function finenessAt(photo: Photo, camera: Camera, [x, y]: Point, heightMm: number): number {
  const { seen } = sightOf(camera)
  const [a, b] = [seen(x - 1, y, heightMm), seen(x + 1, y, heightMm)]
  return a && b ? (Math.hypot(a[0] - b[0], a[1] - b[1]) / 2) * (photo.widthPx / camera.widthPx) : 0
}

/**
 * Marks in a photo near where they are expected: printed, drilled or burned, dark on light; dots, rings, crosses and whatever else is the
 * same from both sides. Each is told by the middle of all that is dark of it.
 * @param places where they are expected on the bed, mm
 * @throws RangeError with a sentence where the photo shows nothing
 */
export function seenMarks(photo: Photo, camera: Camera, places: readonly Point[], wish: MarkWish): SeenAt[] {
  const trouble = unseeable(lightOf(photo))
  if (trouble) throw new RangeError(trouble)
  const { heightMm, reachMm = REACH_MM, leastMm = SIZES_MM.least, mostMm = SIZES_MM.most } = wish
  return places.map((known) => {
    const pxPerMm = Math.min(MOST_PX_PER_MM, 1.5 * finenessAt(photo, camera, known, heightMm))
    if (!(pxPerMm > 0.2)) return { known, found: undefined }
    const reach = reachMm + mostMm
    const side = Math.ceil(2 * reach * pxPerMm)
    const view = { x: known[0] - reach, y: known[1] - reach, pxPerMm, widthPx: side, heightPx: side }
    const rgba = rectified(photo, camera, view, heightMm)
    const picture = lightOf({ widthPx: side, heightPx: side, rgba: onLight(rgba) })
    let best: Point | undefined
    let least = reachMm
    for (const { u, v, widthPx, heightPx } of darkBlots(picture, Math.round(LIGHT_AROUND * mostMm * pxPerMm))) {
      const [w, h] = [widthPx / pxPerMm, heightPx / pxPerMm]
      // A mark is about as high as wide: lines, letters and edges are none.
      if (Math.max(w, h) > mostMm || Math.min(w, h) < leastMm || w > 1.7 * h || h > 1.7 * w) continue
      const at: Point = [view.x + u / pxPerMm, view.y + v / pxPerMm]
      const off = Math.hypot(at[0] - known[0], at[1] - known[1])
      if (off < least) {
        least = off
        best = at
      }
    }
    return { known, found: best }
  })
}

/** What a photo does not show is light: it is no mark. */
function onLight(rgba: Uint8ClampedArray): Uint8ClampedArray {
  for (let i = 0; i < rgba.length; i += 4) if (rgba[i + 3] === 0) rgba[i] = rgba[i + 1] = rgba[i + 2] = 255
  return rgba
}
