import { describe, expect, it } from 'vitest'
import { contrast, inkOn, rampAt, runColour } from './run-ramp.ts'

const hex = (ink: string) => [1, 3, 5].map((at) => Number.parseInt(ink.slice(at, at + 2), 16)) as [number, number, number]
const steps = Array.from({ length: 101 }, (_, i) => i / 100)

describe('the colour of the run order', () => {
  it('gets lighter all along, and keeps its colour: none of it looks switched off', () => {
    let before = 0
    for (const t of steps) {
      const rgb = rampAt(t)
      const light = contrast(rgb, [0, 0, 0])
      expect(light).toBeGreaterThanOrEqual(before)
      before = light
      expect(Math.max(...rgb) - Math.min(...rgb), `at ${t}`).toBeGreaterThan(36)
    }
  })

  it('has text on it that can be read, at 4.5 : 1, everywhere', () => {
    for (const t of steps) expect(contrast(hex(inkOn(rampAt(t))), rampAt(t))).toBeGreaterThanOrEqual(4.5)
  })

  it('goes from the first operation to the last', () => {
    expect(runColour(0, 3).fill).toBe('rgb(1 25 89)')
    expect(runColour(0, 1)).toEqual(runColour(0, 5))
    expect(runColour(2, 3).fill).toBe('rgb(231 166 98)')
  })
})
