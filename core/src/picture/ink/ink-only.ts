import { clean } from '../clean.ts'
import { flatten } from '../flatten.ts'
import type { GreyPicture } from '../picture.ts'
import { type Plane, WHITE } from '../plane.ts'
import { FINE, type InkField, type RuledLine, ruledLines } from './ruled.ts'

/** How a page is brought to its ink alone. */
export interface InkOptions {
  /** Whether the lines of ruled paper go. */
  readonly ruled: boolean
  /** Share of the ink's darkness from which on a place is ink, 0–1. */
  readonly from: number
}

export const INK: InkOptions = { ruled: true, from: 0.5 }

/** A page brought to its ink, and what was seen of it. */
export interface InkOnly {
  /** Ink black, paper white, edges between them at half. */
  readonly tone: Uint16Array
  /** How dark its ink is under its paper, 0–1. */
  readonly inkDark: number
  /** How wide its strokes are on average, px. */
  readonly strokePx: number
  /** Share of the page that is ink. */
  readonly coverage: number
  /** Share of what is not ink that is no paper either: dark beyond its noise, and not beside ink. */
  readonly between: number
  /** How many ruled lines went. */
  readonly lines: number
  /** Noise of the paper, 0–1. */
  readonly noise: number
}

/** Share of the shorter side that ink is thinner than, and shadows are wider than. */
const RADIUS = 1 / 28
/** Share of a patch of paper that is darker than the middle of its paper: a little more than half, as some of it is ink. */
const DARKER = 0.6
/** Noise above this is averaged over neighbours first, levels. */
const NOISY = 9
/** Faint ends of strokes count from this share of what is ink. */
const FAINT = 0.7
/** A ruled line that is nearly as dark as ink is told from it by how thick it is. */
const AS_DARK = 0.72
/** From this share of what counts as ink on a place is paper no more. */
const BETWEEN = 0.5
/** A speck is smaller than this share of a square as wide as a stroke. */
const SPECK = 0.35

/**
 * Ink only: light evened, ruled lines taken away, paper to white and ink to black. What is ink is so from half of the ink's own
 * darkness on, with its faint ends; spots smaller than a dot of the pen go.
 * @param under its darkness under the paper where that is known already, see `underPaper`
 */
export function inkOnly(
  plane: Plane,
  { ruled, from }: InkOptions,
  progress?: (done: number) => void,
  under = underPaper(plane),
): InkOnly {
  const { width, height } = plane
  const seen: InkField = { width, height, dark: under }
  const grain = noiseOf(seen)
  const field = grain > NOISY ? softened(seen) : seen
  progress?.(0.4)
  const across = ruled ? ruledLines(field) : []
  progress?.(0.55)
  const upright = ruled && across.length > 0 ? ruledLines(transposed(field)) : []
  progress?.(0.7)
  const noise = grain > NOISY ? noiseOf(field) : grain
  const away = nearLines(field, across, upright)
  const full = inkLevel(field, away, noise)
  let { dark } = field
  if (across.length > 0) dark = withoutLines({ width, height, dark }, across, full, from)
  if (upright.length > 0)
    dark = transposed({
      width: height,
      height: width,
      dark: withoutLines(transposed({ width, height, dark }), upright, full, from),
    }).dark
  progress?.(0.85)
  const level = full * from
  const ink = grownFrom({ width, height, dark }, level, FAINT * level)
  const strokePx = strokeWidth(ink, dark, width, level)
  const tone = new Uint16Array(dark.length)
  const soft = Math.max(1, 0.4 * level)
  let covered = 0
  for (let i = 0; i < tone.length; i++) {
    const share = ink[i] ? Math.min(1, Math.max(0, 0.5 + (dark[i] - (ink[i] === 2 ? FAINT * level : level)) / (2 * soft))) : 0
    tone[i] = (1 - share) * WHITE
    if (share >= 0.5) covered++
  }
  const kept = clean({ width, height, tone }, 0, Math.max(2, SPECK * strokePx * strokePx))
  progress?.(1)
  return {
    tone: kept,
    inkDark: full / 255,
    strokePx,
    coverage: covered / tone.length,
    between: betweenOf({ width, height, dark }, tone, Math.max(BETWEEN * level, 3 * noise)),
    lines: across.length + upright.length,
    noise: grain / 255,
  }
}

/** A picture of a page brought to its ink: 8 bit, as large as it was, its transparency kept. */
export function inkPicture(picture: GreyPicture, options: InkOptions, progress?: (done: number) => void): GreyPicture {
  const { widthPx, heightPx, samples, full, alpha } = picture
  const tone = new Uint16Array(samples.length)
  const by = WHITE / full
  for (let i = 0; i < tone.length; i++) tone[i] = samples[i] * by
  const made = inkOnly({ width: widthPx, height: heightPx, tone, ...(alpha ? { alpha } : {}) }, options, progress).tone
  const out = new Uint8Array(made.length)
  for (let i = 0; i < out.length; i++) out[i] = made[i] >> 8
  return { widthPx, heightPx, samples: out, full: 255, ...(alpha ? { alpha } : {}) }
}

/** Darkness under the paper, 0–255: nothing where all is transparent. */
export function underPaper(plane: Plane): Uint8Array {
  const { width, height, alpha } = plane
  const even = flatten(plane, Math.max(8, RADIUS * Math.min(width, height)), DARKER)
  const dark = new Uint8Array(even.length)
  for (let i = 0; i < dark.length; i++) dark[i] = alpha && alpha[i] < 128 ? 0 : (WHITE - even[i]) / 257 + 0.5
  return dark
}

function transposed({ width, height, dark }: InkField): InkField {
  const out = new Uint8Array(dark.length)
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out[x * height + y] = dark[y * width + x]
  return { width: height, height: width, dark: out }
}

/** Every place with a share of its eight neighbours (binomial, 3 × 3). */
function softened({ width, height, dark }: InkField): InkField {
  const across = new Uint16Array(dark.length)
  for (let y = 0; y < height; y++) {
    const row = y * width
    for (let x = 0; x < width; x++)
      across[row + x] = dark[row + Math.max(0, x - 1)] + 2 * dark[row + x] + dark[row + Math.min(width - 1, x + 1)]
  }
  const out = new Uint8Array(dark.length)
  for (let y = 0; y < height; y++) {
    const row = y * width
    const above = Math.max(0, y - 1) * width
    const below = Math.min(height - 1, y + 1) * width
    for (let x = 0; x < width; x++) out[row + x] = (across[above + x] + 2 * across[row + x] + across[below + x] + 8) >> 4
  }
  return { width, height, dark: out }
}

/** Patches a side in each of which noise is measured. */
const PATCHES = 6

/** Deviation of the paper's noise where it is noisiest, levels: by how places differ from the middle of their neighbours. */
function noiseOf({ width, height, dark }: InkField): number {
  const found: number[] = []
  const counts = new Uint32Array(1024)
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / 400_000)))
  for (let p = 0; p < PATCHES * PATCHES; p++) {
    const x0 = Math.max(1, Math.floor(((p % PATCHES) * width) / PATCHES))
    const x1 = Math.min(width - 1, Math.floor((((p % PATCHES) + 1) * width) / PATCHES))
    const y0 = Math.floor((Math.floor(p / PATCHES) * height) / PATCHES)
    const y1 = Math.floor(((Math.floor(p / PATCHES) + 1) * height) / PATCHES)
    counts.fill(0)
    let all = 0
    for (let y = y0; y < y1; y += step) {
      for (let x = x0; x < x1; x += step) {
        const i = y * width + x
        counts[Math.abs(2 * dark[i] - dark[i - 1] - dark[i + 1])]++
        all++
      }
    }
    let v = 0
    for (let sum = counts[0]; v < 1023 && 2 * sum < all; sum += counts[++v]);
    found.push((1.4826 * (v + 0.25)) / Math.sqrt(6))
  }
  return found.sort((a, b) => a - b)[Math.floor(0.9 * (found.length - 1))]
}

/** Marks what lies on ruled lines or beside them. */
function nearLines({ width, height }: InkField, across: readonly RuledLine[], upright: readonly RuledLine[]): Uint8Array {
  const near = new Uint8Array(width * height)
  for (const { at, profile, reach } of across) {
    const half = thickness(profile) / 2 + 1
    if (half > reach + 1) continue
    for (let x = 0; x < width; x++)
      for (let y = Math.max(0, Math.floor(at[x] - half)); y <= Math.min(height - 1, at[x] + half); y++) near[y * width + x] = 1
  }
  for (const { at, profile } of upright) {
    const half = thickness(profile) / 2 + 1
    for (let y = 0; y < height; y++)
      for (let x = Math.max(0, Math.floor(at[y] - half)); x <= Math.min(width - 1, at[y] + half); x++) near[y * width + x] = 1
  }
  return near
}

/** How thick a line is at half its darkness, px. */
function thickness(profile: Float32Array): number {
  const half = profile.reduce((a, b) => Math.max(a, b), 0) / 2
  return profile.reduce((n, v) => n + (v > half ? 1 : 0), 0) / FINE
}

/** How dark ink is under the paper, levels: the upper middle of what is darker than paper and its noise (N. Otsu's parting). */
function inkLevel({ dark }: InkField, away: Uint8Array, noise: number): number {
  const counts = new Float64Array(256)
  const least = Math.max(16, 4 * noise)
  for (let i = 0; i < dark.length; i++) if (!away[i]) counts[dark[i]]++
  const darker = (part: number): number => {
    let all = 0
    for (let v = part; v < 256; v++) all += counts[v]
    let v = 255
    for (let sum = 0; v > part; v--) {
      sum += counts[v]
      if (sum >= 0.35 * all) break
    }
    return v
  }
  // The ink's own middle, from what lies above half of it: settles in a few rounds.
  let level = darker(Math.ceil(least))
  for (let round = 0; round < 6; round++) level = darker(Math.ceil(Math.max(least, 0.5 * level)))
  return Math.max(level, 1)
}

/** A page without its ruled lines: what they darkened is lightened by as much, and ink over them stays. */
function withoutLines({ width, height, dark }: InkField, lines: readonly RuledLine[], full: number, from: number): Uint8Array {
  const out = dark.slice()
  for (const { at, profile, reach, peak } of lines) {
    if (peak < AS_DARK * full) {
      for (let x = 0; x < width; x++) {
        for (let y = Math.max(0, Math.ceil(at[x] - reach - 0.5)); y <= Math.min(height - 1, at[x] + reach - 0.5); y++) {
          const bin = Math.round((y + 0.5 - at[x] + reach) * FINE)
          const line = profile[bin] ?? 0
          if (line === 0) continue
          const i = y * width + x
          out[i] = dark[i] <= line ? 0 : Math.min(255, ((dark[i] - line) * full) / Math.max(1, full - line))
        }
      }
      continue
    }
    // As dark as ink: a stroke over it is thicker than it is.
    const thick = thickness(profile)
    const level = full * from
    const least = thick + Math.max(2, 0.5 * thick)
    for (let x = 0; x < width; x++) {
      const middle = Math.min(height - 1, Math.max(0, Math.floor(at[x])))
      const inkAt = (y: number): boolean => y >= 0 && y < height && dark[y * width + x] > FAINT * level
      let top = middle
      while (top > 0 && inkAt(top - 1) && middle - top < 2 * least) top--
      let end = middle
      while (end < height - 1 && inkAt(end + 1) && end - middle < 2 * least) end++
      if (end - top + 1 > least) continue
      for (let y = Math.max(0, top - 1); y <= Math.min(height - 1, end + 1); y++) out[y * width + x] = 0
    }
  }
  return out
}

/** Ink: what is dark enough (1), and what hangs together with it and is nearly so (2). */
function grownFrom({ width, height, dark }: InkField, level: number, faint: number): Uint8Array {
  const ink = new Uint8Array(dark.length)
  const stack: number[] = []
  for (let i = 0; i < dark.length; i++) {
    if (dark[i] >= level) {
      ink[i] = 1
      stack.push(i)
    }
  }
  while (stack.length > 0) {
    const i = stack.pop()!
    const x = i % width
    const y = (i - x) / width
    for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++) {
      for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
        const k = v * width + u
        if (ink[k] === 0 && dark[k] >= faint) {
          ink[k] = 2
          stack.push(k)
        }
      }
    }
  }
  return ink
}

/** Share of what is no ink that is darker than paper, away from edges of ink. */
function betweenOf({ width, height, dark }: InkField, tone: Uint16Array, from: number): number {
  let all = 0
  let darker = 0
  for (let y = 3; y < height - 3; y++) {
    for (let x = 3, i = y * width + 3; x < width - 3; x++, i++) {
      const beside = tone[i] < WHITE || tone[i - 3] < WHITE || tone[i + 3] < WHITE
      if (beside || tone[i - 3 * width] < WHITE || tone[i + 3 * width] < WHITE) continue
      all++
      if (dark[i] >= from) darker++
    }
  }
  return all > 0 ? darker / all : 1
}

/** How wide strokes are: twice the area over its edge, px. */
function strokeWidth(ink: Uint8Array, dark: Uint8Array, width: number, level: number): number {
  let area = 0
  let edge = 0
  for (let i = width; i < dark.length - width; i++) {
    if (dark[i] < level || ink[i] === 0) continue
    area++
    edge +=
      (dark[i - 1] < level ? 1 : 0) +
      (dark[i + 1] < level ? 1 : 0) +
      (dark[i - width] < level ? 1 : 0) +
      (dark[i + width] < level ? 1 : 0)
  }
  // A slanted edge counts its steps: by Crofton 4/π of its length on average.
  return edge > 0 ? (2 * area) / (edge * (Math.PI / 4)) : 0
}
