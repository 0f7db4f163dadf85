import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { prepared, treatment } from '../testing/prepared.ts'
import { greyPicture } from '../testing/sample-job.ts'
import { frame } from './framing.ts'
import { histogram, otsuThreshold } from './histogram.ts'
import { orient, type RawPicture, toGrey } from './picture.ts'

describe('toGrey', () => {
  it('weighs colours by ITU-R BT.709 and keeps opacity where there is any', () => {
    const raw: RawPicture = { widthPx: 3, heightPx: 1, channels: 4, full: 255, samples: new Uint8Array(12) }
    raw.samples.set([255, 0, 0, 255, 0, 255, 0, 128, 0, 0, 255, 0])
    const grey = toGrey(raw)
    expect([...grey.samples]).toEqual([54, 182, 18])
    expect([...grey.alpha!]).toEqual([255, 128, 0])
    raw.samples.set([255], 7)
    raw.samples.set([255], 11)
    expect(toGrey(raw).alpha).toBeUndefined()
  })

  it('keeps 16 bits, and refuses too few samples', () => {
    const deep = toGrey({ widthPx: 1, heightPx: 2, channels: 2, full: 65_535, samples: Uint16Array.of(40_000, 65_535, 3, 256) })
    expect([...deep.samples]).toEqual([40_000, 3])
    expect([...deep.alpha!]).toEqual([255, 1])
    expect(() => toGrey({ widthPx: 9, heightPx: 9, channels: 3, full: 255, samples: new Uint8Array(9) })).toThrow(RangeError)
  })
})

describe('orient', () => {
  // EXIF 2.32, table 6: which corner the first row and column lie at.
  const picture: RawPicture = { widthPx: 3, heightPx: 2, channels: 1, full: 255, samples: Uint8Array.of(1, 2, 3, 4, 5, 6) }
  it.each([
    [1, [3, 2], [1, 2, 3, 4, 5, 6]],
    [2, [3, 2], [3, 2, 1, 6, 5, 4]],
    [3, [3, 2], [6, 5, 4, 3, 2, 1]],
    [4, [3, 2], [4, 5, 6, 1, 2, 3]],
    [5, [2, 3], [1, 4, 2, 5, 3, 6]],
    [6, [2, 3], [4, 1, 5, 2, 6, 3]],
    [7, [2, 3], [6, 3, 5, 2, 4, 1]],
    [8, [2, 3], [3, 6, 2, 5, 1, 4]],
  ])('turns orientation %i upright', (orientation, size, samples) => {
    const { widthPx, heightPx, samples: out } = orient(picture, orientation)
    expect([[widthPx, heightPx], [...out]]).toEqual([size, samples])
  })
})

describe('otsuThreshold', () => {
  it('parts two tones in the middle, transparent pixels left out', () => {
    const two = greyPicture(20, 20, (x) => (x < 8 ? 40 : 200))
    expect(otsuThreshold(histogram(two)) * 255).toBeCloseTo(120, 0)
    const counts = histogram({ ...two, alpha: Uint8Array.from({ length: 400 }, (_, i) => (i % 20 < 8 ? 0 : 255)) })
    expect([counts[40], counts[200]]).toEqual([0, 240])
  })
})

describe('a prepared picture', () => {
  it('marks what is dark, never what is transparent', () => {
    const picture = greyPicture(10, 10, () => 0)
    const alpha = Uint8Array.from({ length: 100 }, (_, i) => (i % 10 < 5 ? 0 : 255))
    const marks = prepared({ ...picture, alpha }, 20, 20)
    for (let y = 0; y < 20; y++) for (let x = 0; x < 8; x++) expect(marks.levels[y * 20 + x]).toBe(0)
    expect(marks.coverage).toBeCloseTo(0.5, 1)
  })

  it('keeps the mean tone of any picture within 0.5 %', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 255 }), fc.integer({ min: 0, max: 255 }), (a, b) => {
        const marks = prepared(
          greyPicture(64, 64, (x) => a + ((b - a) * x) / 63),
          180,
          140,
        )
        expect(Math.abs(marks.meanTone - marks.wantedTone)).toBeLessThan(0.005)
      }),
      { numRuns: 30 },
    )
  })

  it('lets two-tone dots at their own pitch through untouched', () => {
    const picture = greyPicture(37, 29, (x, y) => ((x * 7 + y * 13) % 5 < 2 ? 0 : 255))
    const { levels } = prepared(picture, 37, 29)
    expect([...levels]).toEqual([...picture.samples].map((v) => 255 - v))
  })

  it('as prepared has one dot for each pixel, whatever size is asked for, and does not change when done twice', () => {
    const picture = greyPicture(37, 29, (x, y) => ((x * 7 + y * 13) % 5 < 2 ? 10 : 240))
    const once = prepared(picture, 100, 90, { asPrepared: true }, treatment({ kind: 'invert', on: true }))
    expect([once.columns, once.rows]).toEqual([37, 29])
    expect([...once.levels]).toEqual([...picture.samples].map((v) => (v < 128 ? 255 : 0)))
    const again = prepared(
      greyPicture(37, 29, (x, y) => 255 - once.levels[y * 37 + x]),
      37,
      29,
      { asPrepared: true },
    )
    expect([...again.levels]).toEqual([...once.levels])
  })

  it('keeps grey where no dots are wanted, and takes a crop', () => {
    const picture = greyPicture(8, 4, (x) => x * 30)
    const framed = frame(picture, [{ kind: 'crop', on: true, x: 4, y: 0, width: 4, height: 4 }])
    expect([...prepared(framed, 4, 4, { kernel: 'none' }).levels.subarray(0, 4)]).toEqual([135, 105, 75, 45])
  })
})
