import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lineDistance } from './line-distance.ts'
import type { Ring } from './ring.ts'

/** The distance to every line, one by one. */
function plainly(rings: readonly Ring[], x: number, y: number): number {
  let least = Infinity
  for (const ring of rings)
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [ax, ay, bx, by] = [ring[j], ring[j + 1], ring[i], ring[i + 1]]
      const l2 = (bx - ax) ** 2 + (by - ay) ** 2
      const t = l2 > 0 ? Math.min(1, Math.max(0, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / l2)) : 0
      least = Math.min(least, Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay)))
    }
  return least
}

const place = fc.double({ min: -20, max: 60, noNaN: true })
const ring = fc.array(place, { minLength: 2, maxLength: 14 }).map((all) => Float64Array.from(all.slice(0, all.length & ~1)))

describe('the distance to lines', () => {
  it('is that to the nearest one, as far as it reaches', () => {
    const window = { x: -3, y: 2, pxPerMm: 0.7, widthPx: 31, heightPx: 23 }
    fc.assert(
      fc.property(fc.array(ring, { maxLength: 4 }), fc.double({ min: 0.6, max: 6, noNaN: true }), (rings, reach) => {
        const { at, squared } = lineDistance(rings, window, reach)
        const field = new Float32Array(31 * 23).fill(Infinity)
        at.forEach((i, k) => {
          field[i] = squared[k]
        })
        let wrong = new Set(at).size === at.length ? 0 : 1
        field.forEach((squared, i) => {
          const [px, py] = [i % window.widthPx, Math.floor(i / window.widthPx)]
          const wanted = 0.7 * plainly(rings, window.x + (px + 0.5) / 0.7, window.y + (py + 0.5) / 0.7)
          if (wanted < reach - 1e-4 && !(Math.abs(Math.sqrt(squared) - wanted) < 1e-3)) wrong++
          if (wanted > reach + 1e-4 && squared !== Infinity) wrong++
        })
        expect(wrong).toBe(0)
      }),
      { numRuns: 300 },
    )
  })
})
