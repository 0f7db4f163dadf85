/// <reference path="./modules.d.ts" />
import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import decode, { init } from '@jsquash/jpeg/decode.js'
import { PictureError } from '@neotaxis/core'
import exifr from 'exifr'
import { jpegFrame } from './jpeg-frame.ts'
import type { Decoded } from './take-in.ts'

const require = createRequire(import.meta.url)
let compiled: Promise<WebAssembly.Module> | undefined
let ready: Promise<void> | undefined

/** A damaged picture can leave the decoder's memory in disorder, so that a later one never ends: after each, a fresh decoder starts. */
async function decodeFresh(bytes: Uint8Array): ReturnType<typeof decode> {
  compiled ??= readFile(require.resolve('@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm')).then((file) => WebAssembly.compile(file))
  ready ??= compiled.then((module) => init(module))
  await ready
  try {
    return await decode(new Uint8Array(bytes).buffer, { preserveOrientation: false })
  } catch (cause) {
    ready = undefined
    throw cause
  }
}

/** JPEG, grey or colour, baseline or progressive. The decoder fills what is missing with grey, so a missing end is looked for first. */
export async function decodeJpeg(bytes: Uint8Array): Promise<Decoded> {
  if (!endsWhole(bytes)) throw new PictureError('The JPEG picture is cut short: its end is missing.')
  if (jpegFrame(bytes)?.components === 4)
    throw new PictureError('This JPEG is in CMYK, the colours of print. Save it in RGB or grey and bring it in again.')
  const { width, height, data } = await decodeFresh(bytes)
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
