import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { contrastGrade, curveGrade, hazeGrade, levelsGrade, posteriseGrade } from './grade.ts'

const share = fc.double({ min: 0, max: 1, noNaN: true })

describe('levels', () => {
  it('take black and white to the ends and never turn back', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 200 }),
        fc.integer({ min: 201, max: 255 }),
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        share,
        share,
        (black, white, gamma, a, b) => {
          const grade = levelsGrade({ black, white, gamma })
          expect([grade(black / 255), grade(white / 255)]).toEqual([0, 1])
          expect(grade(Math.max(a, b))).toBeGreaterThanOrEqual(grade(Math.min(a, b)))
        },
      ),
    )
  })

  it('leave everything alone at 0, 255 and 1, and lighten the middle with a gamma above 1', () => {
    const neutral = levelsGrade({ black: 0, white: 255, gamma: 1 })
    for (let i = 0; i <= 255; i++) expect(neutral(i / 255)).toBeCloseTo(i / 255, 12)
    expect(levelsGrade({ black: 0, white: 255, gamma: 2 })(0.25)).toBeCloseTo(0.5, 12)
  })

  it('refuse what makes no sense', () => {
    expect(() => levelsGrade({ black: 9, white: 9, gamma: 1 })).toThrow(RangeError)
    expect(() => levelsGrade({ black: 0, white: 9, gamma: 0 })).toThrow(RangeError)
  })
})

describe('brightness and contrast', () => {
  it('shift and steepen around the middle', () => {
    expect(contrastGrade({ brightness: 20, contrast: 0 })(0.4)).toBeCloseTo(0.6, 12)
    expect(contrastGrade({ brightness: 0, contrast: 50 })(0.6)).toBeCloseTo(0.7, 12)
    expect(contrastGrade({ brightness: 0, contrast: -100 })(0.9)).toBeCloseTo(0.5, 12)
    expect(contrastGrade({ brightness: 100, contrast: 100 })(0)).toBe(1)
  })
})

describe('a free curve', () => {
  it('goes through its points, stays between them, and is flat beyond', () => {
    const grade = curveGrade({ points: [0.1, 0, 0.5, 0.8, 0.9, 1] })
    expect([grade(0.1), grade(0.5), grade(0.9)]).toEqual([0, 0.8, 1])
    expect([grade(0), grade(1)]).toEqual([0, 1])
    for (let v = 0.1; v < 0.5; v += 0.01) {
      expect(grade(v)).toBeGreaterThanOrEqual(0)
      expect(grade(v)).toBeLessThanOrEqual(0.8)
    }
  })

  it('that falls inverts', () => {
    const grade = curveGrade({ points: [0, 1, 1, 0] })
    for (const v of [0, 0.25, 0.7, 1]) expect(grade(v)).toBeCloseTo(1 - v, 12)
  })
})

describe('posterise and haze', () => {
  it('leave so many tones, ends included, and do nothing twice', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 20 }), (levels) => {
        const grade = posteriseGrade(levels)
        const tones = new Set(Array.from({ length: 1001 }, (_, i) => grade(i / 1000)))
        expect(tones.size).toBe(levels)
        expect([grade(0), grade(1)]).toEqual([0, 1])
        for (const tone of tones) expect(grade(tone)).toBe(tone)
      }),
    )
  })

  it('takes away marks weaker than asked', () => {
    expect([hazeGrade(0.05)(0.97), hazeGrade(0.05)(0.94)]).toEqual([1, 0.94])
  })
})
