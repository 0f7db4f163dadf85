import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { flattenPath } from '../../geometry/path.ts'
import type { GreyPicture } from '../../picture/picture.ts'
import { centreline } from './centreline.ts'
import { squaredDistances } from './distance.ts'

/** A picture of strokes: dark within half a width of any of them, its edge as soft as a pixel. @param away px from the strokes */
function stroked(side: number, width: number, away: (x: number, y: number) => number, noise = 0): GreyPicture {
  let seed = 5
  const samples = new Uint8Array(side * side)
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0
      const cover = Math.min(1, Math.max(0, width / 2 - away(x + 0.5, y + 0.5) + 0.5))
      samples[y * side + x] = Math.max(0, Math.min(255, Math.round(240 - 220 * cover + noise * (seed / 2 ** 32 - 0.5))))
    }
  return { widthPx: side, heightPx: side, samples, full: 255 }
}

const segment =
  (ax: number, ay: number, bx: number, by: number) =>
  (x: number, y: number): number => {
    const t = Math.min(1, Math.max(0, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2)))
    return Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay))
  }
const options = { threshold: 0.5, channel: 'grey' as const, tolerancePx: 0.25, minLengthPx: 4 }

describe('distances', () => {
  it('are those that a plain search finds', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 14 }), fc.array(fc.boolean(), { minLength: 14, maxLength: 120 }), (width, list) => {
        const height = Math.floor(list.length / width)
        const ink = Uint8Array.from(list.slice(0, width * height), Number)
        const found = squaredDistances(ink, width, height)
        for (let y = 0; y < height; y++)
          for (let x = 0; x < width; x++) {
            let best = Infinity
            for (let v = -1; v <= height; v++)
              for (let u = -1; u <= width; u++) {
                const inside = u >= 0 && v >= 0 && u < width && v < height
                if (!inside || !ink[v * width + u]) best = Math.min(best, (u - x) ** 2 + (v - y) ** 2)
              }
            expect(found[y * width + x]).toBe(ink[y * width + x] ? best : 0)
          }
      }),
      { numRuns: 200 },
    )
  })
})

describe('a centreline', () => {
  it('runs in the middle of a stroke at any angle and width, to a fifth of a pixel (RMS), and knows the width', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: Math.PI, noNaN: true }),
        fc.double({ min: 3, max: 16, noNaN: true }),
        fc.double({ min: 70, max: 74, noNaN: true }),
        (angle, width, middle) => {
          const dx = 45 * Math.cos(angle)
          const dy = 45 * Math.sin(angle)
          const away = segment(middle - dx, middle - dy, middle + dx, middle + dy)
          const lines = centreline(stroked(144, width, away), { ...options, tolerancePx: 0.1 })
          expect(lines).toHaveLength(1)
          expect(lines[0].path.closed).toBe(false)
          expect(Math.abs(lines[0].widthPx - width)).toBeLessThan(0.4)
          const flat = flattenPath(lines[0].path, 0.01)
          let squares = 0
          for (let i = 0; i < flat.length; i += 2)
            squares += ((flat[i] - middle) * Math.sin(angle) - (flat[i + 1] - middle) * Math.cos(angle)) ** 2
          expect(Math.sqrt((2 * squares) / flat.length)).toBeLessThan(0.2)
          const end = (x: number, y: number): number =>
            Math.min(Math.hypot(flat[0] - x, flat[1] - y), Math.hypot(flat[flat.length - 2] - x, flat[flat.length - 1] - y))
          expect(end(middle - dx, middle - dy)).toBeLessThan(0.25 * width + 1.6)
          expect(end(middle + dx, middle + dy)).toBeLessThan(0.25 * width + 1.6)
        },
      ),
      { numRuns: 100 },
    )
  })

  it('closes around a ring, with few pieces', () => {
    const [ring, ...more] = centreline(
      stroked(160, 6, (x, y) => Math.abs(Math.hypot(x - 80, y - 80) - 50)),
      options,
    )
    expect(more).toEqual([])
    expect(ring.path.closed).toBe(true)
    expect(ring.path.kinds.length).toBeLessThan(16)
    const flat = flattenPath(ring.path, 0.01)
    for (let i = 0; i < flat.length; i += 2) expect(Math.abs(Math.hypot(flat[i] - 80, flat[i + 1] - 80) - 50)).toBeLessThan(0.35)
  })

  it('keeps the knot of a T and of a cross, and no spurs, also in noise', () => {
    const stem = segment(80, 80, 80, 140)
    const bar = segment(20, 80, 140, 80)
    const t = centreline(
      stroked(160, 8, (x, y) => Math.min(stem(x, y), bar(x, y)), 60),
      options,
    )
    expect(t).toHaveLength(3)
    const cross = segment(80, 20, 80, 140)
    const x = centreline(
      stroked(160, 8, (u, v) => Math.min(cross(u, v), bar(u, v)), 60),
      options,
    )
    expect(x).toHaveLength(4)
    for (const { path } of [...t, ...x]) {
      const { points: p } = path
      const ends = [Math.hypot(p[0] - 80, p[1] - 80), Math.hypot(p[p.length - 2] - 80, p[p.length - 1] - 80)]
      expect(Math.min(...ends)).toBeLessThan(2.5)
    }
  })

  it('makes one knot where wide strokes cross at a slant, and follows a stroke that tapers', () => {
    const one = segment(20, 30, 140, 130)
    const two = segment(140, 40, 20, 120)
    const cross = centreline(
      stroked(160, 11, (x, y) => Math.min(one(x, y), two(x, y))),
      options,
    )
    expect(cross).toHaveLength(4)
    // From 14 px wide at the left to 2 at the right.
    const taper = centreline(
      stroked(160, 2, (x, y) => Math.hypot(Math.max(0, 20 - x, x - 140), Math.max(0, Math.abs(y - 80) - (6 * (140 - x)) / 120))),
      options,
    )
    expect(taper).toHaveLength(1)
    const { points } = taper[0].path
    expect(Math.abs(points[0] - points[points.length - 2])).toBeGreaterThan(108)
  })

  it('follows opacity where that is asked for, whatever the colours are', () => {
    const dark = stroked(100, 6, segment(20, 50, 80, 50))
    const alpha = (dark.samples as Uint8Array).map((v) => 255 - v)
    const white: GreyPicture = { ...dark, samples: new Uint8Array(10_000).fill(255), alpha }
    expect(centreline(white, options)).toEqual([])
    const [line, ...more] = centreline(white, { ...options, channel: 'alpha' })
    expect(more).toEqual([])
    expect(Math.abs(line.path.points[1] - 50)).toBeLessThan(0.3)
  })

  it('finds nothing on an empty sheet', () => {
    expect(
      centreline(
        stroked(40, 4, () => 99),
        options,
      ),
    ).toEqual([])
  })
})
