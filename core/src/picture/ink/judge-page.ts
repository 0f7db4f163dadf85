import type { GreyPicture } from '../picture.ts'
import type { Plane } from '../plane.ts'
import { INK, inkOnly, underPaper } from './ink-only.ts'

/** What is told of a picture that may be a page of ink. */
export interface PageJudgement {
  /** Written, drawn or printed in ink on paper: few tones once its light is even, and little of it ink. */
  readonly likely: boolean
  readonly reasons: readonly string[]
  /** How wide its strokes are, px of the picture. */
  readonly strokePx: number
  /** How many ruled lines it has. */
  readonly lines: number
}

/** The longer side of the copy that is looked at, px. */
const LOOKED_AT = 900
const COVERAGE = { least: 0.0003, most: 0.25 } as const
/** Ink fainter than this under its paper is no ink, 0–1. */
const FAINTEST = 0.12
/** Ink that goes on for this share of the shorter side, across and down, is an area; so much of it may be areas. */
const AREA = 0.04
const AREAS = 0.15
/** A stroke has paper on both sides; what has it on one side only, this much lighter, is the rim of an area. So much may be rims. */
const ONE_SIDED = 0.6
const RIMS = 0.4
/** So far beside a stroke its paper is looked at, px of the copy. */
const BESIDE = 3
/** So much of what is no ink may be darker than paper. */
const BETWEEN = 0.03
/** Paper is light: the middle of the page is lighter than this, 0–1. */
const PAPER = 0.3

/** A picture that is none. */
export const NO_PAGE: PageJudgement = { likely: false, reasons: [], strokePx: 0, lines: 0 }

/** Darkness under the paper up to which a place may be paper, with its noise and its lines, of 255; so much of a page is. */
const NEAR_PAPER = 48
const MOST_PAPER = 0.6

/** Tells a page of ink from a photograph. */
export function judgePage(picture: GreyPicture): PageJudgement {
  const { plane, scale } = reduced(picture)
  if (picture.alpha || Math.min(plane.width, plane.height) < 32) return NO_PAGE
  // Most of a page is paper: what is not is told from it at once.
  const dark = underPaper(plane)
  let paper = 0
  for (let i = 0; i < dark.length; i++) if (dark[i] < NEAR_PAPER) paper++
  if (paper < MOST_PAPER * dark.length || middleTone(plane) < PAPER) return NO_PAGE
  const made = inkOnly(plane, INK, undefined, dark)
  const strokePx = made.strokePx * scale
  const { coverage, inkDark, between, lines } = made
  const percent = (share: number): string => `${share < 0.1 ? (100 * share).toFixed(1) : Math.round(100 * share)}\u00a0%`
  const likely =
    coverage >= COVERAGE.least &&
    coverage <= COVERAGE.most &&
    inkDark >= FAINTEST &&
    areasOf(made.tone, plane.width, AREA * Math.min(plane.width, plane.height)) <= AREAS &&
    between <= BETWEEN &&
    rimsOf(made.tone, plane) <= RIMS
  return {
    likely,
    reasons: [
      `ink on ${percent(coverage)} of it`,
      `strokes about ${strokePx < 10 ? strokePx.toFixed(1) : Math.round(strokePx)}\u00a0px wide`,
      ...(lines > 0 ? [`${lines} ruled lines`] : []),
    ],
    strokePx,
    lines,
  }
}

/** Share of ink in stretches longer than `least` px both across and down. */
function areasOf(tone: Uint16Array, width: number, least: number): number {
  const isInk = (i: number): boolean => tone[i] < 32_768
  const wide = new Uint8Array(tone.length)
  const height = tone.length / width
  const stretches = (from: number, step: number, n: number): void => {
    for (let k = 0; k < n; k++) {
      const start = k
      while (k < n && isInk(from + k * step)) k++
      if (k - start >= least) for (let j = start; j < k; j++) wide[from + j * step]++
    }
  }
  for (let y = 0; y < height; y++) stretches(y * width, 1, width)
  for (let x = 0; x < width; x++) stretches(x, width, height)
  let ink = 0
  let areas = 0
  for (let i = 0; i < tone.length; i++) {
    if (!isInk(i)) continue
    ink++
    if (wide[i] === 2) areas++
  }
  return ink > 0 ? areas / ink : 1
}

/** Share of the ways through ink, along rows and columns, that have something dark on one side: an area whose inside was taken for paper. */
function rimsOf(ink: Uint16Array, { tone, width, height }: Plane): number {
  let [ways, rims] = [0, 0]
  const along = (from: number, step: number, n: number): void => {
    for (let k = 0; k < n; k++) {
      if (ink[from + k * step] >= 32_768) continue
      const start = k
      while (k < n && ink[from + k * step] < 32_768) k++
      const [before, behind] = [start - BESIDE, k - 1 + BESIDE]
      if (before < 0 || behind >= n) continue
      const [a, b] = [tone[from + before * step], tone[from + behind * step]]
      ways++
      if (Math.min(a, b) < ONE_SIDED * Math.max(a, b)) rims++
    }
  }
  for (let y = 0; y < height; y++) along(y * width, 1, width)
  for (let x = 0; x < width; x++) along(x, width, height)
  return ways > 0 ? rims / ways : 0
}

function middleTone({ tone }: Plane): number {
  const counts = new Uint32Array(256)
  for (let i = 0; i < tone.length; i++) counts[tone[i] >> 8]++
  let v = 0
  for (let sum = counts[0]; v < 255 && 2 * sum < tone.length; sum += counts[++v]);
  return v / 255
}

/** A small copy: means of whole blocks. */
function reduced({ widthPx, heightPx, samples, full }: GreyPicture): { readonly plane: Plane; readonly scale: number } {
  const scale = Math.max(1, Math.ceil(Math.max(widthPx, heightPx) / LOOKED_AT))
  const width = Math.max(1, Math.floor(widthPx / scale))
  const height = Math.max(1, Math.floor(heightPx / scale))
  const tone = new Uint16Array(width * height)
  const by = 65_535 / (full * scale * scale)
  const sums = new Float64Array(width)
  for (let y = 0; y < height; y++) {
    sums.fill(0)
    for (let v = 0; v < scale; v++) {
      let i = (y * scale + v) * widthPx
      for (let x = 0; x < width; x++) for (let u = 0; u < scale; u++) sums[x] += samples[i++]
    }
    for (let x = 0; x < width; x++) tone[y * width + x] = sums[x] * by + 0.5
  }
  return { plane: { width, height, tone }, scale }
}
