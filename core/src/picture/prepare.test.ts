import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { greyPicture } from '../testing/sample-job.ts'
import { orient, type RawPicture, toGrey } from './picture.ts'
import { preparePicture } from './prepare.ts'
import { histogram, NEUTRAL_TONE, otsuThreshold, toneTable } from './tone.ts'

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

describe('toneTable', () => {
  it('leaves tones alone when nothing is asked', () => {
    const table = toneTable(NEUTRAL_TONE, 255)
    expect(Math.max(...table.map((v, i) => Math.abs(v - i / 255)))).toBeLessThan(1e-6)
  })

  it('maps black and white to the ends, never turns back, and inverts exactly', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 200 }),
        fc.integer({ min: 201, max: 255 }),
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        fc.integer({ min: -60, max: 60 }),
        (black, white, gamma, contrast) => {
          const table = toneTable({ ...NEUTRAL_TONE, black, white, gamma, contrast }, 255)
          const inverse = toneTable({ ...NEUTRAL_TONE, black, white, gamma, contrast, invert: true }, 255)
          for (let i = 1; i < 256; i++) expect(table[i]).toBeGreaterThanOrEqual(table[i - 1])
          for (let i = 0; i < 256; i++) expect(table[i] + inverse[i]).toBeCloseTo(1, 5)
          if (contrast >= 0) expect([table[black], table[white]]).toEqual([0, 1])
        },
      ),
    )
  })

  it('lightens the middle with a gamma above 1 and refuses what makes no sense', () => {
    expect(toneTable({ ...NEUTRAL_TONE, gamma: 2 }, 255)[64]).toBeCloseTo(Math.sqrt(64 / 255), 5)
    expect(toneTable({ ...NEUTRAL_TONE, brightness: 20 }, 255)[100]).toBeCloseTo(100 / 255 + 0.2, 5)
    expect(() => toneTable({ ...NEUTRAL_TONE, black: 9, white: 9 }, 255)).toThrow(RangeError)
    expect(() => toneTable({ ...NEUTRAL_TONE, gamma: 0 }, 255)).toThrow(RangeError)
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

describe('preparePicture', () => {
  it('marks what is dark, never what is transparent', () => {
    const picture = greyPicture(10, 10, () => 0)
    const alpha = Uint8Array.from({ length: 100 }, (_, i) => (i % 10 < 5 ? 0 : 255))
    const marks = preparePicture({ ...picture, alpha }, 20, 20, { kernel: 'floyd-steinberg' })
    for (let y = 0; y < 20; y++) for (let x = 0; x < 8; x++) expect(marks.levels[y * 20 + x]).toBe(0)
    expect(marks.coverage).toBeCloseTo(0.5, 1)
  })

  it('keeps the mean tone of any picture within 0.5 %', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 255 }), fc.integer({ min: 0, max: 255 }), (a, b) => {
        const marks = preparePicture(
          greyPicture(64, 64, (x) => a + ((b - a) * x) / 63),
          180,
          140,
          { kernel: 'floyd-steinberg' },
        )
        expect(Math.abs(marks.meanTone - marks.wantedTone)).toBeLessThan(0.005)
      }),
      { numRuns: 30 },
    )
  })

  it('lets two-tone dots at their own pitch through untouched', () => {
    const picture = greyPicture(37, 29, (x, y) => ((x * 7 + y * 13) % 5 < 2 ? 0 : 255))
    const { levels } = preparePicture(picture, 37, 29, { kernel: 'floyd-steinberg' })
    expect([...levels]).toEqual([...picture.samples].map((v) => 255 - v))
  })

  it('keeps grey where no dots are wanted, and takes a crop', () => {
    const picture = greyPicture(8, 4, (x) => x * 30)
    const marks = preparePicture(picture, 4, 4, { kernel: 'none' }, { crop: { x: 4, y: 0, width: 4, height: 4 } })
    expect([...marks.levels.subarray(0, 4)]).toEqual([135, 105, 75, 45])
  })
})
