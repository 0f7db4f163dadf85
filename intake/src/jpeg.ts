import { PictureError } from '@neotaxis/core'
import { decodeBySharp } from './sharp-picture.ts'
import type { Decoded } from './take-in.ts'

/** JPEG, grey, colour or of print, baseline or progressive. The decoder fills what is missing with grey, so a missing end is looked for first. */
export async function decodeJpeg(bytes: Uint8Array): Promise<Decoded> {
  if (!endsWhole(bytes)) throw new PictureError('The JPEG picture is cut short: its end is missing.')
  const decoded = await decodeBySharp(bytes)
  const { channels, samples, widthPx, heightPx } = decoded
  if (channels !== 3) return decoded
  // Colours that are all grey are one channel.
  const n = widthPx * heightPx
  for (let i = 0; i < 3 * n; i += 3) if (samples[i] !== samples[i + 1] || samples[i] !== samples[i + 2]) return decoded
  const grey = new Uint8Array(n)
  for (let i = 0; i < n; i++) grey[i] = samples[3 * i]
  return { ...decoded, channels: 1, samples: grey }
}

/** The end marker stands in the last bytes; some cameras pad behind it. */
function endsWhole(bytes: Uint8Array): boolean {
  for (let i = bytes.length - 2; i >= Math.max(2, bytes.length - 65_536); i--)
    if (bytes[i] === 0xff && bytes[i + 1] === 0xd9) return true
  return false
}
