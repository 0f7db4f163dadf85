import { FontError } from '@neotaxis/core/text/outline-font'
import decompress from 'woff2-encoder/decompress'

/** More than this is no font that anybody writes with. */
const MOST_BYTES = 20_000_000

/** A font as it is read: a WOFF2 file unpacked (W3C, “WOFF File Format 2.0”, 2022), any other as it is. @throws FontError */
export async function plainFont(bytes: Uint8Array): Promise<Uint8Array> {
  if (String.fromCharCode(...bytes.subarray(0, 4)) !== 'wOF2') return bytes
  if (bytes.length > MOST_BYTES) throw new FontError('This font is too large to be unpacked.')
  try {
    return new Uint8Array(await decompress(bytes))
  } catch (cause) {
    throw new FontError('The font is damaged and cannot be read.', { cause })
  }
}
