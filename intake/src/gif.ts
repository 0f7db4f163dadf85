/// <reference path="./modules.d.ts" />
import { GifReader } from 'omggif'
import type { Decoded } from './take-in.ts'

/** GIF, its first picture. */
export function decodeGif(bytes: Uint8Array): Decoded {
  const gif = new GifReader(Buffer.from(bytes))
  const samples = new Uint8Array(gif.width * gif.height * 4)
  gif.decodeAndBlitFrameRGBA(0, samples)
  return { widthPx: gif.width, heightPx: gif.height, channels: 4, samples, full: 255 }
}
