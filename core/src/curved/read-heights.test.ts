import { describe, expect, it } from 'vitest'
import { readHeights } from './read-heights.ts'

describe('a table of heights', () => {
  it.each([
    ['commas', '12.5,12.4\n12,11.9\n'],
    ['semicolons and decimal commas', '12,5;12,4\r\n12,0;11,9'],
    ['tabs, with units', '12.5 mm\t12.4 mm\n12 mm\t11.9 mm\n\n'],
  ])('is read with %s', (_what, text) => {
    expect(readHeights(text)).toEqual({ thicknessMm: 12.5, heights: { columns: 2, rows: 2, mm: [0, -0.1, -0.5, -0.6] } })
  })

  it('has places beside the piece, also at its beginning', () => {
    expect(readHeights(',4\n5,4').heights.mm).toEqual([-1, -1, 0, -1])
  })

  it.each([
    ['', 'this has 0 of 0'],
    ['1,2,3', 'this has 1 of 3'],
    ['1\n2', 'this has 2 of 1'],
    [Array(31).fill('1,2').join('\n'), 'this has 31 of 2'],
    ['1,2\n3', 'Row 2 has 1 heights, the first one 2'],
    ['1,2\n3,high', 'Row 2, place 2: “high” is no height in mm.'],
    [',\n,', 'There is no height in this table'],
    ['0,0\n0,0', 'stands 0 mm over the bed'],
    ['3,3\n3,-1', 'Row 2, place 2: -1 lies under the bed'],
    ['900,1\n1,1', 'stands 900 mm over the bed'],
  ])('is refused with a sentence: %j', (text, words) => {
    expect(() => readHeights(text)).toThrow(words)
    expect(() => readHeights(text)).toThrow(RangeError)
  })
})
