import { asBytes } from '../numeric/as-bytes.ts'
import { flatten } from '../picture/flatten.ts'
import type { RawPicture } from '../picture/picture.ts'
import { mapped } from '../space/affine.ts'
import { type Pose, poseMap, type Size } from '../space/pose.ts'
import type { Camera } from './camera.ts'
import { lightOf, type Photo } from './photo.ts'
import { rectified } from './rectify.ts'

/** Light on a sheet is evened over so much around each place, mm: shadows are wider, ink is thinner. */
const EVENED_MM = 12

/**
 * A sheet on the bed as a picture at true scale: upright, however it lies there, and its paper white all over.
 * @param sheet how the box of the sheet lies on the bed @param heightMm of its face over the bed
 */
export function scannedSheet(
  photo: Photo,
  camera: Camera,
  sheet: { readonly pose: Pose; readonly size: Size },
  heightMm: number,
  pxPerMm: number,
): RawPicture {
  const { pose, size } = sheet
  const [x, y] = mapped(poseMap(pose, size), 0, 0)
  const [widthPx, heightPx] = [Math.round(size.widthMm * pxPerMm), Math.round(size.heightMm * pxPerMm)]
  const view = { x, y, pxPerMm, widthPx, heightPx, ...(pose.deg !== undefined && { deg: pose.deg }) }
  const rgba = rectified(photo, camera, view, heightMm)
  const light = lightOf({ widthPx, heightPx, rgba })
  const tone = new Uint16Array(light.samples.length)
  for (let i = 0; i < tone.length; i++) tone[i] = 257 * light.samples[i]
  const even = flatten({ width: widthPx, height: heightPx, tone }, EVENED_MM * pxPerMm)
  return { widthPx, heightPx, channels: 1, samples: asBytes(even, 65_535), full: 255 }
}
