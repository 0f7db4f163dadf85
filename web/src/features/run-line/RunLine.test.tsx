import { describe, expect, it } from 'vitest'
import { blockWidths } from './line-items.ts'
import { niceStep } from './nice-step.ts'

const sum = (list: readonly number[]): number => list.reduce((total, w) => total + w, 0)

describe('blockWidths', () => {
  it('shares the room by time, gaps taken off', () => {
    expect(blockWidths([300, 100], 805, { smallest: 50 })).toEqual([600, 200])
  })

  it('keeps short blocks wide enough and fills the room', () => {
    const widths = blockWidths([1000, 1, 1], 610, { smallest: 90 })
    expect(widths[1]).toBe(90)
    expect(sum(widths)).toBeCloseTo(600)
  })

  it('shares evenly where nothing is known yet, or nothing fits', () => {
    expect(blockWidths([0, 0], 205)).toEqual([100, 100])
    expect(sum(blockWidths([5, 1, 1, 1], 115))).toBeCloseTo(100)
    expect(blockWidths([], 100)).toEqual([])
  })
})

describe('niceStep', () => {
  it('gives round steps, at most as many as wanted', () => {
    expect(niceStep(600, 8)).toBe(120)
    for (const seconds of [1, 59, 3601, 86_399]) expect(seconds / niceStep(seconds, 8)).toBeLessThanOrEqual(8)
  })
})
