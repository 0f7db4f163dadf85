import { type GreyPicture, greyFromPng, MM_PER_INCH, partOfPicture } from '@neotaxis/core'
import { type Intake, takeIn } from '@neotaxis/intake'
import { readInput } from './io.ts'

/** A picture file, read as the application reads it. */
export interface ReadPicture {
  readonly intake: Intake
  readonly grey: GreyPicture
}

export async function readPicture(path: string): Promise<ReadPicture> {
  const intake = await takeIn(readInput(path))
  return { intake, grey: greyFromPng(intake.bytes) }
}

/** Pictures that do not tell their size count as screen pictures. */
const SCREEN_DPI = 96

/** Millimetres of one pixel: from the options, from the file, or a screen's. */
export function pixelMm({ intake }: ReadPicture, wanted: { readonly dpi?: number; readonly widthMm?: number }): number {
  if (wanted.widthMm !== undefined) return wanted.widthMm / intake.widthPx
  if (wanted.dpi !== undefined) return MM_PER_INCH / wanted.dpi
  return intake.pixelsPerMm ? 1 / intake.pixelsPerMm : MM_PER_INCH / SCREEN_DPI
}

/** A part of a picture, in whole source pixels. */
export function cropped(picture: GreyPicture, [x, y, w, h]: readonly number[]): GreyPicture {
  const x0 = Math.max(0, Math.round(x))
  const y0 = Math.max(0, Math.round(y))
  const x1 = Math.min(picture.widthPx, Math.round(x + w))
  const y1 = Math.min(picture.heightPx, Math.round(y + h))
  if (x1 <= x0 || y1 <= y0) throw new Error('The part asked for lies outside the picture.')
  return partOfPicture(picture, x0, y0, x1 - x0, y1 - y0)
}
