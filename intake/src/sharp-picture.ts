import { MAX_PIXELS, PictureError, tooLarge } from '@neotaxis/core'
import sharp, { type Metadata } from 'sharp'
import type { Decoded } from './take-in.ts'

// One picture at a time in a thread: the pool has several of those.
sharp.concurrency(1)
sharp.cache(false)

const opened = (bytes: Uint8Array) =>
  sharp(bytes, { failOn: 'error', limitInputPixels: MAX_PIXELS, page: 0, pages: 1, sequentialRead: true })

/** What a picture says of how it was held: EXIF orientation 1–8. */
export async function orientationOf(bytes: Uint8Array): Promise<number> {
  const { orientation } = await opened(bytes).metadata()
  return orientation ?? 1
}

/**
 * A picture by libvips: its first page, colours of print and of wider ranges as those of a screen, grey as grey. 16 bits stay 16 bits.
 * @throws PictureError, or what the decoder says
 */
export async function decodeBySharp(bytes: Uint8Array): Promise<Decoded> {
  const facts = await opened(bytes).metadata()
  const { width, height, space, depth, orientation } = facts
  if (width * height > MAX_PIXELS) throw new PictureError(tooLarge(width, height))
  const isGrey = (space === 'b-w' || space === 'grey16') && facts.channels <= 2
  const isDeep = depth === 'ushort' || depth === 'short' || depth === 'float'
  const colours = isDeep ? (isGrey ? 'grey16' : 'rgb16') : isGrey ? 'b-w' : 'srgb'
  const { data, info } = await opened(bytes)
    .toColourspace(colours)
    .raw({ depth: isDeep ? 'ushort' : 'uchar' })
    .toBuffer({ resolveWithObject: true })
  const samples = isDeep
    ? new Uint16Array(data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength))
    : new Uint8Array(data.buffer, data.byteOffset, data.byteLength)
  const per = pixelsPerMm(facts)
  return {
    widthPx: info.width,
    heightPx: info.height,
    channels: info.channels as 1 | 2 | 3 | 4,
    samples,
    full: isDeep ? 65_535 : 255,
    orientation: orientation ?? 1,
    ...(per ? { pixelsPerMm: per } : {}),
    notices: noticesOf(facts),
  }
}

/** Pixels a mm, where the file says them in a unit. */
function pixelsPerMm({ density, resolutionUnit, format }: Metadata): number | undefined {
  // What has no unit of its own says 72, which means nothing.
  if (!density || density <= 1 || (!resolutionUnit && format !== 'png')) return undefined
  return density / 25.4
}

/** What is told of how a picture was read. */
function noticesOf({ space, pages, format }: Metadata): string[] {
  return [
    ...(space === 'cmyk' ? ['It is in CMYK, the colours of print: they were made those of a screen.'] : []),
    ...(pages && pages > 1 ? [`It holds ${pages} ${format === 'tiff' ? 'pages' : 'pictures'}: the first one was taken.`] : []),
  ]
}
