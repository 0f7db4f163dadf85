import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { mapped } from '../space/affine.ts'
import { poseMap } from '../space/pose.ts'
import { type FoundMark, placesToFind, poseFound, registered } from './registration.ts'

const unit = fc.double({ min: -1, max: 1, noNaN: true })
const place = fc.tuple(fc.double({ min: 0, max: 200, noNaN: true }), fc.double({ min: 0, max: 150, noNaN: true }))
const spread = fc.array(place, { minLength: 3, maxLength: 8 }).filter((all) => {
  const [a, b, c] = all
  return Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) > 800
})
const made = <T extends object>(found: T | { readonly not: string }): T => {
  if ('not' in found) throw new Error((found as { not: string }).not)
  return found as T
}

describe('a registration', () => {
  it('recovers the pose by which marks were moved, turned, grown and sheared', () => {
    fc.assert(
      fc.property(
        spread,
        fc.tuple(unit, unit, unit, unit),
        fc.double({ min: -170, max: 170, noNaN: true }),
        fc.double({ min: 0.5, max: 2, noNaN: true }),
        (all, [e, f, g, h], deg, scale) => {
          const a = (deg * Math.PI) / 180
          const like = (x: number, y: number, s: number): [number, number] => [
            50 * e + s * (Math.cos(a) * x - Math.sin(a) * y),
            50 * f + s * (Math.sin(a) * x + Math.cos(a) * y),
          ]
          const marks = (map: (x: number, y: number) => readonly [number, number]): FoundMark[] =>
            all.map(([x, y]) => ({ known: [x, y], found: map(x, y) }))
          const turn = made(
            registered(
              marks((x, y) => like(x, y, 1)),
              'turn',
            ),
          )
          expect(turn.deg).toBeCloseTo(deg, 6)
          expect(turn.rmsMm).toBeLessThan(1e-8)
          const similar = made(
            registered(
              marks((x, y) => like(x, y, scale)),
              'similarity',
            ),
          )
          expect([similar.deg, similar.scale]).toEqual([expect.closeTo(deg, 6), expect.closeTo(scale, 8)])
          const sheared = made(
            registered(
              marks((x, y) => [x * (1 + g / 9) + (y * h) / 9, y * (1 + h / 9)]),
              'affine',
            ),
          )
          expect(sheared.rmsMm).toBeLessThan(1e-7)
          const shift = made(
            registered(
              marks((x, y) => [x + 9 * g, y - 4]),
              'shift',
            ),
          )
          expect(shift.map.slice(4)).toEqual([expect.closeTo(9 * g, 8), expect.closeTo(-4, 8)])
        },
      ),
    )
  })

  it('names the mark that lies farthest off, and is no worse than any other pose near it', () => {
    const known = [
      [0, 0],
      [100, 0],
      [100, 60],
      [0, 60],
    ] as const
    const marks = known.map(([x, y], i): FoundMark => ({ known: [x, y], found: i === 2 ? [x + 21, y + 11.5] : [x + 20, y + 10] }))
    const { worst, offMm, rmsMm, map } = made(registered(marks, 'turn'))
    expect(worst).toBe(2)
    expect(offMm[2]).toBeGreaterThan(0.8)
    for (const [dx, dy, turn] of [
      [0.05, 0, 0],
      [0, -0.05, 0],
      [0, 0, 4e-4],
      [0, 0, -4e-4],
    ]) {
      const off = marks.reduce((sum, { known: k, found }) => {
        const [x, y] = mapped(map, ...k)
        const [u, v] = [x - turn * (y - 40) + dx, y + turn * (x - 70) + dy]
        return sum + (u - found[0]) ** 2 + (v - found[1]) ** 2
      }, 0)
      expect(Math.sqrt(off / 4)).toBeGreaterThanOrEqual(rmsMm)
    }
  })

  it('says where marks are too few, on one place or on one line', () => {
    const at = (x: number, y: number): FoundMark => ({ known: [x, y], found: [x, y] })
    expect(registered([at(1, 1)], 'turn')).toEqual({ not: '1 mark more.' })
    expect(registered([at(1, 1), at(1.2, 1)], 'turn')).toMatchObject({ not: expect.stringContaining('on one place') })
    expect(registered([at(0, 0), at(50, 0.1), at(100, 0)], 'affine')).toMatchObject({
      not: expect.stringContaining('on one line'),
    })
  })
})

describe('a workpiece that was put back', () => {
  const piece = {
    outline: { kind: 'rect', widthMm: 120, heightMm: 80 } as const,
    pose: { xMm: 30, yMm: 40, deg: 3 },
    marks: { m: { xMm: 60, yMm: 10 } },
  }

  it('is found by its corners and marks: one moves it, two turn it as well', () => {
    const truth = { xMm: 41.25, yMm: 22.5, deg: -7.125 }
    const where = poseMap(truth, piece.outline)
    const found = placesToFind(piece).map((known): FoundMark => ({ known, found: mapped(where, ...known) }))
    expect(found).toHaveLength(5)
    const { pose, registration } = made(poseFound(piece, found.slice(0, 3)))
    expect(pose).toEqual({ xMm: expect.closeTo(41.25, 3), yMm: expect.closeTo(22.5, 3), deg: expect.closeTo(-7.125, 3) })
    expect(registration.rmsMm).toBeLessThan(1e-6)
    const moved = made(
      poseFound(piece, [{ known: [0, 0], found: mapped(poseMap({ ...piece.pose, xMm: 35 }, piece.outline), 0, 0) }]),
    )
    expect(moved.pose).toEqual({ xMm: 35, yMm: 40, deg: 3 })
  })

  it('offers no more corners than can be chosen from, and none of what is round', () => {
    const many = Array.from(
      { length: 120 },
      (_, i) => 50 + 50 * (i % 2 ? Math.sin((Math.PI * (i >> 1)) / 30) : Math.cos((Math.PI * (i >> 1)) / 30)),
    )
    expect(placesToFind({ outline: { kind: 'rings', rings: [many] }, marks: {} })).toHaveLength(8)
    expect(placesToFind({ outline: { kind: 'circle', diameterMm: 50 }, marks: {} })).toEqual([])
  })
})
