import { flatten } from '../picture/flatten.ts'
import type { RawPicture } from '../picture/picture.ts'
import { inverseOf, mapped } from '../space/affine.ts'
import { type Pose, poseMap, type Size } from '../space/pose.ts'
import type { Camera } from './camera.ts'
import { fieldOf, middleOf } from './close.ts'
import { lightOf, type Photo } from './photo.ts'
import { rectified } from './rectify.ts'

type Point = readonly [number, number]

/** How the box of a sheet lies on the bed. */
export interface LyingSheet {
  readonly pose: Pose
  readonly size: Size
}

/** Photos beside each other share so much of their field. */
const SHARED = 0.16
/** A photo counts less towards its edge, over so much of its field. */
const FEATHER = 0.08
/** Light is evened over so much around each place, mm: what is all ink is narrower. */
const EVENED_MM = 6

/** Where the head is to stop so that its camera sees all of a sheet, to and fro, mm of the bed. */
export function scanStops({ pose, size }: LyingSheet, camera: Camera): Point[] {
  const [mx, my] = middleOf(camera)
  const { widthMm, heightMm } = fieldOf(camera)
  const turned = Math.abs(Math.sin(((pose.deg ?? 0) * Math.PI) / 180))
  // A turned sheet is gone over in its own ways: the camera sees at least so much of them.
  const least = Math.min(widthMm, heightMm)
  const [w, h] = [widthMm + (least - widthMm) * turned, heightMm + (least - heightMm) * turned].map((mm) => mm * (1 - SHARED))
  const map = poseMap(pose, size)
  const [columns, rows] = [Math.max(1, Math.ceil(size.widthMm / w)), Math.max(1, Math.ceil(size.heightMm / h))]
  return Array.from({ length: columns * rows }, (_, i) => {
    const r = Math.floor(i / columns)
    const c = r % 2 === 0 ? i % columns : columns - 1 - (i % columns)
    const [x, y] = mapped(map, ((c + 0.5) * size.widthMm) / columns, ((r + 0.5) * size.heightMm) / rows)
    return [x - mx, y - my]
  })
}

/** A sheet put together from photos that a camera at the head took of it: true to scale, upright, each part where the head saw it. */
export class StitchedSheet {
  private readonly sheet: LyingSheet
  private readonly pxPerMm: number
  private readonly widthPx: number
  private readonly heightPx: number
  private readonly light: Float32Array
  private readonly weight: Float32Array

  constructor(sheet: LyingSheet, pxPerMm: number) {
    this.sheet = sheet
    this.pxPerMm = pxPerMm
    this.widthPx = Math.round(sheet.size.widthMm * pxPerMm)
    this.heightPx = Math.round(sheet.size.heightMm * pxPerMm)
    this.light = new Float32Array(this.widthPx * this.heightPx)
    this.weight = new Float32Array(this.widthPx * this.heightPx)
  }

  /** Puts a photo in. @param head where the head stood, mm of the bed */
  add(photo: Photo, camera: Camera, head: Point): void {
    const { pose, size } = this.sheet
    const map = poseMap(pose, size)
    const [mx, my] = middleOf(camera)
    const field = fieldOf(camera)
    const [cx, cy] = mapped(inverseOf(map), head[0] + mx, head[1] + my)
    const far = Math.hypot(field.widthMm, field.heightMm) / 2
    const px = (mm: number, most: number): number => Math.max(0, Math.min(most, Math.round(mm * this.pxPerMm)))
    const [x0, x1] = [px(cx - far, this.widthPx), px(cx + far, this.widthPx)]
    const [y0, y1] = [px(cy - far, this.heightPx), px(cy + far, this.heightPx)]
    if (x1 <= x0 || y1 <= y0) return
    const [x, y] = mapped(map, x0 / this.pxPerMm, y0 / this.pxPerMm)
    const part = { widthPx: x1 - x0, heightPx: y1 - y0 }
    const view = {
      x: x - head[0],
      y: y - head[1],
      pxPerMm: this.pxPerMm,
      ...part,
      ...(pose.deg !== undefined && { deg: pose.deg }),
    }
    const rgba = rectified(photo, camera, view, 0)
    // Each photo is darker towards its corners: its paper is evened before it is put beside others.
    const alpha = Uint8Array.from({ length: rgba.length / 4 }, (_, i) => rgba[4 * i + 3])
    const tone = Uint16Array.from(lightOf({ ...part, rgba }).samples, (v) => v * 257)
    const even = flatten({ width: part.widthPx, height: part.heightPx, tone, alpha }, EVENED_MM * this.pxPerMm)
    const [cos, sin] = [Math.cos(((pose.deg ?? 0) * Math.PI) / 180), Math.sin(((pose.deg ?? 0) * Math.PI) / 180)]
    const feather = FEATHER * Math.min(field.widthMm, field.heightMm)
    for (let r = 0; r < part.heightPx; r++)
      for (let c = 0; c < part.widthPx; c++) {
        const i = r * part.widthPx + c
        if (rgba[4 * i + 3] === 0) continue
        // From the middle of the field, in the camera's ways.
        const [dx, dy] = [(x0 + c + 0.5) / this.pxPerMm - cx, (y0 + r + 0.5) / this.pxPerMm - cy]
        const inside = Math.min(
          field.widthMm / 2 - Math.abs(cos * dx - sin * dy),
          field.heightMm / 2 - Math.abs(sin * dx + cos * dy),
        )
        if (inside <= 0) continue
        const weight = Math.min(1, inside / feather)
        const o = (y0 + r) * this.widthPx + x0 + c
        this.light[o] += weight * even[i]
        this.weight[o] += weight
      }
  }

  /** The sheet, its paper white all over. What no photo showed is white, too. @returns with the share of it that was seen */
  picture(): { readonly picture: RawPicture; readonly seen: number } {
    const samples = new Uint8Array(this.light.length)
    let seen = 0
    for (let i = 0; i < samples.length; i++) {
      if (this.weight[i] > 0) seen++
      samples[i] = this.weight[i] > 0 ? Math.round(this.light[i] / this.weight[i] / 257) : 255
    }
    const { widthPx, heightPx } = this
    return { picture: { widthPx, heightPx, channels: 1, samples, full: 255 }, seen: seen / samples.length }
  }
}
