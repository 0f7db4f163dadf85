import { decode } from 'bmp-ts'
import type { Decoded } from './take-in.ts'

/** BMP; its transparency is not trusted, since most programs leave it at nothing. */
export function decodeBmp(bytes: Uint8Array): Decoded {
  const { width, height, data } = decode(Buffer.from(bytes), { toRGBA: true })
  const samples = new Uint8Array(width * height * 3)
  for (let i = 0; i < width * height; i++) samples.set(data.subarray(4 * i, 4 * i + 3), 3 * i)
  // Pixels a metre stand in the information header (BITMAPINFOHEADER).
  const perMetre = bytes.length > 42 && bytes[14] >= 40 ? new DataView(bytes.buffer, bytes.byteOffset).getInt32(38, true) : 0
  return {
    widthPx: width,
    heightPx: height,
    channels: 3,
    samples,
    full: 255,
    ...(perMetre > 0 ? { pixelsPerMm: perMetre / 1000 } : {}),
  }
}
