import { describe, expect, it } from 'vitest'
import { fieldLines } from './field-lines.ts'

describe('the correction of a field', () => {
  it('is told in lines that every machine takes, all of its places in their order', () => {
    const points = 17
    const offsetsUm = Array.from({ length: 2 * points * points }, (_, i) => (i % 2 ? -1 : 1) * (4000 + (i % 1000)))
    const [first, ...others] = fieldLines({ points, offsetsUm })
    expect(first).toBe('field 17')
    expect(Math.max(...others.map((line) => line.length))).toBeLessThan(120)
    const told = others.flatMap((line) => line.split(' ').slice(2).map(Number))
    expect(told).toEqual(offsetsUm)
    const begins = others.map((line) => Number(line.split(' ')[1]))
    expect(begins).toEqual(begins.map((_, i) => 8 * i))
  })

  it('is taken out by one line', () => {
    expect(fieldLines(undefined)).toEqual(['field 0'])
  })
})
