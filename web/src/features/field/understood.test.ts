import { parseLength } from '@neotaxis/core'
import { describe, expect, it } from 'vitest'
import { understood } from './understood.ts'

describe('what was typed', () => {
  const mm = (typed: string) => understood((text) => parseLength(text, 'mm'), typed)
  it('is a number, whatever unit it was typed in', () => {
    expect(mm('12.5')).toEqual({ value: 12.5, reason: null })
    expect(mm('2 cm').value).toBe(20)
    expect(mm('1 in').value).toBeCloseTo(25.4, 9)
  })
  it('or a sentence that says what is wrong with it', () => {
    expect(mm('wide').reason).toMatch(/\.$/)
    expect(mm('').reason).toMatch(/\.$/)
    expect(
      understood(() => {
        throw 'no error at all'
      }, '').reason,
    ).toBe('This cannot be read.')
  })
})
