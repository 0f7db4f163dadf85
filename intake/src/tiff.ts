import { MAX_PIXELS, PictureError, tooLarge } from '@neotaxis/core'
import UTIF from 'utif2'
import { jpegFrame } from './jpeg-frame.ts'
import type { Decoded } from './take-in.ts'

/** Tags of TIFF 6.0 that are looked at. */
interface Page {
  readonly width: number
  readonly height: number
  readonly data: Uint8Array
  readonly t258?: readonly number[]
  readonly t259?: readonly number[]
  readonly t262?: readonly number[]
  readonly t273?: readonly number[]
  readonly t277?: readonly number[]
  readonly t274?: readonly number[]
  readonly t282?: readonly (number | readonly [number, number])[]
  readonly t296?: readonly number[]
  readonly t322?: readonly number[]
  readonly t323?: readonly number[]
  readonly t324?: readonly number[]
}

const MM_PER_UNIT: Record<number, number> = { 2: 25.4, 3: 10 }

/** Bytes of a value by its field type (TIFF 6.0, section 2). */
const TYPE_BYTES = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8, 4]
const MOST_PAGES = 1000
const MOST_SAMPLES = 16

/**
 * Goes through all directories before the decoder does: values that a field claims must be in the file, or memory would be
 * filled with what is not there.
 * @throws where the file claims more than it has
 */
function checkClaims(bytes: Uint8Array): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const little = view.getUint16(0) === 0x4949
  const u16 = (at: number): number => view.getUint16(at, little)
  const u32 = (at: number): number => view.getUint32(at, little)
  let at = u32(4)
  for (let page = 0; at !== 0; page++) {
    if (page === MOST_PAGES) throw new Error('the TIFF has no end')
    const fields = u16(at)
    for (let i = 0; i < fields; i++) {
      const field = at + 2 + 12 * i
      const tag = u16(field)
      const size = TYPE_BYTES[u16(field + 2)] ?? 1
      const count = u32(field + 4)
      const place = count * size > 4 ? u32(field + 8) : field + 8
      if (place + count * size > bytes.length) throw new Error('the TIFF claims more than it holds')
      const first = size === 2 ? u16(field + 8) : u32(field + 8)
      if (tag === 277 && first > MOST_SAMPLES) throw new Error(`the TIFF claims ${first} samples a pixel`)
    }
    at = u32(at + 2 + 12 * fields)
  }
}

/** Strips and tiles that are JPEGs (compression 6 and 7) have frame headers of their own, which must not claim much more than is there. */
function checkJpegs(bytes: Uint8Array, { t259, t273, t322, t323, t324 }: Page, pixels: number): void {
  if (t259?.[0] !== 6 && t259?.[0] !== 7) return
  const most = 2 * Math.min(MAX_PIXELS, t324 ? (t322?.[0] ?? 0) * (t323?.[0] ?? 0) : pixels) + 65_536
  for (const at of t324 ?? t273 ?? []) {
    const frame = jpegFrame(bytes.subarray(at))
    if (frame && frame.width * frame.height > most) throw new Error('a part of the TIFF claims more than the page')
  }
}

/** TIFF, its first picture: grey of 16 bit as it is (height maps come so), all else as 8 bit. */
export function decodeTiff(bytes: Uint8Array): Decoded {
  const buffer = new Uint8Array(bytes).buffer
  checkClaims(bytes)
  const [page] = UTIF.decode(buffer)
  if (!page) throw new Error('no picture in the TIFF')
  const [columns = 0, rows = 0] = [page.t256, page.t257].map((tag) => Number((tag as readonly number[] | undefined)?.[0]))
  if (columns * rows > MAX_PIXELS) throw new PictureError(tooLarge(columns, rows))
  checkJpegs(bytes, page as unknown as Page, columns * rows)
  UTIF.decodeImage(buffer, page)
  const { width, height, data, t258, t262, t274, t277, t282, t296 } = page as unknown as Page
  const written = t282?.[0] ?? 0
  const resolution = typeof written === 'number' ? written : written[0] / (written[1] || 1)
  const mm = MM_PER_UNIT[t296?.[0] ?? 2]
  const size = {
    widthPx: width,
    heightPx: height,
    orientation: t274?.[0] ?? 1,
    ...(mm && resolution > 1 ? { pixelsPerMm: resolution / mm } : {}),
  }
  if (t258?.[0] === 16 && (t277?.[0] ?? 1) === 1 && (t262?.[0] === 0 || t262?.[0] === 1) && data.length >= 2 * width * height) {
    const flip = t262[0] === 0 ? 65_535 : 0
    const samples = Uint16Array.from({ length: width * height }, (_, i) => flip ^ (data[2 * i] | (data[2 * i + 1] << 8)))
    return { ...size, channels: 1, samples, full: 65_535 }
  }
  return { ...size, channels: 4, samples: UTIF.toRGBA8(page), full: 255 }
}
