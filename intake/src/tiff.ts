import UTIF from 'utif2'
import type { Decoded } from './take-in.ts'

/** Tags of TIFF 6.0 that are looked at. */
interface Page {
  readonly width: number
  readonly height: number
  readonly data: Uint8Array
  readonly t258?: readonly number[]
  readonly t262?: readonly number[]
  readonly t277?: readonly number[]
  readonly t274?: readonly number[]
  readonly t282?: readonly (number | readonly [number, number])[]
  readonly t296?: readonly number[]
}

const MM_PER_UNIT: Record<number, number> = { 2: 25.4, 3: 10 }

/** TIFF, its first picture: grey of 16 bit as it is (height maps come so), all else as 8 bit. */
export function decodeTiff(bytes: Uint8Array): Decoded {
  const buffer = bytes.slice().buffer
  const [page] = UTIF.decode(buffer)
  if (!page) throw new Error('no picture in the TIFF')
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
