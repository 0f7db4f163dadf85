import { type Ring, ringsBounds } from '@neotaxis/core'
import { describe, expect, it } from 'vitest'
import { smallView } from './small-view.ts'

const box = (x: number, y: number, w: number, h: number): Ring => Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h)
const ROOM = 32

describe('a small picture of outlines', () => {
  it('shows all of a shape, also one with much fine detail in it', () => {
    const shape = [box(10, 10, 100, 80)]
    expect(smallView(shape, ringsBounds(shape), ROOM)).toEqual({ scale: ROOM / 100 })
    const map = [
      box(0, 0, 100, 80),
      ...Array.from({ length: 60 }, (_, i) => box(3 + (i % 10) * 9, 4 + Math.floor(i / 10) * 12, 2, 2)),
    ]
    expect(smallView(map, ringsBounds(map), ROOM)).toEqual({ scale: ROOM / 100 })
  })

  it('shows where a long one begins', () => {
    const line = [box(5, 5, 220, 10)]
    const { scale, from } = smallView(line, ringsBounds(line), ROOM)
    expect(scale).toBeCloseTo((8 * ROOM) / 220, 6)
    expect(from).toEqual([5, 5])
  })

  it('shows the first letters of rows of text, so large that they can be told', () => {
    // Three rows of ten words, letters 5 mm high on 240 mm; the first row is set in.
    const letters = Array.from({ length: 300 }, (_, i) =>
      box(8 + (i % 100) * 2.4 + (i < 100 ? 6 : 0), Math.floor(i / 100) * 30, 2, 5),
    )
    const { scale, from } = smallView(letters, ringsBounds(letters), ROOM)
    expect(5 * scale).toBeCloseTo(12, 6)
    expect(from).toEqual([14, 0])
  })

  it('shows nothing anew where there is nothing', () => {
    expect(smallView([], { x0: 0, y0: 0, x1: 0, y1: 0 }, ROOM).scale).toBeGreaterThan(0)
  })
})
