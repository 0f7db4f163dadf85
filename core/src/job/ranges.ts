/** What every value of a job may be. Shown at the field, held at every border. */
export interface Range {
  readonly min: number
  readonly max: number
}

export const RANGES = {
  power: { min: 0, max: 1 },
  speedMmS: { min: 0.1, max: 10_000 },
  passes: { min: 1, max: 50 },
  intervalMm: { min: 0.02, max: 5 },
  kerfMm: { min: 0, max: 5 },
  thicknessMm: { min: 0.05, max: 200 },
  bedMm: { min: 10, max: 10_000 },
  workpieceMm: { min: 1, max: 10_000 },
  sizeMm: { min: 0.5, max: 10_000 },
  positionMm: { min: -10_000, max: 10_000 },
  distanceMm: { min: -200, max: 200 },
  threshold: { min: 0.01, max: 0.99 },
  toleranceMm: { min: 0, max: 5 },
  cornerDeg: { min: 5, max: 170 },
  minAreaMm2: { min: 0, max: 10_000 },
  gamma: { min: 0.1, max: 10 },
  sidePx: { min: 1, max: 60_000 },
  degrees: { min: -360, max: 360 },
  ratio: { min: 0, max: 100 },
  grey: { min: 0, max: 255 },
  percent: { min: -100, max: 100 },
  posterise: { min: 2, max: 64 },
  flattenMm: { min: 0.2, max: 200 },
  sharpenRadius: { min: 0.2, max: 10 },
  sharpenAmount: { min: 0, max: 500 },
  haze: { min: 0, max: 1 },
  specksMm2: { min: 0, max: 1000 },
  linesPerInch: { min: 5, max: 300 },
  featherPx: { min: 0, max: 1000 },
  tolerance: { min: 0, max: 1 },
  sourcePx: { min: -120_000, max: 120_000 },
} as const satisfies Record<string, Range>
