import { describe, expect, it } from 'vitest'
import { seenRings } from './seen-rings.ts'

/** A fifth of a pixel beside its way, and as much beyond its end. */
const FARTHEST = 0.2 * Math.SQRT2 + 1e-9

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

  it('lie nowhere beside what they are, also where lines wander, stand still and turn back', () => {
    let seed = 7
    const random = (): number => {
      seed = (seed * 16_807) % 2_147_483_647
      return seed / 2_147_483_647
    }
    for (let k = 0; k < 40; k++) {
      const [step, turn] = [0.02 + 2 * random() ** 3, 3 * random() ** 2]
      let [x, y, way] = [0, 0, 0]
      const ring = Float64Array.from({ length: 800 }, (_, i) => {
        if (i % 2) return y
        if (random() < 0.02) way += Math.PI
        way += turn * (random() - 0.5)
        if (random() > 0.1) [x, y] = [x + step * Math.cos(way), y + step * Math.sin(way)]
        return x
      })
      const [seen] = seenRings([ring], 1)
      let from = 0
      for (let i = 0; i < ring.length; i += 2) {
        // Each place lies by the part of the line that passes it, and parts are passed in their order.
        const beside = (j: number): number => {
          const [ax, ay, bx, by] = seen.subarray(j, j + 4)
          const [dx, dy] = [bx - ax, by - ay]
          const long2 = dx * dx + dy * dy
          const t = long2 === 0 ? 0 : Math.min(1, Math.max(0, ((ring[i] - ax) * dx + (ring[i + 1] - ay) * dy) / long2))
          return Math.hypot(ring[i] - ax - t * dx, ring[i + 1] - ay - t * dy)
        }
        while (from + 4 < seen.length && beside(from) > FARTHEST) from += 2
        expect(beside(from), `place ${i / 2} of ring ${k}`).toBeLessThanOrEqual(FARTHEST)
      }
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
