import { describe, expect, it } from 'vitest'
import { MATERIALS } from './catalogue.ts'
import { type Evidence, type RunEvidence, sameSettings, standingOf, type Tried, tried, withEvidence } from './evidence.ts'

const set: Tried = { power: 0.68, speedMmS: 12, passes: 1, air: true }
const run = (id: string, over: Partial<RunEvidence> = {}): RunEvidence => ({
  kind: 'run',
  run: id,
  operation: 'cut',
  date: '2026-10-04',
  set,
  answer: 'yes',
  ...over,
})
const recipe = (evidence: readonly Evidence[], borrowedFrom?: string) => ({ ...set, evidence, borrowedFrom })

describe('how well settings are known', () => {
  it('is counted over what was tried with just these settings', () => {
    const evidence = [
      run('a', { date: '2026-10-01' }),
      run('b', { date: '2026-11-03' }),
      run('c', { set: { ...set, power: 0.8 } }),
      run('d', { answer: 'partly' }),
      run('e', { after: 'd' }),
      run('f', { shifted: 'speed 80 %' }),
    ]
    expect(standingOf(recipe(evidence))).toEqual({ kind: 'proven', times: 2, failed: 1, last: '2026-11-03' })
    // With another power, the same list says something else.
    expect(standingOf({ ...recipe(evidence), power: 0.8 })).toMatchObject({ times: 1, failed: 0 })
  })

  it('counts what was counted before each time was listed', () => {
    expect(standingOf(recipe([{ kind: 'earlier', times: 14, set }, run('a')]))).toMatchObject({ times: 15 })
    expect(standingOf(recipe([{ kind: 'earlier', times: 14, set: { ...set, passes: 2 } }]))).toEqual({ kind: 'guessed' })
  })

  it('is borrowed or guessed where nothing that was tried worked', () => {
    expect(standingOf(recipe([]))).toEqual({ kind: 'guessed' })
    expect(standingOf(recipe([run('a', { answer: 'no' })], 'a neighbour'))).toEqual({ kind: 'borrowed', from: 'a neighbour' })
    expect(standingOf(recipe([run('a')], 'a neighbour'))).toMatchObject({ kind: 'proven', times: 1 })
  })

  it('takes settings for the same within a thousandth, and never another number of passes or air', () => {
    expect(sameSettings(set, { ...set, speedMmS: 12.01 })).toBe(true)
    expect(sameSettings(set, { ...set, speedMmS: 12.1 })).toBe(false)
    expect(sameSettings(set, { ...set, passes: 2 })).toBe(false)
    expect(sameSettings(set, { ...set, air: false })).toBe(false)
    expect(sameSettings({ ...set, intervalMm: 0.1 }, { ...set, intervalMm: 0.127 })).toBe(false)
  })
})

describe('evidence', () => {
  it('of one run and operation is one thing: told anew it takes its place', () => {
    const listed = withEvidence([run('a'), run('b')], [run('a', { answer: 'partly' }), run('c')])
    expect(listed.map((one) => [(one as RunEvidence).run, (one as RunEvidence).answer])).toEqual([
      ['a', 'partly'],
      ['b', 'yes'],
      ['c', 'yes'],
    ])
    expect(withEvidence(listed, [run('a', { operation: 'score' })])).toHaveLength(4)
    expect(withEvidence(listed, listed)).toEqual(listed)
  })

  it('holds settings only', () => {
    expect(tried(MATERIALS[0].recipes[1])).toEqual({ power: 0.68, speedMmS: 12, passes: 1, air: true })
  })
})
