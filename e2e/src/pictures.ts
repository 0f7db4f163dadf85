import { coverage, encodePng, type Ring } from '@neotaxis/core'

/** A circle as a fine polygon, in pixels. */
export const circle = (cx: number, cy: number, r: number, n = 720): Ring =>
  Float64Array.from({ length: 2 * n }, (_, i) =>
    i % 2 ? cy + r * Math.sin((Math.PI * (i - 1)) / n) : cx + r * Math.cos((Math.PI * i) / n),
  )

/** A dark disc on white, with exact edges. */
export function discPicture(side: number, r: number): { png: Uint8Array; samples: Uint8Array } {
  const covered = coverage([circle(side / 2, side / 2, r)], side, side)
  const samples = Uint8Array.from(covered, (c) => 255 - Math.round(c * 200))
  return { png: encodePng({ widthPx: side, heightPx: side, channels: 1, samples, full: 255 }), samples }
}
