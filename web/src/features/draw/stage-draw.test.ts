import { describe, expect, it } from 'vitest'
import { becomes } from './drawn-into.ts'
import { FIRST } from './first-numbers.ts'
import { plainLetters } from './plain-letters.ts'
import { pulledOut } from './use-stage-draw.tsx'

describe('what is pulled out on the stage', () => {
  it('is as large as it was pulled, whichever way', () => {
    expect(pulledOut('rectangle', [10, 10], [50, 40])).toMatchObject({ kind: 'rectangle', widthMm: 40, heightMm: 30 })
    expect(pulledOut('rectangle', [50, 40], [10, 10])).toMatchObject({ widthMm: 40, heightMm: 30 })
    expect(pulledOut('ellipse', [0, 0], [12.3456, 7])).toMatchObject({ widthMm: 12.346, heightMm: 7 })
    expect(pulledOut('star', [0, 0], [30, 20])).toMatchObject({ kind: 'star', diameterMm: 20 })
    expect(pulledOut('arc', [0, 0], [30, 22])).toMatchObject({ kind: 'arc', diameterMm: 22 })
    expect(pulledOut('code', [0, 0], [18, 25])).toMatchObject({ kind: 'code', sizeMm: 18 })
  })

  it('as a line has the angle of the pull', () => {
    expect(pulledOut('line', [0, 0], [30, 40])).toMatchObject({ lengthMm: 50, angleDeg: 53.13 })
    expect(pulledOut('line', [0, 0], [0, -20])).toMatchObject({ lengthMm: 20, angleDeg: -90 })
  })

  it('is nothing where nobody could see it', () => {
    expect(pulledOut('rectangle', [5, 5], [5, 40])).toBeUndefined()
    expect(pulledOut('line', [5, 5], [5.2, 5.2])).toBeUndefined()
  })
})

describe('what is meant by what is drawn', () => {
  it('follows from what it is', () => {
    expect(becomes(FIRST.text)).toBe('score-lines')
    expect(becomes({ ...FIRST.text, font: { kind: 'file', asset: 'a'.repeat(64), name: 'Slab' } } as never)).toBe('engrave-seen')
    expect(becomes(FIRST.rectangle)).toBe('cut-lines')
    expect(becomes(FIRST.code)).toBe('engrave-seen')
    expect(becomes({ kind: 'path', data: 'M0 0L5 5' })).toBe('score-lines')
    expect(becomes({ kind: 'path', data: 'M0 0L5 5L5 0Z' })).toBe('cut-lines')
  })
})

describe('a text that came from elsewhere', () => {
  it('is written whole, or refused with its length: nothing is left out unsaid', () => {
    expect(plainLetters('x'.repeat(4000)).text).toHaveLength(4000)
    expect(() => plainLetters('x'.repeat(4001))).toThrow('4001 letters; at most 4000')
  })
})
