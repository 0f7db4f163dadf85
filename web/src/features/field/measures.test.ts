// What is typed comes back as it is shown, in every unit; what cannot be read says so in a sentence.
import { describe, expect, it } from 'vitest'
import {
  CLOCK,
  DEGREES,
  intervalIn,
  lengthIn,
  type Measure,
  numberOf,
  orNothing,
  PERCENT,
  scaled,
  speedIn,
  WORDS,
} from './measures.ts'
import { spanOf } from './refusal.ts'

const measures: readonly (readonly [string, Measure, number, string, string, number])[] = [
  // what, measure, a value, as it is shown, what is typed, what is meant
  ['mm', lengthIn('mm'), 12.34, '12.3', '1in + 2', 27.4],
  ['interval', intervalIn('mm'), 0.127, '0.127', '254 dpi', 0.1],
  ['interval in inches', intervalIn('in'), 0.127, '0.00500', '0.01', 0.254],
  ['mm, fine', lengthIn('mm', 3), 0.0652, '0.065', '0,07', 0.07],
  ['inches', lengthIn('in'), 25.4, '1.000', '2', 50.8],
  ['inches, typed in mm', lengthIn('in'), 50.8, '2.000', '10mm', 10],
  ['mm/s', speedIn('mm/s'), 12, '12', '300', 300],
  ['mm/s, typed in mm/min', speedIn('mm/s'), 12.25, '12.3', '300 mm/min', 5],
  ['inches a second', speedIn('in/s'), 254, '10', '2 in/s', 50.8],
  ['%', PERCENT, 0.125, '12.5', '40 %', 0.4],
  ['degrees', DEGREES, 12.3456, '12.346', '-45°', -45],
  ['pieces', numberOf(), 7, '7', '7.4', 7],
  ['W', numberOf('W', 2), 57.5, '57.5', '40 W', 40],
  ['ms', scaled('ms', 0.001), 0.00025, '0.25', '0,5 ms', 0.0005],
  ['kB/s', scaled('kB/s', 1000), 11_500, '11.5', '12', 12_000],
]

describe.each(measures)('%s', (_, as, value, shown, typed, meant) => {
  it('are shown, and read', () => {
    expect(as.show(value)).toBe(shown)
    expect(as.read(typed)).toBeCloseTo(meant, 9)
    expect(as.step).toBeGreaterThan(0)
  })

  it('come back as they are shown', () => {
    for (let n = 0; n < 200; n++) {
      const text = as.show(value * (0.1 + n / 20))
      expect(as.show(as.read(text))).toBe(text)
    }
  })

  it.each(['', 'wide', '3 4', '1e999', '12..5'])('cannot be “%s”, with a sentence', (nonsense) => {
    expect(() => as.read(nonsense)).toThrow(/\.$/)
  })
})

describe('a time, words, and what may be left open', () => {
  it('are read as they are shown', () => {
    expect([CLOCK.read('12:41'), CLOCK.read('1:02:03'), CLOCK.read('90'), CLOCK.show(761)]).toEqual([761, 3723, 90, '12:41'])
    expect(() => CLOCK.read('12:4x')).toThrow('Write it as 12:41, or in seconds.')
    expect(WORDS.read('  Bench 60 ')).toBe('Bench 60')
    const open = orNothing(numberOf('mm', 2))
    expect([open.read(' '), open.read('0.4 mm'), open.show(null), open.show(0.4)]).toEqual([null, 0.4, '', '0.4'])
    expect(() => open.read('deep')).toThrow('“deep” is not a number.')
  })

  it('a range is told once with its unit, and without one where it has none', () => {
    expect(spanOf(lengthIn('in'), { min: 25.4, max: 254 })).toBe('1.000 to 10.000 in')
    expect(spanOf(numberOf(), { min: 1, max: 9 })).toBe('1 to 9')
  })
})
