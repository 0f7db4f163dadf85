/** The settings that evidence is about. */
export interface Tried {
  /** Share of full power, 0–1. */
  readonly power: number
  readonly speedMmS: number
  readonly passes: number
  readonly intervalMm?: number
  readonly air: boolean
}

/** How it came out: as it should; only in places, not at all; too light, too dark. */
export const OUTCOMES = ['yes', 'partly', 'no', 'light', 'dark'] as const
export type Outcome = (typeof OUTCOMES)[number]

/** What was measured on the piece afterwards. */
export interface Measured {
  readonly depthMm?: number
  /** 0 untouched to 1. */
  readonly tone?: number
  readonly warpMm?: number
}

/** A run: what the machine really did on one piece, and what the operator said before lifting it. */
export interface RunEvidence extends Measured {
  readonly kind: 'run'
  readonly run: string
  readonly operation: string
  /** The run that it made good, on the same piece: these settings alone prove nothing. */
  readonly after?: string
  /** How its speed or power was shifted at the machine meanwhile: these settings alone prove nothing either. */
  readonly shifted?: string
  /** ISO date. */
  readonly date: string
  readonly set: Tried
  readonly answer: Outcome
  readonly note?: string
}

/** A trial on scrap, or a job that was written down by hand. */
export interface TrialEvidence extends Measured {
  readonly kind: 'trial'
  readonly date: string
  readonly set: Tried
  readonly answer: Outcome
  readonly note?: string
}

/** How often it had worked before each time was listed. */
export interface EarlierEvidence {
  readonly kind: 'earlier'
  readonly times: number
  readonly set: Tried
}

export type Evidence = RunEvidence | TrialEvidence | EarlierEvidence

/** How well settings are known. */
export type Standing =
  | { readonly kind: 'proven'; readonly times: number; readonly failed: number; readonly last?: string }
  | { readonly kind: 'doubtful'; readonly times: number; readonly failed: number; readonly last: string }
  | { readonly kind: 'borrowed'; readonly from: string; readonly mayBeOff?: number }
  | { readonly kind: 'guessed' }

/** The settings of a recipe or an operation, and nothing else of it. */
export const tried = ({ power, speedMmS, passes, intervalMm, air }: Tried): Tried => ({
  power,
  speedMmS,
  passes,
  ...(intervalMm === undefined ? {} : { intervalMm }),
  air,
})

/** Whether a trial had these settings, within 0.1 %, finer than any dial. */
export function sameSettings(a: Tried, b: Tried): boolean {
  const close = (x: number, y: number): boolean => Math.abs(x - y) <= 1e-3 * Math.max(Math.abs(x), Math.abs(y))
  const sameInterval = a.intervalMm === undefined || b.intervalMm === undefined || close(a.intervalMm, b.intervalMm)
  return close(a.power, b.power) && close(a.speedMmS, b.speedMmS) && a.passes === b.passes && a.air === b.air && sameInterval
}

/** What failed so often since it last worked is not proven any more. */
const DOUBTFUL = 3

/** When it was; what was listed before days were written down comes first. */
const dayOf = (one: Evidence): string => (one.kind === 'earlier' ? '' : one.date)

interface Judged extends Tried {
  readonly borrowedFrom?: string
  readonly mayBeOff?: number
  readonly evidence: readonly Evidence[]
}

/** How well settings are known: counted over what was tried with just these settings, in the order of their days. */
export function standingOf(recipe: Judged): Standing {
  let times = 0
  let failed = 0
  let last: string | undefined
  let misses: string[] = []
  for (const one of [...recipe.evidence].sort((a, b) => dayOf(a).localeCompare(dayOf(b)))) {
    if (!sameSettings(one.set, recipe)) continue
    if (one.kind === 'earlier') times += one.times
    else if (one.kind === 'run' && (one.after !== undefined || one.shifted !== undefined)) continue
    else if (one.answer !== 'yes') {
      failed++
      misses.push(one.date)
    } else {
      times++
      misses = []
      if (last === undefined || one.date > last) last = one.date
    }
  }
  if (misses.length >= DOUBTFUL) return { kind: 'doubtful', times, failed: misses.length, last: misses[misses.length - 1] }
  if (times > 0) return { kind: 'proven', times, failed, ...(last === undefined ? {} : { last }) }
  const { borrowedFrom, mayBeOff } = recipe
  if (borrowedFrom === undefined) return { kind: 'guessed' }
  return { kind: 'borrowed', from: borrowedFrom, ...(mayBeOff === undefined ? {} : { mayBeOff }) }
}

/** Evidence of one run and operation is one thing, however often it is told anew. */
const keyOf = (one: Evidence): string => (one.kind === 'run' ? `run ${one.run} ${one.operation}` : JSON.stringify(one))

/** More evidence put to what is listed; what is told again takes the place of what was told before. */
export function withEvidence(listed: readonly Evidence[], more: readonly Evidence[]): readonly Evidence[] {
  const told = new Map(more.map((one) => [keyOf(one), one]))
  const kept = listed.map((one) => {
    const anew = told.get(keyOf(one))
    told.delete(keyOf(one))
    return anew ?? one
  })
  return [...kept, ...told.values()]
}
