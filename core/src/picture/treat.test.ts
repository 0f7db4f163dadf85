import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { prepared, treatment } from '../testing/prepared.ts'
import { greyPicture } from '../testing/sample-job.ts'
import { gaussian } from './blur.ts'
import { frame, wholeFrame } from './framing.ts'
import { WHITE } from './plane.ts'
import type { Mask, MaskPart, Treatment, TreatmentStep } from './steps.ts'
import { treatedPlane } from './treat.ts'

const on = true as const
const tones = (picture: Parameters<typeof wholeFrame>[0], steps: Treatment, columns = picture.widthPx, rows = picture.heightPx) =>
  treatedPlane(wholeFrame(picture), steps, columns, rows, { pitchMm: 0.1 })
const grey = ({ tone }: { readonly tone: Uint16Array }): number[] => [...tone].map((v) => Math.round((v / WHITE) * 255))

const mask = (...parts: readonly MaskPart[]): Mask => ({
  name: 'mask',
  feather: 0,
  parts: Object.fromEntries(parts.map((part, i) => [`p${i}`, part])),
  order: parts.map((_, i) => `p${i}`),
})
const limited = (step: TreatmentStep, of: Mask): Treatment => ({ ...treatment({ ...step, mask: 'm' }), masks: { m: of } })

describe('steps that look at one tone', () => {
  it('give the same before and after the picture is resampled, in order', () => {
    const picture = greyPicture(60, 40, (x, y) => (x * 4 + y) % 256)
    const levels: TreatmentStep = { kind: 'levels', on, black: 30, white: 200, gamma: 1.3, ink: [], paper: [] }
    const invert: TreatmentStep = { kind: 'invert', on }
    // A step that does nothing, but looks around itself: what comes after it works on the plane.
    const still: TreatmentStep = { kind: 'sharpen', on, radius: 1, amount: 0, threshold: 0 }
    const first = prepared(picture, 60, 40, { kernel: 'none' }, treatment(levels, invert)).levels
    const late = prepared(picture, 60, 40, { kernel: 'none' }, treatment(still, levels, invert)).levels
    first.forEach((v, i) => void expect(Math.abs(v - late[i])).toBeLessThanOrEqual(1))
  })

  it('switched off does nothing', () => {
    const picture = greyPicture(10, 10, () => 100)
    expect(grey(tones(picture, treatment({ kind: 'invert', on: false })))[0]).toBe(100)
  })

  it('never burn what is transparent, inverted or not', () => {
    const alpha = Uint8Array.from({ length: 400 }, (_, i) => (i % 20 < 10 ? 0 : 255))
    const picture = { ...greyPicture(20, 20, () => 250), alpha }
    for (const steps of [
      treatment({ kind: 'invert', on }),
      treatment({ kind: 'sharpen', on, radius: 1, amount: 50, threshold: 0 }, { kind: 'invert', on }),
    ]) {
      const { levels } = prepared(picture, 20, 20, { kernel: 'none' }, steps)
      for (let i = 0; i < 400; i++) if (i % 20 < 10) expect(levels[i]).toBe(0)
      expect(levels[15]).toBeGreaterThan(200)
    }
  })
})

describe('ink and paper sampled on the picture', () => {
  const picture = greyPicture(100, 60, (x, y) => (x < 50 ? 60 + (y % 3) : 190 + ((x + y) % 5)))
  const sampled: TreatmentStep = {
    kind: 'levels',
    on,
    black: 0,
    white: 255,
    gamma: 1,
    ink: [{ x: 20, y: 30, radius: 8 }],
    paper: [
      { x: 80, y: 15, radius: 6 },
      { x: 80, y: 45, radius: 6 },
    ],
  }

  it('make the ink full and the paper nothing, but for noise', () => {
    const { levels } = prepared(picture, 100, 60, { kernel: 'none' }, treatment(sampled))
    const share = (x0: number, x1: number, fits: (v: number) => boolean): number => {
      let n = 0
      for (let y = 0; y < 60; y++) for (let x = x0; x < x1; x++) if (fits(levels[y * 100 + x])) n++
      return n / (60 * (x1 - x0))
    }
    expect(share(0, 50, (v) => v >= 253)).toBeGreaterThan(0.9)
    expect(share(50, 100, (v) => v <= 2)).toBeGreaterThan(0.9)
  })

  it('stay on their places when the picture is turned and cropped, and after steps that look around', () => {
    const framed = frame(picture, [
      { kind: 'turn', on, degrees: 90 },
      { kind: 'crop', on, x: 5, y: 10, width: 50, height: 80 },
    ])
    const still: TreatmentStep = { kind: 'sharpen', on, radius: 1, amount: 0, threshold: 0 }
    for (const steps of [treatment(sampled), treatment(still, sampled)]) {
      const { levels } = prepared(framed, 50, 80, { kernel: 'none' }, steps)
      expect(levels[10 * 50 + 25]).toBeGreaterThan(252)
      expect(levels[70 * 50 + 25]).toBeLessThan(12)
    }
  })

  it('take the ink of thin strokes under a wide ring for what it is, not for a mean with the paper', () => {
    // Pen strokes of 2 px, 10 px apart, at 70 on paper of 200.
    const pen = greyPicture(100, 60, (x) => (x % 10 < 2 ? 70 : 200))
    const step: TreatmentStep = {
      ...sampled,
      kind: 'levels',
      ink: [{ x: 40, y: 30, radius: 9 }],
      paper: [{ x: 60, y: 30, radius: 9 }],
    } as TreatmentStep
    const { levels } = prepared(pen, 100, 60, { kernel: 'none' }, treatment(step))
    const at = (x: number): number => levels[30 * 100 + x]
    expect(at(40)).toBeGreaterThan(250)
    expect(at(45)).toBeLessThan(5)
  })

  it('of ink as light as paper leave a threshold instead of an error', () => {
    const same: TreatmentStep = { ...sampled, kind: 'levels', ink: [{ x: 80, y: 30, radius: 5 }] } as TreatmentStep
    expect(prepared(picture, 100, 60, { kernel: 'none' }, treatment(same)).coverage).toBeGreaterThan(0.4)
  })
})

describe('blur and sharpen', () => {
  it('blurs as a Gaussian does, and leaves the mean', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.75, max: 13, noNaN: true }), (sigma) => {
        const side = 101
        const plane = new Float32Array(side * side)
        plane[50 * side + 50] = 1
        gaussian(plane, side, side, sigma)
        let spread = 0
        let sum = 0
        for (let y = 0; y < side; y++) {
          for (let x = 0; x < side; x++) {
            const v = plane[y * side + x]
            sum += v
            spread += v * (x - 50) ** 2
          }
        }
        expect(sum).toBeCloseTo(1, 3)
        expect(Math.abs(Math.sqrt(spread) - sigma) / sigma).toBeLessThan(0.02)
      }),
      { numRuns: 30 },
    )
  })

  it('sharpens edges over the threshold and leaves the rest alone', () => {
    const picture = greyPicture(60, 20, (x) => (x < 20 ? 100 : x < 40 ? 103 : 180))
    const out = grey(tones(picture, treatment({ kind: 'sharpen', on, radius: 1.5, amount: 100, threshold: 4 })))
    expect(out.slice(15, 25)).toEqual([100, 100, 100, 100, 100, 103, 103, 103, 103, 103])
    expect(out[39]).toBeLessThan(85)
    expect(out[40]).toBeGreaterThan(195)
    expect(out[55]).toBe(180)
  })
})

describe('background flattening', () => {
  it('makes unevenly lit paper even and keeps the ink', () => {
    const lit = (x: number, y: number): number => 235 - 110 * (x / 300) - 40 * (y / 200)
    const ink = (x: number, y: number): boolean => x % 40 < 4 || (y % 50 < 3 && x > 60)
    const picture = greyPicture(300, 200, (x, y) => lit(x, y) * (ink(x, y) ? 0.3 : 1))
    const out = grey(tones(picture, treatment({ kind: 'flatten', on, radiusMm: 3 })))
    let paper = 255
    let darkest = 0
    for (let y = 10; y < 190; y++) {
      for (let x = 10; x < 290; x++) {
        if (ink(x, y)) darkest = Math.max(darkest, out[y * 300 + x])
        else paper = Math.min(paper, out[y * 300 + x])
      }
    }
    // Before, paper went down to 85 and ink up to 70.
    expect(paper).toBeGreaterThan(238)
    expect(darkest).toBeLessThan(95)
  })

  it('leaves an even picture as it is, black too', () => {
    expect(
      Math.max(
        ...grey(
          tones(
            greyPicture(50, 50, () => 0),
            treatment({ kind: 'flatten', on, radiusMm: 1 }),
          ),
        ),
      ),
    ).toBe(0)
  })
})

describe('clean-up', () => {
  it('takes haze and specks away, and nothing else', () => {
    const picture = greyPicture(40, 40, (x, y) => (x > 20 && y > 20 ? 0 : x === 5 && y === 5 ? 90 : 250))
    const out = grey(tones(picture, treatment({ kind: 'clean', on, below: 0.05, specksMm2: 0.05 })))
    expect(out[5 * 40 + 5]).toBe(255)
    expect(out[0]).toBe(255)
    expect(out[30 * 40 + 30]).toBe(0)
    const haze = prepared(picture, 40, 40, {}, treatment({ kind: 'clean', on, below: 0.05, specksMm2: 0 }))
    // The block burns whole, the speck stays without the area, the haze is gone.
    expect(haze.coverage).toBeGreaterThanOrEqual((19 * 19) / 1600)
    expect(haze.coverage).toBeLessThanOrEqual((19 * 19 + 1) / 1600)
    expect(haze.wantedTone).toBeCloseTo((19 * 19 + 165 / 255) / 1600, 3)
  })
})

describe('masks', () => {
  const flat = greyPicture(100, 80, () => 100)
  const inside = (of: Mask, picture = flat): number[] => grey(tones(picture, limited({ kind: 'invert', on }, of)))

  it('limit a step to a shape, or to the outside of it', () => {
    const box = mask({ kind: 'rectangle', add: true, x: 10, y: 20, width: 30, height: 10 })
    const out = inside(box)
    let changed = 0
    for (let y = 0; y < 80; y++) {
      for (let x = 0; x < 100; x++) {
        const within = x >= 10 && x < 40 && y >= 20 && y < 30
        expect(out[y * 100 + x]).toBe(within ? 155 : 100)
        if (within) changed++
      }
    }
    expect(changed).toBe(300)
    const outside = grey(tones(flat, limited({ kind: 'invert', on, outside: true }, box)))
    expect([outside[0], outside[25 * 100 + 20]]).toEqual([155, 100])
  })

  it('are made of rings, Béziers and strokes, added and taken away in order', () => {
    const k = 0.5523 * 20
    const disc: MaskPart = {
      kind: 'bezier',
      add: true,
      points: [
        70,
        40,
        70,
        40 + k,
        50 + k,
        60,
        50,
        60,
        50 - k,
        60,
        30,
        40 + k,
        30,
        40,
        30,
        40 - k,
        50 - k,
        20,
        50,
        20,
        50 + k,
        20,
        70,
        40 - k,
        70,
        40,
      ],
    }
    const count = (out: readonly number[]): number => out.filter((v) => v === 155).length
    expect(count(inside(mask(disc)))).toBeGreaterThan(0.92 * Math.PI * 400)
    expect(count(inside(mask(disc)))).toBeLessThanOrEqual(Math.PI * 400)
    const cut = inside(mask(disc, { kind: 'brush', add: false, radius: 5, points: [30, 40, 70, 40] }))
    expect([cut[40 * 100 + 50], cut[30 * 100 + 50]]).toEqual([100, 155])
    const triangle = inside(mask({ kind: 'polygon', add: true, points: [0, 0, 40, 0, 0, 40] }))
    expect([triangle[5 * 100 + 5], triangle[35 * 100 + 35]]).toEqual([155, 100])
    const dab = inside(mask({ kind: 'brush', add: true, radius: 6, points: [50, 40] }))
    expect(Math.abs(count(dab) - Math.PI * 36)).toBeLessThan(30)
  })

  it('find what is of one tone and hangs together', () => {
    const two = greyPicture(100, 80, (x, y) => ((x > 20 && x < 50 && y > 10 && y < 60) || x > 80 ? 60 : 200))
    const out = inside(mask({ kind: 'tone', add: true, x: 30, y: 30, tolerance: 0.1 }), two)
    expect([out[30 * 100 + 40], out[30 * 100 + 90], out[30 * 100 + 70]]).toEqual([195, 60, 200])
  })

  it('follow edges between anchors', () => {
    // A disc; the anchors stand about on its edge, at the four sides.
    const disc = greyPicture(160, 160, (x, y) => (Math.hypot(x - 80, y - 80) < 50 ? 40 : 210))
    const out = inside(mask({ kind: 'edges', add: true, points: [130, 80, 80, 130, 30, 80, 80, 30] }), disc)
    let wrong = 0
    for (let y = 0; y < 160; y++)
      for (let x = 0; x < 160; x++) {
        const r = Math.hypot(x - 80, y - 80)
        if (Math.abs(r - 50) > 3 && out[y * 160 + x] === (r < 50 ? 40 : 45)) wrong++
      }
    // Straight from anchor to anchor would miss 2 854 pixels of the disc.
    expect(wrong).toBeLessThan(60)
  })

  it('fade over their feather', () => {
    const soft = { ...mask({ kind: 'rectangle', add: true, x: 50, y: 0, width: 50, height: 80 }), feather: 12 } satisfies Mask
    const row = inside(soft).slice(40 * 100, 41 * 100)
    expect(row[49]).toBeGreaterThan(115)
    expect(row[49]).toBeLessThan(140)
    expect([row[20], row[80]]).toEqual([100, 155])
    for (let x = 31; x < 70; x++) expect(row[x]).toBeGreaterThanOrEqual(row[x - 1])
  })

  it('let nothing be burned outside when all else is cleared, whatever comes after', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 5, max: 60 }),
        fc.integer({ min: 5, max: 40 }),
        fc.integer({ min: 5, max: 40 }),
        fc.constantFrom('floyd-steinberg' as const, 'none' as const, 'blue-noise' as const),
        (x, y, side, kernel) => {
          const keep = mask({ kind: 'rectangle', add: true, x, y, width: side, height: side })
          const steps: Treatment = {
            ...treatment(
              { kind: 'clear', on, mask: 'm', outside: true },
              { kind: 'sharpen', on, radius: 2, amount: 200, threshold: 0 },
              { kind: 'invert', on },
            ),
            masks: { m: keep },
          }
          const { levels } = prepared(flat, 100, 80, { kernel }, steps)
          let burned = 0
          levels.forEach((v, i) => {
            const px = i % 100
            const py = Math.floor(i / 100)
            const within = px >= x && px < x + side && py >= y && py < y + side
            if (within) burned += v
            else expect(v).toBe(0)
          })
          expect(burned).toBeGreaterThan(0)
        },
      ),
      { numRuns: 20 },
    )
  })
})
