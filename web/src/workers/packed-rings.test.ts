import { describe, expect, it } from 'vitest'
import { packRings, ringsOf } from './packed-rings.ts'

describe('rings in one piece of memory', () => {
  it('come out as they went in', () => {
    const rings = [Float64Array.of(0, 0, 1, 0, 1, 1), new Float64Array(), Float64Array.of(5, 5, 6, 5, 6, 6, 5, 6)]
    expect(ringsOf(packRings(rings))).toEqual(rings)
    expect(ringsOf(packRings([]))).toEqual([])
  })

  it('are free of what they were made from, and share one buffer', () => {
    const ring = Float64Array.of(0, 0, 1, 0, 1, 1)
    const [a, b] = ringsOf(packRings([ring, ring]))
    ring[0] = 9
    expect(a[0]).toBe(0)
    expect(a.buffer).toBe(b.buffer)
  })
})
