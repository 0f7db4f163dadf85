import UTIF from 'utif2'
import type { Decoded } from './take-in.ts'

/** TIFF, its first picture, as 8 bit. */
export function decodeTiff(bytes: Uint8Array): Decoded {
  const buffer = bytes.slice().buffer
  const [page] = UTIF.decode(buffer)
  if (!page) throw new Error('no picture in the TIFF')
  UTIF.decodeImage(buffer, page)
  const samples = UTIF.toRGBA8(page)
  return { widthPx: page.width, heightPx: page.height, channels: 4, samples, full: 255 }
}
