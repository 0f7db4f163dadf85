import { describe, expect, it } from 'vitest'
import { outlinePicture } from './outline-picture.ts'
import type { OutlineRequest, Stroke } from './shared.ts'

const square = Float64Array.of(2, 2, 8, 2, 8, 8, 2, 8)
const outlines = new Map([
  ['a', [square]],
  ['b', [square.map((v) => v / 2)]],
])
const view = { version: 1, x: 0, y: 0, pxPerMm: 4, widthPx: 40, heightPx: 40, ratio: 1 }
const rgb = (colour: string): [number, number, number] => (colour === 'dark' ? [10, 20, 30] : [250, 240, 230])
const drawn = (strokes: readonly Stroke[], more?: Partial<OutlineRequest>) => {
  const picture = outlinePicture(outlines, { ...view, ...more, strokes }, rgb)
  return (x: number, y: number): number[] => [...picture.subarray(4 * (40 * y + x), 4 * (40 * y + x) + 4)]
}

describe('a picture of outlines', () => {
  it('has lines as wide as asked, and nothing beside them', () => {
    const at = drawn([{ node: 'a', colour: 'dark', widthPx: 4 }])
    // The left side is at 8 px: from 6 to 10.
    expect([5, 6, 9, 10].map((x) => at(x, 20)[3])).toEqual([0, 255, 255, 0])
    expect(at(7, 20)).toEqual([10, 20, 30, 255])
    expect(at(20, 20)[3]).toBe(0)
  })

  it('covers the pixels at its edges in part', () => {
    const at = drawn([{ node: 'a', colour: 'dark', widthPx: 3 }])
    expect([6, 7, 8, 9].map((x) => at(x, 20)[3])).toEqual([128, 255, 255, 128])
  })

  it('lays later strokes over earlier ones, each as clear as it is', () => {
    const at = drawn([
      { node: 'a', colour: 'light', widthPx: 6, alpha: 0.5 },
      { node: 'a', colour: 'dark', widthPx: 2 },
      { node: 'none', colour: 'dark', widthPx: 20 },
    ])
    expect(at(7, 20)).toEqual([10, 20, 30, 255])
    expect(at(5, 20)).toEqual([250, 240, 230, 128])
  })

  it('breaks a line where it is asked to', () => {
    const at = drawn([{ node: 'a', colour: 'dark', widthPx: 2, broken: true }])
    const alphas = Array.from({ length: 24 }, (_, i) => at(7, 8 + i)[3])
    expect(alphas.filter((a) => a === 255)).toHaveLength(12)
    expect(alphas.filter((a) => a === 0)).toHaveLength(12)
  })

  it('is as large on a dense screen as on a plain one', () => {
    const at = drawn([{ node: 'b', colour: 'dark', widthPx: 2 }], { pxPerMm: 8, ratio: 2 })
    expect([5, 6, 9, 10].map((x) => at(x, 20)[3])).toEqual([0, 255, 255, 0])
  })
})
