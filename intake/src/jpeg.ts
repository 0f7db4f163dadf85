/// <reference path="./modules.d.ts" />
import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import decode, { init } from '@jsquash/jpeg/decode.js'
import { PictureError } from '@neotaxis/core'
import exifr from 'exifr'
import type { Decoded } from './take-in.ts'

const require = createRequire(import.meta.url)
let ready: Promise<void> | undefined

async function start(): Promise<void> {
  const file = require.resolve('@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm')
  await init(await WebAssembly.compile(await readFile(file)))
}

/** JPEG, grey or colour, baseline or progressive. The decoder fills what is missing with grey, so a missing end is looked for first. */
export async function decodeJpeg(bytes: Uint8Array): Promise<Decoded> {
  if (!endsWhole(bytes)) throw new PictureError('The JPEG picture is cut short: its end is missing.')
  if (components(bytes) === 4)
    throw new PictureError('This JPEG is in CMYK, the colours of print. Save it in RGB or grey and bring it in again.')
  ready ??= start()
  await ready
  const { width, height, data } = await decode(new Uint8Array(bytes).buffer, { preserveOrientation: false })
  const n = width * height
  const samples = new Uint8Array(n * 3)
  let grey = true
  for (let i = 0, s = 0, d = 0; i < n; i++, s += 4, d += 3) {
    const r = data[s]
    const g = data[s + 1]
    const b = data[s + 2]
    samples[d] = r
    samples[d + 1] = g
    samples[d + 2] = b
    if (grey && (r !== g || g !== b)) grey = false
  }
  const { orientation, pixelsPerMm } = await facts(bytes)
  if (!grey) return { widthPx: width, heightPx: height, channels: 3, samples, full: 255, orientation, pixelsPerMm }
  const single = new Uint8Array(n)
  for (let i = 0; i < n; i++) single[i] = samples[3 * i]
  return { widthPx: width, heightPx: height, channels: 1, samples: single, full: 255, orientation, pixelsPerMm }
}

/** How many colours the frame header (SOF, ITU-T T.81, B.2.2) tells; 0 where there is none. */
function components(bytes: Uint8Array): number {
  for (let i = 2; i + 9 < bytes.length; ) {
    if (bytes[i] !== 0xff) return 0
    const marker = bytes[i + 1]
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)) return bytes[i + 9]
    i += marker === 0xff ? 1 : 2 + ((bytes[i + 2] << 8) | bytes[i + 3])
  }
  return 0
}

/** The end marker stands in the last bytes; some cameras pad behind it. */
function endsWhole(bytes: Uint8Array): boolean {
  for (let i = bytes.length - 2; i >= Math.max(2, bytes.length - 65_536); i--)
    if (bytes[i] === 0xff && bytes[i + 1] === 0xd9) return true
  return false
}

const MM_PER_UNIT: Record<number, number> = { 2: 25.4, 3: 10 }

async function facts(bytes: Uint8Array): Promise<{ orientation: number; pixelsPerMm?: number }> {
  try {
    const tags = await exifr.parse(bytes, {
      jfif: true,
      tiff: true,
      exif: false,
      gps: false,
      translateValues: false,
      mergeOutput: false,
    })
    const orientation = tags?.ifd0?.Orientation ?? 1
    const unit = tags?.ifd0?.ResolutionUnit ?? (tags?.jfif?.ResolutionUnit === 1 ? 2 : tags?.jfif?.ResolutionUnit === 2 ? 3 : 0)
    const resolution = tags?.ifd0?.XResolution ?? tags?.jfif?.XResolution ?? 0
    const mm = MM_PER_UNIT[unit]
    return { orientation, pixelsPerMm: mm && resolution > 1 ? resolution / mm : undefined }
  } catch {
    return { orientation: 1 }
  }
}
