import { MAX_PIXELS, PictureError, tooLarge } from '@neotaxis/core'
import { parseGIF } from 'gifuct-js'
import { unpackLzw } from './gif-lzw.ts'
import type { Decoded } from './take-in.ts'

/** GIF, its first picture, where it lies on the screen of the file: what it does not cover is clear, what stands over is cut off. */
export function decodeGif(bytes: Uint8Array): Decoded {
  const { frames, gct, lsd } = parseGIF(new Uint8Array(bytes).buffer)
  const frame = frames.find((each) => 'image' in each)
  if (!frame || !('image' in frame)) throw new Error('no picture in the GIF')
  const { descriptor, data, lct } = frame.image as typeof frame.image & { lct?: typeof gct }
  const { left, top, width: w, height: h } = descriptor
  if (w * h > MAX_PIXELS) throw new PictureError(tooLarge(w, h))
  const colours = (descriptor.lct.exists ? lct : gct) ?? []
  const clear = frame.gce?.extras.transparentColorGiven ? frame.gce.transparentColorIndex : -1
  const palette = new Uint8Array(4 * 256)
  for (let i = 0; i < 256; i++) palette.set([...(colours[i] ?? [0, 0, 0]), i === clear ? 0 : 255], 4 * i)
  const numbers = unpackLzw(Uint8Array.from(data.blocks), data.minCodeSize, w * h)
  const { width, height } = lsd
  const samples = new Uint8Array(4 * width * height)
  for (let row = 0; row < h; row++) {
    const y = top + (descriptor.lct.interlaced ? interlaced(row, h) : row)
    if (y >= height) continue
    for (let x = 0; x < w && left + x < width; x++) {
      const from = 4 * numbers[row * w + x]
      const to = 4 * (y * width + left + x)
      for (let k = 0; k < 4; k++) samples[to + k] = palette[from + k]
    }
  }
  return { widthPx: width, heightPx: height, channels: 4, samples, full: 255 }
}

/** Where the row of that number is shown (GIF89a, appendix E): every eighth, every eighth between, every fourth, every second. */
function interlaced(row: number, height: number): number {
  let passed = 0
  for (const [first, step] of [
    [0, 8],
    [4, 8],
    [2, 4],
    [1, 2],
  ] as const) {
    const rows = Math.ceil(Math.max(0, height - first) / step)
    if (row < passed + rows) return first + step * (row - passed)
    passed += rows
  }
  return row
}
