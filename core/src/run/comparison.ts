import type { ForecastMaps } from '../forecast/maps.ts'
import type { DotField } from '../lineage/field.ts'
import type { Marks } from '../picture/prepare.ts'

/** What a machine really burned, as a camera above it would see it; rows along the machine's own x, from the rear to the front. */
export interface BurnedMaps {
  readonly columns: number
  readonly rows: number
  /** Where the first pixel's corner lies: mm of the sweep, the face turned as it lies in the machine. */
  readonly x0: number
  readonly y0: number
  /** mm a pixel. */
  readonly cellMm: number
  /** 0 untouched to 255 fully dark. */
  readonly tone: Uint8Array
  /** 255 where it is cut through. */
  readonly through: Uint8Array
}

/** How well a forecast was kept. */
export interface Comparison {
  /** Cuts: area that both have by area that either has, 0–1; null where nothing is cut. */
  readonly cutOverlap: number | null
  /** mm² cut through, expected and burned. */
  readonly cutExpectedMm2: number
  readonly cutBurnedMm2: number
  /** Mean difference of tone over what is marked, 0–1; null where nothing is. */
  readonly toneOff: number | null
  /** Mean of the tone, burned less expected: positive where it came out darker. */
  readonly toneBias: number | null
}

/** Tones are compared over squares of this side, so that single dots do not count, mm. */
const TONE_CELL_MM = 0.8

/** Compares both maps, pixel by pixel. @throws where their sizes differ */
export function compareBurn(forecast: ForecastMaps, burned: BurnedMaps): Comparison {
  const { columns, rows, cellMm } = burned
  if (forecast.through.length !== columns * rows) throw new RangeError('The maps differ in size.')
  let both = 0
  let expected = 0
  let cut = 0
  for (let i = 0; i < columns * rows; i++) {
    const f = forecast.through[i] > 127
    const b = burned.through[i] > 127
    if (f) expected++
    if (b) cut++
    if (f && b) both++
  }
  const either = expected + cut - both
  const size = Math.max(1, Math.round(TONE_CELL_MM / cellMm))
  let off = 0
  let bias = 0
  let cells = 0
  for (let r0 = 0; r0 + size <= rows; r0 += size) {
    for (let c0 = 0; c0 + size <= columns; c0 += size) {
      let f = 0
      let b = 0
      for (let r = r0; r < r0 + size; r++) {
        for (let i = r * columns + c0; i < r * columns + c0 + size; i++) {
          if (forecast.through[i] > 127 || burned.through[i] > 127) continue
          f += forecast.tone[i]
          b += burned.tone[i]
        }
      }
      if (f === 0 && b === 0) continue
      const difference = (b - f) / (255 * size * size)
      off += Math.abs(difference)
      bias += difference
      cells++
    }
  }
  return {
    cutOverlap: either > 0 ? both / either : null,
    cutExpectedMm2: expected * cellMm * cellMm,
    cutBurnedMm2: cut * cellMm * cellMm,
    toneOff: cells > 0 ? off / cells : null,
    toneBias: cells > 0 ? bias / cells : null,
  }
}

/** A dot is told from its neighbours where it is seen with so many pixels across, at least. */
const LEAST_PX = 1.6

/**
 * Share of dots that are as they should be: burned where the picture has a mark, untouched where it has none. The middle of
 * each dot is looked at; dots where something is cut, or was to be, are left out. Undefined where dots are too fine to be told apart in
 * what was seen.
 */
export function dotsKept(marks: Marks, grid: DotField, burned: BurnedMaps, forecast: ForecastMaps): number | undefined {
  const { columns, rows, x0, y0, cellMm, tone, through } = burned
  if (grid.pitch < LEAST_PX * cellMm) return undefined
  let right = 0
  let seen = 0
  // Half-covered pixels at the ends of dots are no dots.
  const burnedFrom = tone.reduce((most, t) => Math.max(most, t), 0) / 3
  for (let r = 0; r < grid.rows; r++) {
    const y = Math.floor((grid.y0 + (r + 0.5) * grid.pitch - y0) / cellMm)
    if (y < 0 || y >= rows) continue
    for (let c = 0; c < grid.columns; c++) {
      const x = Math.floor((grid.x0 + (c + 0.5) * grid.pitch - x0) / cellMm)
      const i = y * columns + x
      if (x < 0 || x >= columns || through[i] > 127 || forecast.through[i] > 127) continue
      seen++
      if (tone[i] > burnedFrom === marks.levels[r * grid.columns + c] > 0) right++
    }
  }
  return seen > 0 ? right / seen : 1
}
