import { inverse, monotoneCubic, neverFalling } from '../numeric/monotone.ts'

/** What was measured: how dark (0–1), how deep (mm), how much of a tone is really covered (0–1), how wide a cut is (mm), how many watts. */
export const QUANTITIES = ['tone', 'depth', 'gain', 'kerf', 'watts'] as const
export type Quantity = (typeof QUANTITIES)[number]

/**
 * A measured curve, as it was measured: points with all their readings, and under which conditions. The input is a dose
 * in J/mm² for tone and depth, the tone wanted 0–1 for dot gain, a dose in J/mm for the width of a cut, a share of full power 0–1
 * for watts.
 */
export interface MeasuredCurve {
  readonly id: string
  readonly quantity: Quantity
  readonly points: readonly { readonly input: number; readonly readings: readonly number[] }[]
  /** Each reading has a place of its own, as the cells of a card have: neighbours are averaged before they are joined. */
  readonly scattered?: true
  readonly conditions: {
    readonly material?: string
    readonly machine: string
    readonly lens?: string
    readonly speedMmS?: number
    readonly intervalMm?: number
    /** How much darker than untouched what is fully dark was in a photo of it, −1 to 1: photos are read by it. */
    readonly contrast?: number
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

/** So many neighbours of scattered readings are averaged, where there are enough of them for a curve all the same. */
const TOGETHER = 3
const ENOUGH = 12

const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length

/** Neighbours in groups of three, each in the middle of its inputs: what is straight stays so, and single places count less. */
function grouped(inputs: readonly number[], values: readonly number[]): { readonly inputs: number[]; readonly values: number[] } {
  const groups = Math.floor(inputs.length / TOGETHER)
  const part = (all: readonly number[], g: number): readonly number[] =>
    all.slice(Math.floor((g * all.length) / groups), Math.floor(((g + 1) * all.length) / groups))
  const each = (all: readonly number[]): number[] => Array.from({ length: groups }, (_, g) => mean(part(all, g)))
  const [xs, ys] = [each(inputs), each(values)]
  // Straight on from the last two groups to the outermost places: what was measured there counts to its end.
  const on = (a: number, b: number, x: number): number => Math.max(0, ys[b] + ((ys[b] - ys[a]) * (x - xs[b])) / (xs[b] - xs[a]))
  const [first, last] = [inputs[0], inputs[inputs.length - 1]]
  return {
    inputs: [...(first < xs[0] ? [first] : []), ...xs, ...(last > xs[groups - 1] ? [last] : [])],
    values: [
      ...(first < xs[0] ? [on(1, 0, first)] : []),
      ...ys,
      ...(last > xs[groups - 1] ? [on(groups - 2, groups - 1, last)] : []),
    ],
  }
}

/**
 * Medians of the readings, made never falling, and a monotone cubic through them. Scattered ones are averaged in threes before.
 * @throws RangeError under 2 points
 */
export function fitCurve({ points, scattered }: Pick<MeasuredCurve, 'points' | 'scattered'>): FittedCurve {
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
  const isGrouped = scattered === true && inputs.length >= ENOUGH
  const joined = isGrouped ? grouped(inputs, readings.map(mean)) : { inputs, values: readings.map(median) }
  const values = neverFalling(joined.values, isGrouped ? undefined : readings.map((each) => each.length))
  const at = monotoneCubic(joined.inputs, values)
  let sum = 0
  let count = 0
  readings.forEach((each, i) => {
    for (const reading of each) {
      sum += (reading - at(inputs[i])) ** 2
      count++
    }
  })
  const from = joined.inputs[0]
  const to = joined.inputs[joined.inputs.length - 1]
  const rise = values[values.length - 1] - values[0]
  return {
    from,
    to,
    at,
    inputFor: (value) => inverse(at, value, from, to),
    residual: Math.sqrt(sum / count),
    straight: straightRange(joined.inputs, values, 0.05 * rise),
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
