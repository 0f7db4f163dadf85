import { describe, expect, it } from 'vitest'
import { seenRings } from './seen-rings.ts'

describe('outlines as the screen shows them', () => {
  const circle = Float64Array.from(
    { length: 20_000 },
    (_, i) => 50 * (i % 2 ? Math.sin((i - 1) * Math.PI * 1e-4) : Math.cos(i * Math.PI * 1e-4)),
  )
  const rings = [circle]

  it('have the corners that the screen can show, and no more', () => {
    for (const scale of [0.5, 2, 10]) {
      const [ring] = seenRings(rings, scale)
      expect(ring.length / 2).toBeLessThan(2 * Math.PI * 50 * 2 * scale * 1.6 + 3)
      // Nowhere farther from the circle than half a pixel.
      for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
        expect(50 - Math.hypot((ring[i] + ring[j]) / 2, (ring[i + 1] + ring[j + 1]) / 2)).toBeLessThan(0.5 / scale)
    }
  })

  it('are worked out once for a doubling of the scale', () => {
    expect(seenRings(rings, 1.1)).toBe(seenRings(rings, 1.9))
    expect(seenRings(rings, 1.1)).not.toBe(seenRings(rings, 2.1))
  })

  it('keep their ends, however small they are', () => {
    const [speck, none] = seenRings([Float64Array.of(1, 1, 1.001, 1, 1.001, 1.001), new Float64Array()], 1)
    expect([...speck]).toEqual([1, 1, 1.001, 1.001])
    expect(none).toHaveLength(0)
  })
})
