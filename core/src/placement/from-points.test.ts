import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { faceSize, outlineOfFace } from '../job/document/workpiece.ts'
import { mapped } from '../space/affine.ts'
import { poseMap } from '../space/pose.ts'
import { pieceFromPoints } from './from-points.ts'

const mm = fc.double({ min: 10, max: 300, noNaN: true })
const found = (made: ReturnType<typeof pieceFromPoints>) => {
  if ('not' in made) throw new Error(made.not)
  return made
}

describe('a workpiece touched with the head', () => {
  it('is a rectangle by two corners, whichever, to a micrometre', () => {
    expect(
      pieceFromPoints('rectangle', [
        [110, 80.0004],
        [10.5, 20],
      ]),
    ).toEqual({
      outline: { kind: 'rect', widthMm: 99.5, heightMm: 60 },
      pose: { xMm: 10.5, yMm: 20 },
      offMm: 0,
    })
    expect(pieceFromPoints('rectangle', [[1, 1]])).toEqual({ not: '1 place more: the corner opposite.' })
    expect(
      pieceFromPoints('rectangle', [
        [1, 1],
        [90, 1.2],
      ]),
    ).toMatchObject({ not: expect.stringContaining('on one line') })
  })

  it('is a rectangle askew by three places: every one of them lies on its edge', () => {
    fc.assert(
      fc.property(
        mm,
        mm,
        mm,
        mm,
        fc.double({ min: -180, max: 180, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.boolean(),
        (x, y, w, h, deg, t, over) => {
          const a = (deg * Math.PI) / 180
          const at = (u: number, v: number): [number, number] => [
            x + u * Math.cos(a) - v * Math.sin(a),
            y + u * Math.sin(a) + v * Math.cos(a),
          ]
          const made = found(pieceFromPoints('rectangle askew', [at(0, 0), at(w, 0), at(t * w, over ? -h : h)]))
          const size = faceSize(made)
          expect(Math.abs(made.pose.deg ?? 0)).toBeLessThanOrEqual(45.001)
          const corners = [
            [0, 0],
            [size.widthMm, 0],
            [size.widthMm, size.heightMm],
            [0, size.heightMm],
          ].map(([u, v]) => mapped(poseMap(made.pose, size), u, v))
          for (const [u, v] of [at(0, 0), at(w, 0), at(0, over ? -h : h), at(w, over ? -h : h)])
            expect(Math.min(...corners.map(([p, q]) => Math.hypot(p - u, q - v)))).toBeLessThan(0.02)
        },
      ),
    )
    expect(
      pieceFromPoints('rectangle askew', [
        [0, 0],
        [50, 10],
        [100, 20],
      ]),
    ).toMatchObject({ not: expect.stringContaining('edge opposite') })
  })

  it('is a circle by three places or more, also of a short arc; what lies off it is told', () => {
    fc.assert(
      fc.property(
        mm,
        mm,
        mm,
        fc.double({ min: 0, max: 6, noNaN: true }),
        fc.double({ min: 0.5, max: 2, noNaN: true }),
        fc.integer({ min: 3, max: 9 }),
        (x, y, r, from, step, n) => {
          const made = found(
            pieceFromPoints(
              'circle',
              Array.from(
                { length: n },
                (_, i) => [x + r * Math.cos(from + step * i), y + r * Math.sin(from + step * i)] as const,
              ),
            ),
          )
          expect(made.outline).toMatchObject({ kind: 'circle', diameterMm: expect.closeTo(2 * r, 2) })
          expect([made.pose.xMm, made.pose.yMm]).toEqual([expect.closeTo(x - r, 2), expect.closeTo(y - r, 2)])
          expect(made.offMm).toBeLessThan(1e-3)
        },
      ),
    )
    const off = found(
      pieceFromPoints('circle', [
        [0, 0],
        [100, 0],
        [50, 50],
        [50, -48],
      ]),
    )
    expect(off.offMm).toBeGreaterThan(0.3)
    expect(
      pieceFromPoints('circle', [
        [0, 0],
        [50, 0.001],
        [100, 0],
      ]),
    ).toMatchObject({ not: expect.stringContaining('farther around') })
  })

  it('is any outline by its corners, unless it crosses itself', () => {
    const made = found(
      pieceFromPoints('corners', [
        [20, 30],
        [120, 30],
        [100, 90],
        [40, 80],
      ]),
    )
    expect(made.pose).toEqual({ xMm: 20, yMm: 30 })
    expect([...outlineOfFace(made.outline)[0]]).toEqual([0, 0, 100, 0, 80, 60, 20, 50])
    expect(
      pieceFromPoints('corners', [
        [0, 0],
        [50, 50],
        [50, 0],
        [0, 50],
      ]),
    ).toMatchObject({ not: expect.stringContaining('crosses itself') })
    expect(
      pieceFromPoints('corners', [
        [0, 0],
        [50, 0],
        [99, 0],
      ]),
    ).toMatchObject({ not: expect.stringContaining('on one line') })
  })
})
