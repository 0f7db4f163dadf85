import { type Calibration, calibrated } from './calibrate.ts'
import { type Camera, sightOf } from './camera.ts'
import { lightOf, type Photo, unseeable } from './photo.ts'
import { type DarkBlot, darkBlots } from './spots.ts'

type Point = readonly [number, number]

/**
 * A camera at the head goes where the head goes: places are told from where the beam is, right and down over the bed, mm. One mark, seen
 * from many places of the head, is to it what a board of dots is to a camera over the bed.
 */
export interface HeadSight {
  /** Where the head stood, mm of the bed. */
  readonly head: Point
  /** Where the photo showed the mark, px. */
  readonly u: number
  readonly v: number
}

/** A mark is at least and at most so large, against the width of the photo. */
const SIZES = { least: 0.008, most: 0.2 }
/** How far the head goes first, to see how large a millimetre is, mm. */
export const NUDGE_MM = 1.5
/** So many places across and down are gone to, over this share of the photo. */
const STOPS = { across: 7, down: 5, share: 0.76 }

/**
 * The one dark mark that a photo shows; the one nearest to its middle where it shows several.
 * @throws RangeError with a sentence where it shows none
 */
export function loneMark(photo: Photo): { readonly u: number; readonly v: number } {
  const light = lightOf(photo)
  const trouble = unseeable(light)
  if (trouble) throw new RangeError(trouble)
  const { widthPx: w, heightPx: h } = photo
  const far = ({ u, v }: DarkBlot): number => Math.hypot(u - w / 2, v - h / 2)
  const fits = ({ widthPx, heightPx }: DarkBlot): boolean =>
    Math.min(widthPx, heightPx) >= SIZES.least * w &&
    Math.max(widthPx, heightPx) <= SIZES.most * w &&
    widthPx < 1.7 * heightPx &&
    heightPx < 1.7 * widthPx
  const [mark] = darkBlots(light, Math.round(0.7 * SIZES.most * w))
    .filter(fits)
    .sort((a, b) => far(a) - far(b))
  if (!mark)
    throw new RangeError('No mark is seen under the camera at the head: bring it over one dark dot on something light, in focus.')
  return { u: mark.u, v: mark.v }
}

/**
 * Where the head is to go so that the mark is seen all over the photo.
 * @param first where it was seen at first, and after the head went `NUDGE_MM` right, and as much down the bed
 * @throws RangeError with a sentence where it was not the mark that moved
 */
export function stopsFor(
  size: { readonly widthPx: number; readonly heightPx: number },
  first: readonly [HeadSight, HeadSight, HeadSight],
): Point[] {
  const [a, b, c] = first
  // The head goes right: the mark goes left.
  const [ux, vx] = [(b.u - a.u) / (b.head[0] - a.head[0]), (b.v - a.v) / (b.head[0] - a.head[0])]
  const [uy, vy] = [(c.u - a.u) / (c.head[1] - a.head[1]), (c.v - a.v) / (c.head[1] - a.head[1])]
  const det = ux * vy - uy * vx
  const [right, down] = [Math.hypot(ux, vx), Math.hypot(uy, vy)]
  // Both ways are as long, and square to each other: else something else was seen.
  if (!(Math.abs(det) > 0.9 * right * down) || !(Math.abs(right / down - 1) < 0.1))
    throw new RangeError('What is seen does not go as the head goes: is there more than one dark mark under the camera?')
  const stops: Point[] = []
  for (let r = 0; r < STOPS.down; r++)
    for (let i = 0; i < STOPS.across; i++) {
      // To and fro: the head goes no farther than it must.
      const q = r % 2 === 0 ? i : STOPS.across - 1 - i
      const du = size.widthPx * (0.5 + STOPS.share * (q / (STOPS.across - 1) - 0.5)) - a.u
      const dv = size.heightPx * (0.5 + STOPS.share * (r / (STOPS.down - 1) - 0.5)) - a.v
      stops.push([a.head[0] + (vy * du - uy * dv) / det, a.head[1] + (ux * dv - vx * du) / det])
    }
  return stops
}

/**
 * A camera at the head, from what it saw of one mark: its places are mm from the beam.
 * @param mark where the beam was when it burned the mark, mm of the bed
 * @throws RangeError with a sentence where it says too little
 */
export function closeCamera(
  size: { readonly widthPx: number; readonly heightPx: number },
  sights: readonly HeadSight[],
  mark: Point,
): Calibration {
  const spots = sights.map(({ head, u, v }) => ({ x: mark[0] - head[0], y: mark[1] - head[1], u, v }))
  return calibrated(size, [{ heightMm: 0, spots }])
}

/** The place that a camera at the head sees in the middle of its photo, from the beam, mm: so far short the head is to stop. */
export function middleOf(camera: Camera): Point {
  const at = sightOf(camera).place(camera.widthPx / 2, camera.heightPx / 2, 0)
  if (!at) throw new RangeError('This camera does not look down.')
  return at
}

/** How much a camera at the head sees at once, mm: the part of it that is seen wherever it stands. */
export function fieldOf(camera: Camera): { readonly widthMm: number; readonly heightMm: number } {
  const { place } = sightOf(camera)
  const { widthPx: w, heightPx: h } = camera
  const [mx, my] = middleOf(camera)
  const half = (points: readonly (readonly [number, number])[], k: 0 | 1): number =>
    Math.min(...points.map(([u, v]) => Math.abs((place(u, v, 0) ?? [mx, my])[k] - [mx, my][k])))
  const sides = half(
    [
      [0, 0],
      [0, h / 2],
      [0, h],
      [w, 0],
      [w, h / 2],
      [w, h],
    ],
    0,
  )
  const ends = half(
    [
      [0, 0],
      [w / 2, 0],
      [w, 0],
      [0, h],
      [w / 2, h],
      [w, h],
    ],
    1,
  )
  return { widthMm: 2 * sides, heightMm: 2 * ends }
}
