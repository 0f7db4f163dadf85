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

  it('keeps the knot of a T, goes straight on through a cross, and leaves no spurs, also in noise', () => {
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
    expect(x).toHaveLength(2)
    for (const { path } of x) {
      const flat = flattenPath(path, 0.05)
      for (let i = 0; i < flat.length; i += 2)
        expect(Math.min(cross(flat[i], flat[i + 1]), bar(flat[i], flat[i + 1]))).toBeLessThan(1)
    }
    for (const { path } of t) {
      const { points: p } = path
      const ends = [Math.hypot(p[0] - 80, p[1] - 80), Math.hypot(p[p.length - 2] - 80, p[p.length - 1] - 80)]
      expect(Math.min(...ends)).toBeLessThan(2.5)
    }
  })

  it('goes straight on where wide strokes cross at a slant, and follows a stroke that tapers', () => {
    const one = segment(20, 30, 140, 130)
    const two = segment(140, 40, 20, 120)
    const cross = centreline(
      stroked(160, 11, (x, y) => Math.min(one(x, y), two(x, y))),
      options,
    )
    expect(cross).toHaveLength(2)
    // From 14 px wide at the left to 2 at the right.
    const taper = centreline(
      stroked(160, 2, (x, y) => Math.hypot(Math.max(0, 20 - x, x - 140), Math.max(0, Math.abs(y - 80) - (6 * (140 - x)) / 120))),
      options,
    )
    expect(taper).toHaveLength(1)
    const { points } = taper[0].path
    expect(Math.abs(points[0] - points[points.length - 2])).toBeGreaterThan(108)
  })

  /** Places along found lines, about a pixel apart. */
  const placesOf = (lines: ReturnType<typeof centreline>): (readonly [number, number])[] =>
    lines.flatMap(({ path }) => {
      const flat = flattenPath(path, 0.02)
      const all: [number, number][] = [[flat[0], flat[1]]]
      for (let i = 2; i < flat.length; i += 2) {
        const n = Math.max(1, Math.ceil(Math.hypot(flat[i] - flat[i - 2], flat[i + 1] - flat[i - 1])))
        for (let k = 1; k <= n; k++)
          all.push([flat[i - 2] + ((flat[i] - flat[i - 2]) * k) / n, flat[i - 1] + ((flat[i + 1] - flat[i - 1]) * k) / n])
      }
      return all
    })
  const apart = (deg: number, turn: number, x: number, y: number, from: number, to: number) =>
    [1, -1].map((side) => {
      const angle = turn + (side * deg * Math.PI) / 360
      return segment(x + from * Math.cos(angle), y + from * Math.sin(angle), x + to * Math.cos(angle), y + to * Math.sin(angle))
    })

  it('is one line with its tip where two strokes meet at a sharp angle', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 45, noNaN: true }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.constantFrom(10, 20),
        fc.constantFrom(0, 30),
        (deg, turn, width, noise) => {
          const [x, y] = [160.3 - 60 * Math.cos(turn), 160.6 - 60 * Math.sin(turn)]
          const [one, two] = apart(deg, turn, x, y, 0, 130)
          const lines = centreline(
            stroked(320, width, (u, v) => Math.min(one(u, v), two(u, v)), noise),
            options,
          )
          expect(lines).toHaveLength(1)
          const places = placesOf(lines)
          expect(Math.min(...places.map(([u, v]) => Math.hypot(u - x, v - y)))).toBeLessThan(2)
          expect(Math.max(...places.map(([u, v]) => Math.min(one(u, v), two(u, v))))).toBeLessThan(0.15 * width)
        },
      ),
      { numRuns: 40, seed: 7 },
    )
  })

  it('is two lines where two strokes cross at a sharp angle, each within half a pixel of where it was drawn', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 60, noNaN: true }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.constantFrom(6, 10, 20),
        (deg, turn, width) => {
          const [one, two] = apart(deg, turn, 160.4, 160.7, -140, 140)
          const lines = centreline(
            stroked(320, width, (u, v) => Math.min(one(u, v), two(u, v))),
            options,
          )
          expect(lines).toHaveLength(2)
          const near = placesOf(lines).filter(([u, v]) => Math.hypot(u - 160.4, v - 160.7) < 110)
          expect(Math.max(...near.map(([u, v]) => Math.min(one(u, v), two(u, v))))).toBeLessThan(0.6)
        },
      ),
      { numRuns: 40, seed: 7 },
    )
  })

  it('comes around a star that was drawn in one go, with all its tips', () => {
    const tip = (k: number): readonly [number, number] => [
      160 + 120 * Math.sin((k * 4 * Math.PI) / 5),
      160 - 120 * Math.cos((k * 4 * Math.PI) / 5),
    ]
    const sides = [0, 1, 2, 3, 4].map((k) => segment(...tip(k), ...tip(k + 1)))
    const lines = centreline(
      stroked(320, 9, (x, y) => Math.min(...sides.map((side) => side(x, y)))),
      options,
    )
    const places = placesOf(lines)
    for (let k = 0; k < 5; k++)
      expect(Math.min(...places.map(([x, y]) => Math.hypot(x - tip(k)[0], y - tip(k)[1])))).toBeLessThan(1.5)
    expect(Math.max(...places.map(([x, y]) => Math.min(...sides.map((side) => side(x, y)))))).toBeLessThan(1.2)
    expect(lines.length).toBeLessThan(3)
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
