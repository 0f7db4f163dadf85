import { createHash } from 'node:crypto'
import { crc32, deflateSync } from 'node:zlib'
import {
  DrawingError,
  decodePng,
  drawingKind,
  encodePng,
  isFont,
  isStl,
  MAX_PIXELS,
  MeshError,
  type MeshExtent,
  meshExtent,
  orient,
  PictureError,
  pngSize,
  type RawPicture,
  readDrawing,
  readStl,
  type Triangles,
  tooLarge,
} from '@neotaxis/core'
import { FontError, readFont } from '@neotaxis/core/text/outline-font'
import { imageSize } from 'image-size'
import { bmpSize, decodeBmp } from './bmp.ts'
import { decodeJpeg } from './jpeg.ts'
import { isPdf, pdfPage } from './pdf.ts'
import { plainFont } from './plain-font.ts'
import { resolvedDrawing } from './resolved-drawing.ts'
import { decodeBySharp, orientationOf } from './sharp-picture.ts'

/** A picture as it is kept: its canonical PNG, named by SHA-256, and what is known of it. */
export interface Intake {
  readonly asset: string
  readonly bytes: Uint8Array
  readonly widthPx: number
  readonly heightPx: number
  readonly hasAlpha: boolean
  readonly pixelsPerMm?: number
  /** What is told of how a picture was read, a sentence each; absent: nothing. */
  readonly notices?: readonly string[]
  /** Of a mesh: its extents seen from above, mm, and what it is made of. */
  readonly mesh?: MeshExtent & { readonly triangles: number; readonly dropped: number }
  /** Of a vector drawing: the size of what it draws, mm, and what was left out of it. */
  readonly drawing?: {
    readonly widthMm: number
    readonly heightMm: number
    readonly shapes: number
    readonly notices: readonly string[]
  }
  /** Of a PDF: which of its pages it is. */
  readonly pdf?: { readonly page: number; readonly pages: number }
  /** Of a font: what it is called. */
  readonly font?: { readonly name: string }
}

/** What a decoder of a format gives back. */
export interface Decoded extends RawPicture {
  readonly pixelsPerMm?: number
  /** EXIF orientation 1–8, where the pixels still have to be turned. */
  readonly orientation?: number
  /** What is told of how it was read. */
  readonly notices?: readonly string[]
}

type Decoder = (bytes: Uint8Array) => Promise<Decoded> | Decoded

const DECODERS: Record<string, Decoder> = {
  png: async (bytes) => ({ ...decodePng(bytes), orientation: await orientationOf(bytes) }),
  jpg: decodeJpeg,
  gif: decodeBySharp,
  bmp: decodeBmp,
  tiff: decodeBySharp,
  webp: decodeBySharp,
}

/** Larger files are refused unread. */
const MAX_BYTES = 150_000_000

/**
 * Reads a picture file (PNG, JPEG, GIF, BMP, TIFF, WebP), turned as its camera held it, into the one form that every
 * part of Neotaxis reads. Its size is checked from the header, before anything is decoded.
 * @param page of a PDF, from 1 @throws PictureError with a sentence for the operator
 */
export async function takeIn(bytes: Uint8Array, page = 1): Promise<Intake> {
  if (bytes.length === 0) throw new PictureError('The file is empty.')
  if (bytes.length > MAX_BYTES)
    throw new PictureError(`The file has ${Math.round(bytes.length / 1e6)} MB; at most ${MAX_BYTES / 1e6} MB can be read.`)
  if (!pngSize(bytes) && isStl(bytes)) return takeInMesh(bytes)
  if (isFont(bytes)) return takeInFont(bytes)
  if (isPdf(bytes)) return takeInPdf(bytes, page)
  if (drawingKind(bytes)) return takeInDrawing(bytes)
  const { type, decoded, upright } = await decodedFile(bytes)
  const { pixelsPerMm } = decoded
  const hasAlpha = seeThrough(upright)
  // A PNG of 8 or 16 bit is kept byte for byte: nothing is gained by writing it anew.
  const canonical =
    type === 'png' && isCanonical(bytes) && (decoded.orientation ?? 1) === 1
      ? bytes
      : encodePng(hasAlpha ? upright : withoutAlpha(upright), {
          pixelsPerMm,
          crc32,
          deflate: (body) => deflateSync(body, { level: 3 }),
        })
  return {
    asset: sha256(canonical),
    bytes: canonical,
    widthPx: upright.widthPx,
    heightPx: upright.heightPx,
    hasAlpha,
    pixelsPerMm,
    ...(decoded.notices && decoded.notices.length > 0 ? { notices: decoded.notices } : {}),
  }
}

/** A picture as its camera held it. @throws PictureError with a sentence for the operator */
async function decodedFile(bytes: Uint8Array): Promise<{ type: string; decoded: Decoded; upright: RawPicture }> {
  const { type, width, height } = header(bytes)
  const decoder = DECODERS[type]
  if (!decoder) throw new PictureError(`Pictures of the kind ${type.toUpperCase()} cannot be read. Save it as PNG or JPEG.`)
  if (width * height > MAX_PIXELS || !(width > 0) || !(height > 0)) throw new PictureError(tooLarge(width, height))
  let decoded: Decoded
  try {
    decoded = await decoder(bytes)
  } catch (cause) {
    if (cause instanceof PictureError) throw cause
    throw new PictureError(`The ${NAMES[type] ?? type} picture is damaged or cut short and cannot be read.`, { cause })
  }
  return { type, decoded, upright: orient(decoded, decoded.orientation ?? 1) }
}

/** The pixels of a photo, as a camera sent it: nothing is kept of it. @throws PictureError with a sentence for the operator */
export async function readPhoto(bytes: Uint8Array): Promise<RawPicture> {
  if (bytes.length === 0) throw new PictureError('The file is empty.')
  if (bytes.length > MAX_BYTES) throw new PictureError('This photo is too large to be read.')
  return (await decodedFile(bytes)).decoded
}

/** The name of an asset, as the core's `assetName` gives it, many times faster. */
const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

/** The longer side of a mesh's height map to begin with, px. */
const HEIGHT_MAP_PX = 1600

/** A mesh is kept byte for byte: what is seen of it is chosen in the job. */
function takeInMesh(bytes: Uint8Array): Intake {
  let mesh: Triangles
  try {
    mesh = readStl(bytes)
  } catch (cause) {
    throw new PictureError(cause instanceof MeshError ? cause.message : 'The mesh is damaged.', { cause })
  }
  const extent = meshExtent(mesh, '+z')
  const { width, height } = extent
  const scale = HEIGHT_MAP_PX / Math.max(width, height, 1e-9)
  const side = (length: number): number => Math.max(1, Math.round(length * scale))
  return {
    asset: sha256(bytes),
    bytes,
    widthPx: side(width),
    heightPx: side(height),
    hasAlpha: true,
    pixelsPerMm: scale,
    mesh: { ...extent, triangles: mesh.count, dropped: mesh.dropped },
  }
}

/** A page of a PDF is kept as the drawing that it is, or as its picture where it holds nothing else. */
async function takeInPdf(bytes: Uint8Array, number: number): Promise<Intake> {
  try {
    const { svg, picture, notices, pages } = await pdfPage(bytes, number)
    const pdf = { page: number, pages }
    if (picture) return { ...(await takeIn(picture)), pdf, ...(notices.length > 0 ? { notices } : {}) }
    const taken = takeInDrawing(new TextEncoder().encode(svg))
    return { ...taken, pdf, drawing: { ...taken.drawing!, notices: [...notices, ...taken.drawing!.notices] } }
  } catch (cause) {
    if (cause instanceof PictureError) throw cause
    throw new PictureError(cause instanceof DrawingError ? cause.message : 'The PDF is damaged and cannot be read.', { cause })
  }
}

/** A font is kept byte for byte; a WOFF2 file as the font that is packed in it. */
async function takeInFont(file: Uint8Array): Promise<Intake> {
  try {
    const bytes = await plainFont(file)
    const { name } = readFont(bytes)
    return { asset: sha256(bytes), bytes, widthPx: 1, heightPx: 1, hasAlpha: false, font: { name } }
  } catch (cause) {
    throw new PictureError(cause instanceof FontError ? cause.message : 'The font is damaged.', { cause })
  }
}

/** A drawing is kept byte for byte; its pixels are those of a small picture of it. */
function takeInDrawing(bytes: Uint8Array): Intake {
  try {
    const { widthMm, heightMm, shapes, notices } = readDrawing(resolvedDrawing(bytes))
    const side = (mm: number): number => Math.max(1, Math.min(60_000, Math.round(mm * 10)))
    return {
      asset: sha256(bytes),
      bytes,
      widthPx: side(widthMm),
      heightPx: side(heightMm),
      hasAlpha: true,
      drawing: { widthMm, heightMm, shapes: shapes.length, notices },
    }
  } catch (cause) {
    throw new PictureError(cause instanceof DrawingError ? cause.message : 'The drawing is damaged.', { cause })
  }
}

const NAMES: Record<string, string> = { png: 'PNG', jpg: 'JPEG', gif: 'GIF', bmp: 'BMP', tiff: 'TIFF', webp: 'WebP' }

function header(bytes: Uint8Array): { type: string; width: number; height: number } {
  const png = pngSize(bytes)
  if (png) return { type: 'png', width: png.widthPx, height: png.heightPx }
  const bmp = bmpSize(bytes)
  if (bmp) return { type: 'bmp', ...bmp }
  try {
    const { type = '', width, height } = imageSize(bytes)
    return { type, width, height }
  } catch (cause) {
    throw new PictureError(
      'This is no picture that can be read. PNG, JPEG, GIF, BMP, TIFF and WebP are understood, of drawings SVG, DXF and PDF, of meshes STL, of fonts TTF, OTF, WOFF and WOFF2.',
      { cause },
    )
  }
}

/** Whether a PNG has 8 or 16 bit a channel, no palette, and is whole: the decoder has read it already. */
const isCanonical = (bytes: Uint8Array): boolean => bytes[24] >= 8 && bytes[25] !== 3

function seeThrough({ channels, samples, full }: RawPicture): boolean {
  if (channels === 1 || channels === 3) return false
  for (let i = channels - 1; i < samples.length; i += channels) if (samples[i] !== full) return true
  return false
}

function withoutAlpha(raw: RawPicture): RawPicture {
  if (raw.channels === 1 || raw.channels === 3) return raw
  const channels = (raw.channels - 1) as 1 | 3
  const n = raw.widthPx * raw.heightPx
  const samples = raw.full === 255 ? new Uint8Array(n * channels) : new Uint16Array(n * channels)
  for (let i = 0; i < n; i++) for (let k = 0; k < channels; k++) samples[i * channels + k] = raw.samples[i * raw.channels + k]
  return { ...raw, channels, samples }
}
