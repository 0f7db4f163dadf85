import { describe, expect, it } from 'vitest'
import { roundTimes } from '../journal/EstimateChart.tsx'
import { whyOff } from './BurnCard.tsx'

describe('a comparison that is poor', () => {
  const good = { dots: 0.99, cutOverlap: 0.9, toneBias: 0.01 }
  it.each([
    [{}, undefined],
    [{ dots: null, cutOverlap: null, toneBias: null }, undefined],
    [{ dots: 0.548, toneBias: -0.2 }, /lighter all over.*focus/],
    [{ toneBias: 0.2 }, /darker all over.*card of trials/],
    [{ dots: 0.548 }, /not dot for dot.*moved/],
    [{ cutOverlap: 0.2 }, /not through.*before it is lifted/],
  ])('says why, and what to do: %j', (change, words) => {
    const told = whyOff({ ...good, ...change })
    if (words) expect(told).toMatch(words)
    else expect(told).toBeUndefined()
  })
})

describe('times on an axis', () => {
  it('are round ones, no more than there is room for', () => {
    expect(roundTimes(3, 100)).toEqual([5, 10, 20, 30, 60])
    const many = roundTimes(1, 100_000)
    expect(many.length).toBeLessThanOrEqual(6)
    expect(many.every((time) => [1, 2, 5, 10, 20, 30].some((k) => time % k === 0))).toBe(true)
  })
})
