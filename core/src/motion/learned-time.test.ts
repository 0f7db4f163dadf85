import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { expectedTime, learnTimes, type TimedRun } from './learned-time.ts'

/** Even and normal numbers from a seed. */
function numbers(seed: number): { even: () => number; normal: () => number } {
  let state = seed >>> 0 || 1
  const even = (): number => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return state / 2 ** 32
  }
  return { even, normal: () => Math.sqrt(-2 * Math.log(1 - even())) * Math.cos(2 * Math.PI * even()) }
}

const TRUTH = { cut: 1.06, picture: 1.012, area: 0.97 } as const
const PROCESSES = Object.keys(TRUTH) as (keyof typeof TRUTH)[]

/** Runs of a machine that takes longer than told, each off by itself; some of them were held, or stood still. */
function runsOf(count: number, seed: number, { noise = 0.004, spoiled = 0 } = {}): TimedRun[] {
  const { even, normal } = numbers(seed)
  return Array.from({ length: count }, () => {
    const some = PROCESSES.filter(() => even() < 0.6)
    const operations = (some.length > 0 ? some : (['cut'] as const)).map((process) => ({ process, seconds: 20 + 900 * even() }))
    const real = operations.reduce((sum, { process, seconds }) => sum + TRUTH[process] * seconds, 0) * (1 + noise * normal())
    return { operations, seconds: even() < spoiled ? real * (1.3 + 2 * even()) : real }
  })
}

describe('times that are learned from runs', () => {
  it('are found process by process, though a fifth of the runs stood still in between', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const learned = learnTimes(runsOf(60, seed, { spoiled: 0.2 }))!
        for (const process of PROCESSES)
          expect(Math.abs(learned.factors[learned.processes.indexOf(process)] - TRUTH[process])).toBeLessThan(0.012)
      }),
      { numRuns: 60 },
    )
  })

  it('come with a range that holds nine of ten runs to come', () => {
    let inside = 0
    let all = 0
    for (let seed = 1; seed <= 40; seed++) {
      const learned = learnTimes(runsOf(25, seed))!
      for (const { operations, seconds } of runsOf(25, seed + 7919)) {
        const { from, to } = expectedTime(learned, operations)
        if (seconds >= from && seconds <= to) inside++
        all++
      }
    }
    expect(inside / all).toBeGreaterThan(0.84)
    expect(inside / all).toBeLessThan(0.97)
  })

  it('are as told where nothing was learned, and surer the more runs there are', () => {
    expect(learnTimes(runsOf(2, 1))).toBeUndefined()
    const [few, many] = [5, 200].map((count) => learnTimes(runsOf(count, 3))!)
    const width = (learned: typeof few): number => {
      const { from, to, seconds } = expectedTime(learned, [{ process: 'cut', seconds: 100 }])
      return (to - from) / seconds
    }
    expect(width(many)).toBeLessThan(width(few) + 1e-9)
    const told = expectedTime(many, [{ process: 'score', seconds: 100 }])
    expect(told.seconds).toBeCloseTo(100, 6)
    expect(told.to - told.from).toBeGreaterThan(20)
    expect(expectedTime(many, [])).toEqual({ seconds: 0, from: 0, to: 0 })
  })

  it('of one process in all runs leave the others as they are', () => {
    const runs = Array.from({ length: 12 }, (_, i) => ({ seconds: 110 + i, operations: [{ process: 'cut', seconds: 100 + i }] }))
    const learned = learnTimes(runs)!
    expect(learned.processes).toEqual(['cut'])
    expect(expectedTime(learned, [{ process: 'picture', seconds: 60 }]).seconds).toBeCloseTo(60, 6)
  })
})
