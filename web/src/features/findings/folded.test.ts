// Findings lie over the workpiece only while they are few.
import type { Finding, Severity } from '@neotaxis/core'
import { describe, expect, it } from 'vitest'
import { foldedFindings } from './folded.ts'

const finding = (severity: Severity, n: number): Finding =>
  ({
    id: `${severity}-${n}`,
    kind: 'test',
    severity,
    message: 'Something.',
    fixes: [],
  }) as unknown as Finding
const of = (stop: number, ask: number, note: number): Finding[] => [
  ...Array.from({ length: note }, (_, n) => finding('note', n)),
  ...Array.from({ length: ask }, (_, n) => finding('ask', n)),
  ...Array.from({ length: stop }, (_, n) => finding('stop', n)),
]

describe('findings over the stage', () => {
  it.each([
    [of(0, 0, 0), false, []],
    [of(0, 1, 1), false, []],
    [of(1, 1, 0), false, []],
    [of(0, 2, 1), true, ['ask-0', 'ask-1']],
    [of(0, 3, 0), true, []],
    [of(0, 0, 3), true, []],
    [of(2, 1, 1), true, ['stop-0']],
  ] as const)('are shown as they are up to two, and fold beyond that', (all, folds, first) => {
    const folded = foldedFindings(all, false)
    expect(folded.folds).toBe(folds)
    expect(folded.shown.map(({ id }) => id)).toEqual(folds ? first : all.map(({ id }) => id))
    expect(foldedFindings(all, true).shown).toEqual(all)
  })

  it('are counted in the strip, worst first', () => {
    expect(foldedFindings(of(1, 2, 1), false).told.map(({ count, words }) => `${count} ${words}`)).toEqual([
      '1 keeps it from running',
      '2 ask',
      '1 note',
    ])
    expect(foldedFindings(of(2, 1, 0), false).told.map(({ count, words }) => `${count} ${words}`)).toEqual([
      '2 keep it from running',
      '1 asks',
    ])
  })
})
