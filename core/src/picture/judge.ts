import type { GreyPicture } from './picture.ts'

/** What a picture is, told from its pixels. */
export interface Judgement {
  /** Nearly all of it is black or white. */
  readonly twoTone: boolean
  /** Black and white only, and changing so often that it must be dots already. */
  readonly dots: boolean
  /** Many tones, as photographs have them. */
  readonly photo: boolean
  /** Whether its grey is height. */
  readonly heights: { readonly likely: boolean; readonly reasons: readonly string[] }
}

const ROUNDED = (0.8 * Math.sqrt(70 / 12)) / 255

/** Pixels that are looked at, at most: a larger picture is sampled in rows. */
const LOOKED_AT = 2_000_000

/**
 * Looks at levels, noise, plateaus and borders. A height map has many levels, next to no noise, a border on its lowest
 * level, and rises as gently as surfaces do; a photograph has noise in every level and edges of light.
 */
export function judgePicture(picture: GreyPicture): Judgement {
  const { widthPx: w, heightPx: h, samples, full, alpha } = picture
  const every = Math.max(1, Math.ceil((w * h) / LOOKED_AT))
  const seen = (i: number): boolean => !alpha || alpha[i] >= 128
  const fine = new Set<number>()
  const levels = new Uint32Array(256)
  let counted = 0
  let turns = 0
  let pairs = 0
  let rough = 0
  let inner = 0
  const shift = full === 255 ? 0 : 8
  for (let y = 0; y < h; y += every) {
    for (let x = 0; x < w; x++) {
      const i = y * w + x
      if (!seen(i)) continue
      const v = samples[i]
      levels[v >> shift]++
      if (full > 255 && fine.size < 5000) fine.add(v)
      counted++
      if (x > 0 && seen(i - 1)) {
        pairs++
        if (Math.abs(v - samples[i - 1]) > full / 2) turns++
      }
      if (x > 1 && x < w - 2 && y > 0 && y < h - 1) {
        // What a neighbourhood as smooth as a surface would not have: the bend of the bend.
        const bend = Math.abs(samples[i - 2] - 4 * samples[i - 1] + 6 * v - 4 * samples[i + 1] + samples[i + 2]) / full
        rough += Math.min(0.2, bend)
        inner++
      }
    }
  }
  let used = 0
  let ends = 0
  for (let v = 0; v < 256; v++) {
    if (levels[v] > counted * 2e-4) used++
    if (v < 18 || v > 237) ends += levels[v]
  }
  const pure = levels[0] + levels[255] >= 0.9995 * counted
  const twoTone = counted > 0 && ends >= 0.985 * counted
  const dots = pure && pairs > 0 && turns > 0.1 * pairs
  // Rounding to 8 bit alone bends by √70/√12 levels, of which the mean is about four fifths.
  const noise = inner > 0 ? Math.max(0, rough / inner - (full === 255 ? ROUNDED : 0)) : 1
  const heights = heightCues(picture, full > 255 ? fine.size : 0, used, noise)
  return { twoTone, dots, photo: !twoTone && used >= 48, heights }
}

function heightCues(picture: GreyPicture, deepLevels: number, used: number, noise: number): Judgement['heights'] {
  const reasons: string[] = []
  let score = 0
  if (deepLevels > 1000) {
    score += 2
    reasons.push(`16 bit with ${deepLevels >= 5000 ? 'more than 5000' : deepLevels} heights`)
  } else if (used >= 100) {
    score += 1
    reasons.push(`${used} levels`)
  } else reasons.push(`only ${used} levels: steps would show`)
  if (noise < 0.004) {
    score += 2
    reasons.push('smooth as a surface')
  } else if (noise > 0.02) {
    score -= 2
    reasons.push('noisy: every grain would become a hole')
  }
  const { border, low } = borderLevel(picture)
  if (border <= low + 0.03) {
    score += 1
    reasons.push('its border is its lowest level')
  } else {
    score -= 1
    reasons.push('its border lies above its lowest level, as in lit scenes')
  }
  return { likely: score >= 3 && Math.max(used, deepLevels) >= 60, reasons }
}

/** Median of the border, and the level that one in twenty pixels lies under, 0–1. */
function borderLevel({ widthPx: w, heightPx: h, samples, full, alpha }: GreyPicture): { border: number; low: number } {
  const border: number[] = []
  const at = (i: number): void => void border.push(alpha && alpha[i] < 128 ? 0 : samples[i] / full)
  for (let x = 0; x < w; x += Math.max(1, w >> 9)) {
    at(x)
    at((h - 1) * w + x)
  }
  for (let y = 0; y < h; y += Math.max(1, h >> 9)) {
    at(y * w)
    at(y * w + w - 1)
  }
  const all: number[] = []
  const step = Math.max(1, Math.floor((w * h) / 20_000))
  for (let i = 0; i < w * h; i += step) all.push(alpha && alpha[i] < 128 ? 0 : samples[i] / full)
  const middle = (values: number[], share: number): number =>
    values.sort((a, b) => a - b)[Math.floor(share * (values.length - 1))] ?? 0
  return { border: middle(border, 0.5), low: middle(all, 0.05) }
}
