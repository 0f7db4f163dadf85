import { inverse, monotoneCubic, neverFalling } from '../numeric/monotone.ts'

/** What was measured: how dark (0–1), how deep (mm), how much of a tone is really covered (0–1), how many watts. */
export type Quantity = 'tone' | 'depth' | 'gain' | 'watts'

/**
 * A measured curve, as it was measured: points with all their readings, and under which conditions. The input is a dose
 * in J/mm² for tone and depth, the tone wanted 0–1 for dot gain, a share of full power 0–1 for watts.
 */
export interface MeasuredCurve {
  readonly id: string
  readonly quantity: Quantity
  readonly points: readonly { readonly input: number; readonly readings: readonly number[] }[]
  readonly conditions: {
    readonly material?: string
    readonly machine: string
    readonly lens?: string
    readonly speedMmS?: number
    readonly intervalMm?: number
    /** ISO date. */
    readonly date: string
  }
}

/** A measured curve made smooth. */
export interface FittedCurve {
  readonly from: number
  readonly to: number
  /** Never falls. */
  readonly at: (input: number) => number
  /** The input that gives a value; the nearer end where none does. */
  readonly inputFor: (value: number) => number
  /** Root mean square of readings against the curve, in their unit. */
  readonly residual: number
  /** Inputs between which the curve lies on a straight line through them within 5 % of its whole rise. */
  readonly straight: readonly [number, number]
  /** Where the value starts to rise above nothing: 2 % of its whole rise. */
  readonly onset: number
}

const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b)
  const half = sorted.length >> 1
  return sorted.length % 2 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2
}

/** Medians of the readings, made never falling, and a monotone cubic through them. @throws RangeError under 2 points */
export function fitCurve({ points }: Pick<MeasuredCurve, 'points'>): FittedCurve {
  const sorted = points.filter(({ readings }) => readings.length > 0).sort((a, b) => a.input - b.input)
  const inputs: number[] = []
  const readings: number[][] = []
  for (const point of sorted) {
    if (point.input === inputs[inputs.length - 1]) readings[readings.length - 1].push(...point.readings)
    else {
      inputs.push(point.input)
      readings.push([...point.readings])
    }
  }
  if (inputs.length < 2) throw new RangeError(`A curve needs at least two measured points, not ${inputs.length}.`)
  const values = neverFalling(
    readings.map(median),
    readings.map((each) => each.length),
  )
  const at = monotoneCubic(inputs, values)
  let sum = 0
  let count = 0
  readings.forEach((each, i) => {
    for (const reading of each) {
      sum += (reading - at(inputs[i])) ** 2
      count++
    }
  })
  const from = inputs[0]
  const to = inputs[inputs.length - 1]
  const rise = values[values.length - 1] - values[0]
  return {
    from,
    to,
    at,
    inputFor: (value) => inverse(at, value, from, to),
    residual: Math.sqrt(sum / count),
    straight: straightRange(inputs, values, 0.05 * rise),
    onset: rise > 0 ? inverse(at, values[0] + 0.02 * rise, from, to) : from,
  }
}

/** The longest run of points that lie on the line between its ends. */
function straightRange(xs: readonly number[], ys: readonly number[], tolerance: number): readonly [number, number] {
  let best: readonly [number, number] = [xs[0], xs[1]]
  for (let a = 0; a < xs.length; a++) {
    for (let b = a + 1; b < xs.length; b++) {
      if (xs[b] - xs[a] <= best[1] - best[0]) continue
      const slope = (ys[b] - ys[a]) / (xs[b] - xs[a])
      let held = true
      for (let i = a + 1; i < b && held; i++) held = Math.abs(ys[a] + slope * (xs[i] - xs[a]) - ys[i]) <= tolerance
      if (held) best = [xs[a], xs[b]]
    }
  }
  return best
}
