import { coverage, encodePng, type Ring } from '@neotaxis/core'

/** A circle as a fine polygon, in pixels. */
export const circle = (cx: number, cy: number, r: number, n = 720): Ring =>
  Float64Array.from({ length: 2 * n }, (_, i) =>
    i % 2 ? cy + r * Math.sin((Math.PI * (i - 1)) / n) : cx + r * Math.cos((Math.PI * i) / n),
  )

/** A photographed page: three waves of ink on paper that lies half in the shade, with the grain of a camera. */
export function pagePicture(width: number, height: number): Uint8Array {
  const samples = new Uint8Array(width * height)
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const light = 225 - (60 * x) / width - (25 * y) / height
      const line = [0.3, 0.5, 0.7].some(
        (at) => Math.abs(y - height * (at + 0.06 * Math.sin((x / width) * 14 + at * 20))) < height * 0.02,
      )
      const ink = line && x > width * 0.15 && x < width * 0.85
      samples[y * width + x] = light * (ink ? 0.28 : 1) + ((x * 7919 + y * 104_729) % 9) - 4
    }
  }
  return encodePng({ widthPx: width, heightPx: height, channels: 1, samples, full: 255 })
}

/** A dark disc on white, with exact edges. */
export function discPicture(side: number, r: number): { png: Uint8Array; samples: Uint8Array } {
  const covered = coverage([circle(side / 2, side / 2, r)], side, side)
  const samples = Uint8Array.from(covered, (c) => 255 - Math.round(c * 200))
  return { png: encodePng({ widthPx: side, heightPx: side, channels: 1, samples, full: 255 }), samples }
}
