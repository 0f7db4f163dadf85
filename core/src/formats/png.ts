import { decode, hasPngSignature } from 'fast-png'
import { zlibSync } from 'fflate'
import { type GreyPicture, type RawPicture, toGrey } from '../picture/picture.ts'
import type { GreyWeights } from '../picture/steps.ts'

/** A picture file that cannot be used; `message` is a sentence for the operator. */
export class PictureError extends Error {}

/** Raw samples and, where the file tells it, its resolution. */
export interface DecodedPng extends RawPicture {
  readonly pixelsPerMm?: number
}

/** The size in a PNG's header without decoding it; undefined where there is none. */
export function pngSize(bytes: Uint8Array): { widthPx: number; heightPx: number } | undefined {
  if (bytes.length < 33 || !hasPngSignature(bytes)) return undefined
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  return { widthPx: view.getUint32(16), heightPx: view.getUint32(20) }
}

/** More pixels than this are refused before anything is decoded. */
export const MAX_PIXELS = 120_000_000

/**
 * Decodes any PNG: grey, colour, palette, 1 to 16 bit, transparent or not.
 * @throws PictureError with a sentence
 */
export function decodePng(bytes: Uint8Array): DecodedPng {
  const size = pngSize(bytes)
  if (!size) throw new PictureError('This is not a PNG picture.')
  if (size.widthPx * size.heightPx > MAX_PIXELS || size.widthPx === 0 || size.heightPx === 0)
    throw new PictureError(tooLarge(size.widthPx, size.heightPx))
  let png: ReturnType<typeof decode>
  try {
    png = decode(bytes, { checkCrc: true })
  } catch (cause) {
    throw new PictureError('The PNG is damaged or cut short and cannot be read.', { cause })
  }
  const { width, height, depth, resolution } = png
  const n = width * height
  let channels = png.channels as RawPicture['channels']
  let samples: Uint8Array | Uint16Array =
    png.data instanceof Uint16Array ? png.data : new Uint8Array(png.data.buffer, png.data.byteOffset, png.data.byteLength)
  if (png.palette) {
    const colours = png.palette
    const alpha = colours.some((colour) => colour.length > 3 && colour[3] !== 255)
    channels = alpha ? 4 : 3
    const indices = unpack(samples, width, height, depth, 1)
    const out = new Uint8Array(n * channels)
    for (let i = 0; i < n; i++) {
      const colour = colours[indices[i]] ?? [0, 0, 0, 255]
      for (let k = 0; k < channels; k++) out[i * channels + k] = k === 3 ? (colour[3] ?? 255) : colour[k]
    }
    samples = out
  } else {
    if (depth < 8) {
      const full = (1 << depth) - 1
      samples = unpack(samples, width, height, depth, 1).map((v) => Math.round((v * 255) / full))
    }
    if (png.transparency && (channels === 1 || channels === 3)) {
      // One colour is declared transparent (tRNS).
      const key = depth < 8 ? [Math.round((png.transparency[0] * 255) / ((1 << depth) - 1))] : png.transparency
      const more = (channels + 1) as 2 | 4
      const out = samples instanceof Uint16Array ? new Uint16Array(n * more) : new Uint8Array(n * more)
      const full = samples instanceof Uint16Array ? 65_535 : 255
      for (let i = 0; i < n; i++) {
        let same = true
        for (let k = 0; k < channels; k++) {
          out[i * more + k] = samples[i * channels + k]
          if (samples[i * channels + k] !== key[k]) same = false
        }
        out[i * more + channels] = same ? 0 : full
      }
      samples = out
      channels = more
    }
  }
  if (samples.length < n * channels) throw new PictureError('The PNG is damaged or cut short and cannot be read.')
  return {
    widthPx: width,
    heightPx: height,
    channels,
    samples,
    full: samples instanceof Uint16Array ? 65_535 : 255,
    pixelsPerMm: resolution?.unit === 1 && resolution.x > 0 ? resolution.x / 1000 : undefined,
  }
}

/** The sentence for a picture with too many pixels. */
export const tooLarge = (widthPx: number, heightPx: number): string =>
  widthPx === 0 || heightPx === 0
    ? 'The picture has no pixels.'
    : `The picture claims ${widthPx} × ${heightPx} px; at most ${MAX_PIXELS / 1_000_000} million pixels can be used. Make it smaller first.`

function unpack(packed: Uint8Array | Uint16Array, width: number, height: number, depth: number, channels: number): Uint8Array {
  const n = width * height * channels
  if (depth >= 8 || packed.length >= n) return packed instanceof Uint8Array ? packed : Uint8Array.from(packed)
  const rowBytes = Math.ceil((width * channels * depth) / 8)
  const out = new Uint8Array(n)
  const mask = (1 << depth) - 1
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const bit = x * depth
      out[y * width + x] = (packed[y * rowBytes + (bit >> 3)] >> (8 - depth - (bit & 7))) & mask
    }
  }
  return out
}

/** Grey, by weights, and opacity of a PNG. @throws PictureError */
export const greyFromPng = (bytes: Uint8Array, weights?: GreyWeights): GreyPicture => toGrey(decodePng(bytes), weights)

const COLOUR_TYPES = [0, 0, 4, 2, 6] as const

let crcTable: Int32Array | undefined

function crc(bytes: Uint8Array): number {
  if (!crcTable) {
    crcTable = new Int32Array(256)
    for (let n = 0; n < 256; n++) {
      let c = n
      for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
      crcTable[n] = c
    }
  }
  let c = -1
  for (let i = 0; i < bytes.length; i++) c = crcTable[(c ^ bytes[i]) & 255] ^ (c >>> 8)
  return (c ^ -1) >>> 0
}

function chunk(type: string, data: Uint8Array, checksum = crc): Uint8Array {
  const out = new Uint8Array(data.length + 12)
  const view = new DataView(out.buffer)
  view.setUint32(0, data.length)
  for (let i = 0; i < 4; i++) out[4 + i] = type.charCodeAt(i)
  out.set(data, 8)
  view.setUint32(8 + data.length, checksum(out.subarray(4, 8 + data.length)))
  return out
}

export interface EncodeOptions {
  /** Written as pHYs, so that other programs know the real size. */
  readonly pixelsPerMm?: number
  /** Packs two-tone pictures (0 and 255 only, one channel) at one bit a pixel. */
  readonly oneBit?: boolean
  /** Deflates bytes to the zlib format; by default in JavaScript. */
  readonly deflate?: (bytes: Uint8Array) => Uint8Array
  /** The checksum of ISO 3309, as an unsigned number; by default in JavaScript. */
  readonly crc32?: (bytes: Uint8Array) => number
}

/** A row less the one above it (filter “Up”; nothing above the first). */
function upBytes(samples: Uint8Array, row: number, stride: number, out: Uint8Array, at: number): void {
  if (row === 0) out.set(samples.subarray(0, stride), at)
  else for (let i = 0; i < stride; i++) out[at + i] = samples[row + i] - samples[row - stride + i]
}

/** The same for 16 bit, high byte first, bytes apart. */
function upWords(samples: Uint16Array, row: number, words: number, out: Uint8Array, at: number): void {
  for (let i = 0; i < words; i++) {
    const v = samples[row + i]
    const above = row === 0 ? 0 : samples[row - words + i]
    out[at + 2 * i] = (v >> 8) - (above >> 8)
    out[at + 2 * i + 1] = v - above
  }
}

/** Writes a PNG (ISO/IEC 15948), 1, 8 or 16 bit, rows filtered by “Up” where that is more than one bit. */
export function encodePng(raw: RawPicture, options: EncodeOptions = {}): Uint8Array {
  const { widthPx, heightPx, channels, samples, full } = raw
  const deep = full === 65_535
  const bits = options.oneBit ? 1 : deep ? 16 : 8
  const stride = options.oneBit ? Math.ceil(widthPx / 8) : widthPx * channels * (deep ? 2 : 1)
  const body = new Uint8Array((stride + 1) * heightPx)
  for (let y = 0; y < heightPx; y++) {
    const at = y * (stride + 1) + 1
    if (options.oneBit) {
      for (let x = 0; x < widthPx; x++) if (samples[y * widthPx + x] >= 128) body[at + (x >> 3)] |= 128 >> (x & 7)
      continue
    }
    body[at - 1] = 2
    const row = y * widthPx * channels
    if (samples instanceof Uint8Array) upBytes(samples, row, stride, body, at)
    else upWords(samples, row, widthPx * channels, body, at)
  }
  const header = new Uint8Array(13)
  const view = new DataView(header.buffer)
  view.setUint32(0, widthPx)
  view.setUint32(4, heightPx)
  header[8] = bits
  header[9] = COLOUR_TYPES[channels]
  const deflate = options.deflate ?? ((bytes: Uint8Array) => zlibSync(bytes, { level: 4 }))
  const parts = [Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a), chunk('IHDR', header)]
  if (options.pixelsPerMm) {
    const physical = new Uint8Array(9)
    const p = new DataView(physical.buffer)
    p.setUint32(0, Math.round(options.pixelsPerMm * 1000))
    p.setUint32(4, Math.round(options.pixelsPerMm * 1000))
    physical[8] = 1
    parts.push(chunk('pHYs', physical))
  }
  parts.push(chunk('IDAT', deflate(body), options.crc32), chunk('IEND', new Uint8Array(0)))
  const out = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0))
  let at = 0
  for (const part of parts) {
    out.set(part, at)
    at += part.length
  }
  return out
}
