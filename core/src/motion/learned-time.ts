/** One run that was driven to its end: what was told of its operations, and what it took. */
export interface TimedRun {
  /** Seconds that it took, by the machine's own clock. */
  readonly seconds: number
  readonly operations: readonly { readonly process: string; readonly seconds: number }[]
}

/** What a shop's runs say of a machine: how much longer than told each process takes, and how sure that is. */
export interface LearnedTimes {
  readonly processes: readonly string[]
  /** Real time over told time, process by process. */
  readonly factors: readonly number[]
  /** Covariance of the factors. */
  readonly covariance: readonly (readonly number[])[]
  /** How far one run is off by itself, share of its time. */
  readonly spread: number
  /** Runs that were learned from. */
  readonly runs: number
}

/** A time with its range: nine of ten runs lie in it. */
export interface ExpectedTime {
  readonly seconds: number
  readonly from: number
  readonly to: number
}

/** What is believed of a factor before any run: as told, give or take. */
const PRIOR_SPREAD = 0.15
/** Residuals beyond so many spreads count for less (P. Huber, "Robust Estimation of a Location Parameter", 1964). */
const HUBER = 1.345
/** Once they are settled, those beyond so many count for nothing: a run that was held says nothing of the machine (J. Tukey's biweight). */
const TUKEY = 4.685
const SETTLED = 12
/** One run is never surer than this, share of its time. */
const LEAST_SPREAD = 0.002
/** Fewer runs say nothing. */
const FEWEST = 3
/** 90 % of a normal distribution lie within. */
const NINE_OF_TEN = 1.645
const ROUNDS = 40

/**
 * Learns how long a machine really takes, process by process, from runs. The ratio of real to told time of each run is the mean of the
 * factors of its processes, weighted by their shares of the told time: regressed robustly (reweighted least squares, by Huber's
 * weights, then by Tukey's; scale by the median of the absolute deviations), towards 1 where runs say little of a process.
 * @returns undefined where there are too few runs
 */
export function learnTimes(all: readonly TimedRun[]): LearnedTimes | undefined {
  const runs = all.filter(({ seconds, operations }) => seconds > 0 && operations.some((operation) => operation.seconds > 0))
  if (runs.length < FEWEST) return undefined
  const processes = [...new Set(runs.flatMap(({ operations }) => operations.map(({ process }) => process)))].sort()
  const shares = runs.map(({ operations }) => sharesOf(operations, processes).shares)
  const ratios = runs.map(({ seconds, operations }) => seconds / sharesOf(operations, processes).total)
  let weights = runs.map(() => 1)
  // What most runs say, before any factor is known: outliers are far from it.
  let spread = Math.max(LEAST_SPREAD, 1.4826 * median(ratios.map((ratio) => Math.abs(ratio - median(ratios)))))
  let factors = processes.map(() => 1)
  let inverse: number[][] = []
  for (let round = 0; round < ROUNDS; round++) {
    const normal = processes.map((_, p) => processes.map((__, q) => (p === q ? (spread / PRIOR_SPREAD) ** 2 : 0)))
    const right = processes.map(() => (spread / PRIOR_SPREAD) ** 2)
    runs.forEach((_, i) => {
      for (let p = 0; p < processes.length; p++) {
        right[p] += weights[i] * shares[i][p] * ratios[i]
        for (let q = 0; q < processes.length; q++) normal[p][q] += weights[i] * shares[i][p] * shares[i][q]
      }
    })
    inverse = inverted(normal)
    const next = inverse.map((row) => row.reduce((sum, v, q) => sum + v * right[q], 0))
    const off = runs.map((_, i) => ratios[i] - dot(shares[i], next))
    spread = Math.max(LEAST_SPREAD, 1.4826 * median(off.map(Math.abs)))
    weights = off.map((v) => weightOf(Math.abs(v) / spread, round >= SETTLED))
    const moved = Math.max(...next.map((v, p) => Math.abs(v - factors[p])))
    factors = next
    if (round > SETTLED && moved < 1e-9) break
  }
  return {
    processes,
    factors,
    covariance: inverse.map((row) => row.map((v) => v * spread ** 2)),
    spread,
    runs: runs.length,
  }
}

/** How much a run counts. @param off from what is expected, in spreads */
function weightOf(off: number, settled: boolean): number {
  if (!settled) return Math.min(1, HUBER / Math.max(1e-12, off))
  return off < TUKEY ? (1 - (off / TUKEY) ** 2) ** 2 : 0
}

/** How long operations really take by what was learned, with the range in which nine of ten runs lie. */
export function expectedTime(learned: LearnedTimes, operations: TimedRun['operations']): ExpectedTime {
  const { processes, factors, covariance, spread } = learned
  const known = operations.filter(({ process }) => processes.includes(process))
  const { total } = sharesOf(operations, processes)
  // A process that never ran is taken as told, as sure as anything is before it was tried.
  const unknown = total - known.reduce((sum, { seconds }) => sum + seconds, 0)
  const { shares } = sharesOf(known, processes, total)
  const ratio = dot(shares, factors) + (total > 0 ? unknown / total : 0)
  const own = shares.reduce((sum, a, p) => sum + shares.reduce((row, b, q) => row + a * b * covariance[p][q], 0), 0)
  const guessed = total > 0 ? ((unknown / total) * PRIOR_SPREAD) ** 2 : 0
  const off = NINE_OF_TEN * Math.sqrt(own + guessed + spread ** 2)
  return { seconds: total * ratio, from: total * Math.max(0, ratio - off), to: total * (ratio + off) }
}

function sharesOf(
  operations: TimedRun['operations'],
  processes: readonly string[],
  whole?: number,
): { readonly shares: readonly number[]; readonly total: number } {
  const total = whole ?? operations.reduce((sum, { seconds }) => sum + seconds, 0)
  const each = new Map<string, number>()
  for (const { process, seconds } of operations) each.set(process, (each.get(process) ?? 0) + seconds)
  return { shares: processes.map((process) => (total > 0 ? (each.get(process) ?? 0) / total : 0)), total }
}

const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, v, i) => sum + v * b[i], 0)

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b)
  const middle = sorted.length >> 1
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2
}

/** Gauss–Jordan with pivots; the matrices here are positive definite and small. */
function inverted(matrix: readonly (readonly number[])[]): number[][] {
  const n = matrix.length
  const work = matrix.map((row, i) => [...row, ...row.map((_, j) => (i === j ? 1 : 0))])
  for (let column = 0; column < n; column++) {
    let pivot = column
    for (let row = column + 1; row < n; row++) if (Math.abs(work[row][column]) > Math.abs(work[pivot][column])) pivot = row
    ;[work[column], work[pivot]] = [work[pivot], work[column]]
    const by = work[column][column]
    work[column] = work[column].map((v) => v / by)
    for (let row = 0; row < n; row++) {
      if (row === column) continue
      const times = work[row][column]
      work[row] = work[row].map((v, j) => v - times * work[column][j])
    }
  }
  return work.map((row) => row.slice(n))
}
