import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { counted } from './counted.ts'
import { formatDuration } from './duration.ts'
import { formatLength, formatLengthNumber, LengthError, parseLength } from './length.ts'
import { dpiFromInterval, effectiveDpi, intervalFromDpi } from './resolution.ts'
import { formatSpeed, fromMmPerSecond, toMmPerSecond } from './speed.ts'

it('a number goes with its noun', () => {
  expect([0, 1, 2].map((n) => counted(n, 'row'))).toEqual(['0 rows', '1 row', '2 rows'])
})

describe('parseLength', () => {
  it.each([
    ['120', 120],
    ['2.5in', 63.5],
    ['120/2', 60],
    ['(25 + 1in) * 2', 100.8],
    ['12,5', 12.5],
    ['1cm + 5', 15],
    ['-3', -3],
    ['−3 mm', -3],
    ['2 × 30', 60],
    ['1"', 25.4],
    ['.5', 0.5],
    ['10in/2', 127],
    ['1/4in', 6.35],
    ['3 + 3/8in', 12.525],
    ['5/2mm', 2.5],
    ['3*(2+1)', 9],
  ])('reads %s', (text, mm) => {
    expect(parseLength(text)).toBeCloseTo(mm, 9)
  })

  it('counts bare numbers in the unit in force, and sums in both', () => {
    expect(parseLength('2', 'in')).toBeCloseTo(50.8, 9)
    expect(parseLength('1 + 5mm', 'in')).toBeCloseTo(30.4, 9)
    expect(parseLength('1mm', 'in')).toBe(1)
  })

  it.each([
    ['', 'Type a length'],
    ['abc', 'is not a length'],
    ['5 apples', 'is not a length'],
    ['(3', 'is not a length'],
    ['3mm * 2mm', 'is an area'],
    ['3/0', 'divided by zero'],
    ['5/(2mm)', 'is not a length'],
    ['1e999', 'is not a length'],
  ])('refuses “%s” with a sentence', (text, sentence) => {
    expect(() => parseLength(text)).toThrow(LengthError)
    expect(() => parseLength(text)).toThrow(sentence)
  })

  it('reads back what is shown, in both units', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -5000, max: 5000, noNaN: true }),
        fc.constantFrom('mm' as const, 'in' as const),
        (mm, unit) => {
          expect(Math.abs(parseLength(formatLength(mm, unit), unit) - mm)).toBeLessThanOrEqual(unit === 'mm' ? 0.0501 : 0.0128)
        },
      ),
    )
  })

  it('never shows a negative zero', () => {
    expect(formatLengthNumber(-0.001, 'mm')).toBe('0.0')
    expect(formatLength(168, 'mm')).toBe('168.0 mm')
    expect(formatLengthNumber(168, 'in')).toBe('6.614')
  })
})

describe('speeds, times and resolutions', () => {
  it('turns speeds into every unit and back', () => {
    expect(toMmPerSecond(600, 'mm/min')).toBe(10)
    expect(toMmPerSecond(1, 'in/s')).toBe(25.4)
    expect(formatSpeed(10, 'mm/min')).toBe('600 mm/min')
    for (const unit of ['mm/s', 'mm/min', 'in/s', 'in/min'] as const)
      expect(toMmPerSecond(fromMmPerSecond(37.5, unit), unit)).toBeCloseTo(37.5, 9)
  })

  it('shows times as they are read', () => {
    expect([7, 761, 3723, -1, 59.6].map(formatDuration)).toEqual(['0:07', '12:41', '1:02:03', '0:00', '1:00'])
  })

  it('knows that 200 dpi are 0.127 mm and 363 dpi about 0.07 mm', () => {
    expect(intervalFromDpi(200)).toBeCloseTo(0.127, 9)
    expect(intervalFromDpi(363)).toBeCloseTo(0.07, 4)
    expect(dpiFromInterval(0.127)).toBeCloseTo(200, 9)
    expect(effectiveDpi(1200, 101.6)).toBeCloseTo(300, 9)
  })
})
