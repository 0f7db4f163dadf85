import {
  type BedView,
  type BurnTone,
  boardSpots,
  burnTone,
  type Calibration,
  type Camera,
  calibrated,
  closeCamera,
  cornerSeen,
  type DotBoard,
  encodePng,
  type HeadSight,
  type LyingSheet,
  lightOf,
  loneMark,
  type MarksView,
  type MarkWish,
  type Photo,
  type PlacementError,
  placementError,
  rectified,
  type SeenAt,
  type SeenBlank,
  type SlotSeen,
  StitchedSheet,
  scannedSheet,
  seenBlanks,
  seenMarks,
  slotWidth,
} from '@neotaxis/core'
import { expose, transfer } from 'comlink'
import jsQR from 'jsqr'

/** A photo is looked at no finer than this, px. */
const MOST_PX = 24e6
/** Less of a sheet that was looked at from near is not all of it. */
const ALL_SEEN = 0.999

/** A burn is looked for so far around its forecast, mm. */
const FARTHEST_MM = 2.5

interface BedSize {
  readonly widthMm: number
  readonly heightMm: number
}

let photo: Photo | undefined
/** What the camera at the head saw last, and what is put together from its photos. */
let near: Photo | undefined
let stitched: StitchedSheet | undefined
let empty: { readonly of: string; readonly photo: Photo } | undefined

async function decoded(jpeg: Blob): Promise<Photo> {
  let bitmap: ImageBitmap
  try {
    bitmap = await createImageBitmap(jpeg, { colorSpaceConversion: 'none' })
  } catch {
    throw new Error('The photo is damaged: take it again.')
  }
  const { width, height } = bitmap
  const canvas = new OffscreenCanvas(width, height)
  const context = canvas.getContext('2d', { willReadFrequently: true })!
  context.drawImage(bitmap, 0, 0)
  bitmap.close()
  return { widthPx: width, heightPx: height, rgba: context.getImageData(0, 0, width, height).data }
}

const there = (): Photo => {
  if (!photo) throw new Error('There is no photo yet: take one.')
  return photo
}

const nearThere = (): Photo => {
  if (!near) throw new Error('The camera at the head has taken no photo yet.')
  return near
}

/** An operation whose tone is looked for: how dark it is forecast to be, and the contrast of its material in photos. */
export interface ToneAsked {
  readonly own: Uint8Array
  readonly contrast: number
}

/** A burn in a photo: where it lies, and how dark what was asked for came out. */
interface BurnSeen {
  readonly rgba: Uint8ClampedArray
  readonly error: PlacementError | undefined
  readonly tones: readonly (BurnTone | undefined)[]
}

type Point = readonly [number, number]

const cameraWorker = {
  /** Takes a photo in. @returns its size */
  async take(jpeg: Blob): Promise<{ readonly widthPx: number; readonly heightPx: number }> {
    photo = await decoded(jpeg)
    return { widthPx: photo.widthPx, heightPx: photo.heightPx }
  },
  /** The bed as it is seen from above, at a height. */
  async bed(camera: Camera, { widthMm, heightMm }: BedSize, height: number): Promise<ImageBitmap> {
    const own = there()
    // As fine as the photo is.
    const pxPerMm = Math.min(own.widthPx / widthMm, Math.sqrt(MOST_PX / (widthMm * heightMm)))
    const view = { x: 0, y: 0, pxPerMm, widthPx: Math.round(widthMm * pxPerMm), heightPx: Math.round(heightMm * pxPerMm) }
    const rgba = rectified(own, camera, view, height) as Uint8ClampedArray<ArrayBuffer>
    const bitmap = await createImageBitmap(new ImageData(rgba, view.widthPx, view.heightPx))
    return transfer(bitmap, [bitmap])
  },
  /** What lies on the bed. @param emptyBed its photo with nothing on it, by its name */
  async blanks(
    camera: Camera,
    bed: BedSize,
    thicknessMm: number,
    emptyBed?: { readonly of: string; readonly jpeg: Blob },
  ): Promise<SeenBlank[]> {
    if (emptyBed && empty?.of !== emptyBed.of) empty = { of: emptyBed.of, photo: await decoded(emptyBed.jpeg) }
    return seenBlanks(there(), camera, { bed, thicknessMm, ...(emptyBed && empty && { empty: empty.photo }) })
  },
  marks(
    camera: Camera,
    places: readonly (readonly [number, number])[],
    heightMm: number,
    wish: Omit<MarkWish, 'heightMm'> = {},
  ): SeenAt[] {
    return seenMarks(there(), camera, places, { ...wish, heightMm })
  },
  /** The dots of a board in the photo, where its first dot lies on the bed. */
  board(board: DotBoard, [x0, y0]: readonly [number, number], heightMm: number): MarksView {
    const spots = boardSpots(lightOf(there()), board)
    return { heightMm, spots: spots.map((spot) => ({ ...spot, x: spot.x + x0, y: spot.y + y0 })) }
  },
  calibrate(size: { readonly widthPx: number; readonly heightPx: number }, views: readonly MarksView[]): Calibration {
    return calibrated(size, views)
  },
  /** A part of the bed in another photo, and how far from its forecast the burn lies there. */
  async burnIn(
    jpeg: Blob,
    camera: Camera,
    view: BedView,
    heightMm: number,
    expected: Uint8Array,
    inside: Uint8Array,
    tones: readonly ToneAsked[],
  ): Promise<BurnSeen> {
    const rgba = rectified(await decoded(jpeg), camera, view, heightMm)
    const { widthPx, heightPx, pxPerMm } = view
    const { samples } = lightOf({ widthPx, heightPx, rgba })
    const error = placementError(samples, expected, widthPx, heightPx, 1 / pxPerMm, FARTHEST_MM, inside)
    const seen = tones.map(
      ({ own, contrast }) =>
        error && burnTone({ light: samples, own, all: expected, inside }, widthPx, heightPx, 1 / pxPerMm, contrast, error),
    )
    return transfer({ rgba, error, tones: seen }, [rgba.buffer])
  },
  /** How light a part of the bed is in another photo. */
  async lightIn(jpeg: Blob, camera: Camera, view: BedView, heightMm: number): Promise<ReturnType<typeof lightOf>['samples']> {
    const rgba = rectified(await decoded(jpeg), camera, view, heightMm)
    const { samples } = lightOf({ widthPx: view.widthPx, heightPx: view.heightPx, rgba })
    return transfer(samples, [samples.buffer])
  },
  /** A sheet of the bed as a picture at true scale, as a PNG. */
  scan(camera: Camera, sheet: Parameters<typeof scannedSheet>[2], heightMm: number, pxPerMm: number): Uint8Array {
    return encodePng(scannedSheet(there(), camera, sheet, heightMm, pxPerMm), { pixelsPerMm: pxPerMm })
  },
  /** Takes a photo of the camera at the head in. @returns its size */
  async takeNear(jpeg: Blob): Promise<{ readonly widthPx: number; readonly heightPx: number }> {
    near = await decoded(jpeg)
    return { widthPx: near.widthPx, heightPx: near.heightPx }
  },
  loneMark(): { readonly u: number; readonly v: number } {
    return loneMark(nearThere())
  },
  closeCamera(
    size: { readonly widthPx: number; readonly heightPx: number },
    sights: readonly HeadSight[],
    mark: Point,
  ): Calibration {
    return closeCamera(size, sights, mark)
  },
  /** A mark near the head, from the beam, mm. */
  nearMark(camera: Camera, expected: Point, reachMm: number): Point | undefined {
    return seenMarks(nearThere(), camera, [expected], { heightMm: 0, reachMm })[0].found
  },
  /** How wide a cut is that goes through a place near the head, from the beam, mm. */
  nearSlot(camera: Camera, at: Point, along: Point): SlotSeen | undefined {
    return slotWidth(nearThere(), camera, at, along)
  },
  nearCorner(camera: Camera, expected: Point, ways: readonly [Point, Point]): Point | undefined {
    return cornerSeen(nearThere(), camera, expected, ways, 0)
  },
  /** Begins a sheet that is put together, puts the photo of the head's camera in, and gives it as a PNG. */
  beginSheet(sheet: LyingSheet, pxPerMm: number): void {
    stitched = new StitchedSheet(sheet, pxPerMm)
  },
  addToSheet(camera: Camera, head: Point): void {
    stitched?.add(nearThere(), camera, head)
  },
  endSheet(pxPerMm: number): Uint8Array {
    const { picture, seen } = stitched!.picture()
    stitched = undefined
    if (seen < ALL_SEEN)
      throw new Error(
        `${(100 * (1 - seen)).toFixed(1)} % of the sheet was out of reach of the camera at the head: lay it farther in.`,
      )
    return encodePng(picture, { pixelsPerMm: pxPerMm })
  },
  /** What a code in the photo says; undefined where none is seen. */
  code(): string | undefined {
    // Dark on light, as codes are printed.
    const { rgba, widthPx, heightPx } = there()
    return jsQR(new Uint8ClampedArray(rgba), widthPx, heightPx, { inversionAttempts: 'dontInvert' })?.data || undefined
  },
}
export type CameraWorker = typeof cameraWorker

expose(cameraWorker)
