import { mapPoint } from '../geometry/homography.ts'
import type { Framed } from './framing.ts'
import type { Grade } from './grade.ts'
import { type Plane, WHITE } from './plane.ts'
import type { TonePatch, TreatmentStep } from './steps.ts'

/** Levels 0–255. */
export interface BlackAndWhite {
  readonly black: number
  readonly white: number
}

/** So many deviations of its own noise beside its middle a patch is ink, or paper. */
const DEVIATIONS = 2

/** Middle of a patch and the deviation of its noise, by medians: a border of something else under it does not count. */
function middleOf(sorted: readonly number[]): { readonly middle: number; readonly noise: number } {
  const middle = sorted[sorted.length >> 1]
  const off = sorted.map((v) => Math.abs(v - middle)).sort((a, b) => a - b)
  return { middle, noise: 1.4826 * off[off.length >> 1] }
}

/** A ring under which tones lie farther apart than this holds ink and paper, levels. */
const BOTH = 40

/** Of tones under a ring those that are meant: where ink and paper lie under it, the dark ones for ink, the light ones for paper. */
function meant(sorted: readonly number[], side: 'ink' | 'paper'): readonly number[] {
  const at = (share: number): number => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]
  const [low, high] = [at(0.05), at(0.95)]
  if (high - low < BOTH) return sorted
  const middle = (low + high) / 2
  // Soft edges lie between: only what is nearer to its own end than to the middle counts.
  const end = side === 'ink' ? (low + middle) / 2 : (high + middle) / 2
  const own = sorted.filter((v) => (side === 'ink' ? v <= end : v >= end))
  return own.length > 0 ? own : sorted
}

/** Values of the pixels under a patch, 0–255. @param at value of a pixel of the frame, 0–1, or undefined where it is nothing */
function under(
  patch: TonePatch,
  { toFrame }: Framed,
  sx: number,
  sy: number,
  width: number,
  height: number,
  at: (x: number, y: number) => number | undefined,
): number[] {
  const [fx, fy] = mapPoint(toFrame, patch.x, patch.y)
  const [gx] = mapPoint(toFrame, patch.x + patch.radius, patch.y)
  const [, hy] = mapPoint(toFrame, patch.x + patch.radius, patch.y)
  const radius = Math.max(0.71, Math.hypot(gx - fx, hy - fy) * Math.sqrt(sx * sy))
  const cx = fx * sx
  const cy = fy * sy
  const values: number[] = []
  const step = Math.max(1, Math.floor(radius / 40))
  for (let y = Math.max(0, Math.floor(cy - radius)); y <= Math.min(height - 1, cy + radius); y += step) {
    for (let x = Math.max(0, Math.floor(cx - radius)); x <= Math.min(width - 1, cx + radius); x += step) {
      if (Math.hypot(x + 0.5 - cx, y + 0.5 - cy) > radius) continue
      const v = at(x, y)
      if (v !== undefined) values.push(v * 255)
    }
  }
  return values.sort((a, b) => a - b)
}

/** The lightest ink becomes black, the darkest paper white; whichever was not sampled keeps its number. */
function levels(step: TreatmentStep, read: (patch: TonePatch) => number[]): BlackAndWhite | undefined {
  if (step.kind !== 'levels') return undefined
  const ends = (patches: readonly TonePatch[], side: 'ink' | 'paper'): number[] =>
    patches.map(read).flatMap((values) => {
      if (values.length === 0) return []
      const { middle, noise } = middleOf(meant(values, side))
      return [Math.min(255, Math.max(0, middle + (side === 'ink' ? 1 : -1) * DEVIATIONS * noise))]
    })
  const ink = ends(step.ink, 'ink')
  const paper = ends(step.paper, 'paper')
  const black = ink.length ? Math.max(...ink) : step.black
  const white = paper.length ? Math.min(...paper) : step.white
  // Ink as light as paper: both stand in the middle, and a threshold is left.
  if (white - black >= 1) return { black, white }
  const middle = Math.min(254.5, Math.max(0.5, (black + white) / 2))
  return { black: middle - 0.5, white: middle + 0.5 }
}

/** Levels from patches on the framed picture itself, after some grades. */
export function patchedFromSource(given: Framed, grades: readonly Grade[], step: TreatmentStep): BlackAndWhite | undefined {
  const framed = given.turned?.of ?? given
  const { picture, window } = framed
  const { widthPx, heightPx, samples, alpha, full } = picture
  return levels(step, (patch) =>
    under(patch, framed, 1, 1, Math.floor(window.width), Math.floor(window.height), (x, y) => {
      const i = Math.min(heightPx - 1, Math.floor(y + window.y)) * widthPx + Math.min(widthPx - 1, Math.floor(x + window.x))
      if (alpha && alpha[i] < 128) return undefined
      let v = samples[i] / full
      for (const grade of grades) v = grade(v)
      return v
    }),
  )
}

/** Levels from patches on a picture at dot pitch. */
export function patchedFromPlane(plane: Plane, framed: Framed, step: TreatmentStep): BlackAndWhite | undefined {
  const { width, height, tone, alpha } = plane
  const sx = width / framed.window.width
  const sy = height / framed.window.height
  return levels(step, (patch) =>
    under(patch, framed, sx, sy, width, height, (x, y) => {
      const i = y * width + x
      return alpha && alpha[i] < 128 ? undefined : tone[i] / WHITE
    }),
  )
}
