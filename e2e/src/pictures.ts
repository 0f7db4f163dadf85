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

/** A dark disc on white, with exact edges. @param pixelsPerMm its resolution, where it says one */
export function discPicture(side: number, r: number, pixelsPerMm?: number): { png: Uint8Array; samples: Uint8Array } {
  const covered = coverage([circle(side / 2, side / 2, r)], side, side)
  const samples = Uint8Array.from(covered, (c) => 255 - Math.round(c * 200))
  const picture = { widthPx: side, heightPx: side, channels: 1, samples, full: 255 } as const
  return { png: encodePng(picture, pixelsPerMm ? { pixelsPerMm } : {}), samples }
}

/** A ring in colour on nothing: all that it is not is transparent. @param pixelsPerMm its resolution, where it says one */
export function ringOnNothing(side: number, pixelsPerMm?: number): Uint8Array {
  const covered = coverage([circle(side / 2, side / 2, 0.42 * side), circle(side / 2, side / 2, 0.16 * side)], side, side)
  const samples = new Uint8Array(4 * side * side)
  for (let i = 0; i < side * side; i++) samples.set([30, 90, 120, Math.round(255 * covered[i])], 4 * i)
  const picture = { widthPx: side, heightPx: side, channels: 4, samples, full: 255 } as const
  return pixelsPerMm ? encodePng(picture, { pixelsPerMm }) : encodePng(picture)
}

/** Two waves drawn with a pen on clean paper, edges soft as a scanner leaves them. */
export function wavesPicture(width: number, height: number): Uint8Array {
  const samples = new Uint8Array(width * height)
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const off = Math.min(...[0.35, 0.65].map((at) => Math.abs(y - height * (at + 0.08 * Math.sin((x / width) * 12)))))
      const inside = x > width * 0.1 && x < width * 0.9
      samples[y * width + x] = inside ? Math.max(20, Math.min(245, 20 + (off - 3) * 110)) : 245
    }
  }
  return encodePng({ widthPx: width, heightPx: height, channels: 1, samples, full: 255 })
}

/**
 * Two words' worth of loops written with a pen on clean paper, with a few crumbs.
 * @param phone as a phone sees it: light falls to half towards a corner, over a hand's shadow, with grain
 */
export function handwriting(width: number, height: number, phone = false): Uint8Array {
  const samples = new Uint8Array(width * height).fill(245)
  const ink = (cx: number, cy: number, r: number): void => {
    for (let y = Math.floor(cy - r - 1); y <= cy + r + 1; y++)
      for (let x = Math.floor(cx - r - 1); x <= cx + r + 1; x++) {
        if (x < 0 || y < 0 || x >= width || y >= height) continue
        const share = Math.min(1, Math.max(0, r + 0.5 - Math.hypot(x - cx, y - cy)))
        samples[y * width + x] = Math.min(samples[y * width + x], 245 - 215 * share)
      }
  }
  for (const [from, to, at] of [
    [0.1, 0.44, 0.5],
    [0.55, 0.9, 0.5],
  ])
    for (let i = 0; i <= 900; i++) {
      const t = i / 900
      const a = 2 * Math.PI * 4 * t
      ink(width * (from + (to - from) * t) + 0.028 * width * Math.sin(a), height * (at - 0.16 * Math.cos(a)), 3.2)
    }
  for (let i = 0; i < 7; i++) ink(width * (0.08 + 0.13 * i), height * 0.88, 4 + (i % 3))
  if (phone)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const falls = 1 - 0.35 * (x / width) - 0.15 * (y / height)
        const shadow = 1 - 0.3 / (1 + Math.exp(-(x + y - 0.8 * width) / 14))
        samples[y * width + x] = samples[y * width + x] * falls * shadow + ((x * 7919 + y * 104_729) % 7) - 3
      }
  return encodePng({ widthPx: width, heightPx: height, channels: 1, samples, full: 255 })
}

/** A badge in plain colours on white: a blue disc in a red ring, with soft edges. */
export function badgePicture(side: number): Uint8Array {
  const ring = coverage([circle(side / 2, side / 2, side * 0.42)], side, side)
  const disc = coverage([circle(side / 2, side / 2, side * 0.25)], side, side)
  const samples = new Uint8Array(3 * side * side)
  for (let i = 0; i < side * side; i++)
    for (let c = 0; c < 3; c++) {
      const around = 255 + ([190, 40, 30][c] - 255) * ring[i]
      samples[3 * i + c] = around + ([20, 50, 130][c] - around) * disc[i]
    }
  return encodePng({ widthPx: side, heightPx: side, channels: 3, samples, full: 255 })
}
/** A ramp that somebody made into dots already: black or white, a pixel a dot. */
export function preparedDots(width: number, height: number): Uint8Array {
  const samples = new Uint8Array(width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      // Ordered by a wheel of primes: no two rows alike, no smooth grey anywhere.
      const at = ((x * 7 + y * 13 + ((x * y) % 5) * 3) % 17) / 17
      samples[y * width + x] = at < x / width ? 0 : 255
    }
  return encodePng({ widthPx: width, heightPx: height, channels: 1, samples, full: 255 })
}

/** Heights of a small island, light where they are high: smooth, without grain. */
export function heightPicture(side: number): Uint8Array {
  const hill = (x: number, y: number, u: number, v: number, wide: number): number =>
    Math.exp(-((x / side - u) ** 2 + (y / side - v) ** 2) / (2 * wide ** 2))
  const samples = new Uint8Array(side * side)
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const high = 0.8 * hill(x, y, 0.45, 0.5, 0.16) + 0.5 * hill(x, y, 0.68, 0.38, 0.1) + 0.3 * hill(x, y, 0.3, 0.68, 0.12)
      samples[y * side + x] = Math.round(255 * Math.min(1, high))
    }
  return encodePng({ widthPx: side, heightPx: side, channels: 1, samples, full: 255 })
}

/** A photo: a lit ball before a horizon, with all greys and the grain of a camera. @param pixelsPerMm its resolution, where it says one */
export function photoPicture(width: number, height: number, pixelsPerMm?: number): Uint8Array {
  const samples = new Uint8Array(width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [u, v] = [(x - 0.42 * width) / (0.3 * height), (y - 0.5 * height) / (0.3 * height)]
      const r = Math.hypot(u, v)
      const sky = y < 0.62 * height ? 200 - (60 * y) / height : 70 + (50 * x) / width
      const ball = 40 + 190 * Math.max(0, Math.sqrt(Math.max(0, 1 - r * r)) * 0.8 - 0.45 * u - 0.35 * v)
      samples[y * width + x] = Math.max(0, Math.min(255, (r < 1 ? ball : sky) + ((x * 7919 + y * 104_729) % 13) - 6))
    }
  const picture = { widthPx: width, heightPx: height, channels: 1, samples, full: 255 } as const
  return pixelsPerMm ? encodePng(picture, { pixelsPerMm }) : encodePng(picture)
}

/** A page of a ruled notebook: blue lines, a red margin, two lines of loops in ink, half in the shade. */
export function ruledPage(width: number, height: number): Uint8Array {
  const samples = new Uint8Array(3 * width * height)
  const at = (x: number, y: number): number => 3 * (y * width + x)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const light = 232 - (45 * x) / width - (15 * y) / height + ((x * 7919 + y * 104_729) % 7) - 3
      const ruled = y % 60 === 40 || y % 60 === 41
      const red = x === 60 || x === 61
      samples.set(
        ruled ? [light * 0.72, light * 0.8, light] : red ? [light, light * 0.7, light * 0.72] : [light, light, light * 0.97],
        at(x, y),
      )
    }
  const ink = (cx: number, cy: number): void => {
    for (let y = Math.floor(cy - 4); y <= cy + 4; y++)
      for (let x = Math.floor(cx - 4); x <= cx + 4; x++) {
        if (x < 0 || y < 0 || x >= width || y >= height) continue
        const share = Math.min(1, Math.max(0, 3 - Math.hypot(x - cx, y - cy)))
        for (let k = 0; k < 3; k++) samples[at(x, y) + k] *= 1 - 0.8 * share
      }
  }
  for (const line of [0.35, 0.65])
    for (let i = 0; i <= 2400; i++) {
      const t = i / 2400
      const a = 2 * Math.PI * 11 * t
      ink(width * (0.14 + 0.74 * t) + 14 * Math.sin(a), height * line - 18 * Math.cos(a) - 6 * Math.sin(0.37 * a))
    }
  return encodePng({ widthPx: width, heightPx: height, channels: 3, samples, full: 255 })
}
