import type { Finding, Severity } from '@neotaxis/core'

/** So many lie over the stage as they are; more fold into a strip. */
const AT_ONCE = 2

const ORDER: readonly Severity[] = ['stop', 'ask', 'note']

interface Folded {
  readonly folds: boolean
  /** What is shown as cards: all of them, or what keeps the job from running. */
  readonly shown: readonly Finding[]
  /** How many there are of each severity, worst first, in words. */
  readonly told: readonly { readonly severity: Severity; readonly count: number; readonly words: string }[]
}

const wordsOf: Record<Severity, (count: number) => string> = {
  stop: (count) => (count === 1 ? 'keeps it from running' : 'keep it from running'),
  ask: (count) => (count === 1 ? 'asks' : 'ask'),
  note: (count) => (count === 1 ? 'note' : 'notes'),
}

/** Findings as they lie over the stage: up to two as they are; of more, notes fold first, then all but the first that keeps the job from running. */
export function foldedFindings(open: readonly Finding[], unfolded: boolean): Folded {
  const folds = open.length > AT_ONCE
  const first = open.find(({ severity }) => severity === 'stop')
  const grave = open.filter(({ severity }) => severity !== 'note')
  const kept = grave.length <= AT_ONCE ? grave : first ? [first] : []
  const told = ORDER.flatMap((severity) => {
    const count = open.filter((finding) => finding.severity === severity).length
    return count > 0 ? [{ severity, count, words: wordsOf[severity](count) }] : []
  })
  return { folds, shown: folds && !unfolded ? kept : open, told }
}
