import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { movedZone } from './use-zone-tool.tsx'

const share = fc.double({ min: 0, max: 1, noNaN: true })
const step = fc.double({ min: -2, max: 2, noNaN: true })
const zones = fc.tuple(share, share, share, share).map(([x, y, w, h]) => ({
  x: 0.98 * x,
  y: 0.98 * y,
  width: 0.01 + w * (0.99 - 0.98 * x),
  height: 0.01 + h * (0.99 - 0.98 * y),
}))

describe('a zone that is moved or sized', () => {
  it('stays within the picture and keeps a size, whatever is pulled how far', () => {
    fc.assert(
      fc.property(zones, fc.constantFrom(-1, 0, 1), fc.constantFrom(-1, 0, 1), step, step, (zone, h, v, dx, dy) => {
        const moved = movedZone(zone, h, v, dx, dy)
        expect(moved.x).toBeGreaterThanOrEqual(-1e-12)
        expect(moved.y).toBeGreaterThanOrEqual(-1e-12)
        expect(moved.x + moved.width).toBeLessThanOrEqual(1 + 1e-12)
        expect(moved.y + moved.height).toBeLessThanOrEqual(1 + 1e-12)
        expect(Math.min(moved.width, moved.height)).toBeGreaterThanOrEqual(0.01 - 1e-12)
      }),
    )
  })

  it('keeps the opposite corner', () => {
    const zone = { x: 0.2, y: 0.3, width: 0.4, height: 0.5 }
    expect(movedZone(zone, -1, 1, 0.1, -0.2)).toEqual({
      x: expect.closeTo(0.3, 9),
      y: 0.3,
      width: expect.closeTo(0.3, 9),
      height: expect.closeTo(0.3, 9),
    })
    expect(movedZone(zone, 0, 0, 0.9, -0.9)).toEqual({ ...zone, x: 0.6, y: 0 })
  })
})
