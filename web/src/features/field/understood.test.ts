import { parseLength } from '@neotaxis/core'
import { describe, expect, it } from 'vitest'
import { understood } from './understood.ts'

describe('what was typed', () => {
  const mm = (typed: string) => understood((text) => parseLength(text, 'mm'), typed)
  it('is a number, whatever unit it was typed in', () => {
    expect(mm('12.5')).toBe(12.5)
    expect(mm('2 cm')).toBe(20)
    expect(mm('1 in')).toBeCloseTo(25.4, 9)
  })
  it('or a sentence that says what is wrong with it', () => {
    expect(mm('wide')).toMatch(/\.$/)
    expect(mm('')).toMatch(/\.$/)
    expect(
      understood(() => {
        throw 'no error at all'
      }, ''),
    ).toBe('This cannot be read.')
  })
})
