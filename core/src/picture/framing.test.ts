import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { chained, homography, mapPoint, undoing } from '../geometry/homography.ts'
import { prepared } from '../testing/prepared.ts'
import { greyPicture } from '../testing/sample-job.ts'
import { frame, framedSize } from './framing.ts'
import type { FramingStep } from './steps.ts'

const picture = greyPicture(40, 30, (x, y) => (x * 5 + y * 3) % 256)
const on = true as const

const step: fc.Arbitrary<FramingStep> = fc.oneof(
  fc.record({
    kind: fc.constant('crop' as const),
    on: fc.constant(on),
    x: fc.double({ min: 0, max: 8, noNaN: true }),
    y: fc.double({ min: 0, max: 8, noNaN: true }),
    width: fc.double({ min: 3, max: 20, noNaN: true }),
    height: fc.double({ min: 3, max: 20, noNaN: true }),
  }),
  fc.record({ kind: fc.constant('turn' as const), on: fc.constant(on), degrees: fc.constantFrom(0, 90, 180, 270, -90) }),
  fc.record({
    kind: fc.constant('mirror' as const),
    on: fc.constant(on),
    way: fc.constantFrom('left-right' as const, 'top-bottom' as const),
  }),
)

describe('framing', () => {
  it('knows its size without looking, and where each source pixel goes', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 5 }), (steps) => {
        const framed = frame(picture, steps)
        const size = framedSize(picture, steps)
        expect(framed.window.width).toBeCloseTo(size.widthPx, 6)
        expect(framed.window.height).toBeCloseTo(size.heightPx, 6)
        for (const [x, y] of [
          [12, 11],
          [9, 13],
          [14, 9],
        ]) {
          const [u, v] = mapPoint(framed.toFrame, x + 0.5, y + 0.5)
          if (u < 0 || v < 0 || u >= size.widthPx || v >= size.heightPx) continue
          const at = Math.floor(v + framed.window.y + 1e-9) * framed.picture.widthPx + Math.floor(u + framed.window.x + 1e-9)
          expect(framed.picture.samples[at]).toBe(picture.samples[y * 40 + x])
        }
      }),
    )
  })

  it('four quarter turns, and two mirrors, give the picture back', () => {
    const turn: FramingStep = { kind: 'turn', on, degrees: 90 }
    const mirror: FramingStep = { kind: 'mirror', on, way: 'top-bottom' }
    expect([...frame(picture, [turn, turn, turn, turn]).picture.samples]).toEqual([...picture.samples])
    expect([...frame(picture, [mirror, mirror]).picture.samples]).toEqual([...picture.samples])
    expect([...frame(picture, [{ ...turn, on: false }]).picture.samples]).toEqual([...picture.samples])
  })

  it('crop and scale can change places within half a dot', () => {
    const soft = greyPicture(120, 80, (x, y) => 128 + 100 * Math.sin(x / 9) * Math.cos(y / 7))
    const crop: FramingStep = { kind: 'crop', on, x: 20, y: 10, width: 60, height: 40 }
    const first = prepared(frame(soft, [crop]), 30, 20, { kernel: 'none' }).levels
    const whole = prepared(soft, 60, 40, { kernel: 'none' }).levels
    for (let y = 0; y < 20; y++)
      for (let x = 0; x < 30; x++) expect(Math.abs(first[y * 30 + x] - whole[(y + 5) * 60 + x + 10])).toBeLessThanOrEqual(1)
  })

  it('a page photographed aslant is made straight: its corners become the corners', () => {
    const corners = [30, 20, 170, 40, 180, 150, 20, 140]
    const size = framedSize({ widthPx: 200, heightPx: 160 }, [{ kind: 'straighten', on, corners, ratio: 0 }])
    // Twelve squares on the page, seen through the photograph's map.
    const toPage = homography(corners, [0, 0, 4, 0, 4, 3, 0, 3])
    const photo = greyPicture(200, 160, (x, y) => {
      const [u, v] = mapPoint(toPage, x + 0.5, y + 0.5)
      return u < 0 || v < 0 || u > 4 || v > 3 ? 90 : (Math.floor(u) + Math.floor(v)) % 2 ? 230 : 20
    })
    const { picture: straight } = frame(photo, [{ kind: 'straighten', on, corners, ratio: 4 / 3 }])
    expect([straight.widthPx, straight.heightPx]).toEqual([size.widthPx, Math.round((size.widthPx * 3) / 4)])
    for (let r = 0; r < 3; r++) {
      for (let c = 0; c < 4; c++) {
        const x = Math.floor(((c + 0.5) * straight.widthPx) / 4)
        const y = Math.floor(((r + 0.5) * straight.heightPx) / 3)
        expect(Math.abs(straight.samples[y * straight.widthPx + x] - ((c + r) % 2 ? 230 : 20))).toBeLessThan(8)
      }
    }
  })

  it('turned by any angle keeps its middle, and is nothing outside', () => {
    const { picture: turned, window } = frame(
      greyPicture(60, 60, () => 40),
      [{ kind: 'turn', on, degrees: 30 }],
    )
    expect(turned.samples[Math.floor(window.height / 2) * turned.widthPx + Math.floor(window.width / 2)]).toBe(40)
    expect(turned.alpha![0]).toBe(0)
    expect(turned.alpha!.reduce((sum, a) => sum + a / 255, 0)).toBeCloseTo(3600, -2)
  })

  it('refuses corners on one line', () => {
    expect(() => homography([0, 0, 1, 1, 2, 2, 0, 5], [0, 0, 1, 0, 1, 1, 0, 1])).toThrow('one line')
    expect(() => undoing([0, 0, 0, 0, 0, 0, 0, 0, 1])).toThrow(RangeError)
  })

  it('a projective map and its way back are one', () => {
    const h = homography([0, 0, 10, 1, 9, 12, -1, 8], [0, 0, 5, 0, 5, 5, 0, 5])
    const both = chained(h, undoing(h))
    for (const [x, y] of [
      [3, 4],
      [9, 2],
    ])
      expect(mapPoint(both, x, y).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([x, y])
  })
})
