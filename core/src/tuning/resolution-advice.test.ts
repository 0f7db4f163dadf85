import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { programSize } from './resolution-advice.ts'

const marks = (columns: number, rows: number, levels: Uint8Array) => ({
  columns,
  rows,
  levels,
  wantedTone: 0,
  meanTone: 0,
  coverage: 0,
})

describe('the size of a program', () => {
  it('is a line for each change of power in a row, and five more for the row; empty rows have none', () => {
    // Row 1: 9 9 0 5 changes twice between its first and last mark; row 2 is empty; row 3 has one dot.
    const levels = Uint8Array.of(0, 9, 9, 0, 5, 0, 0, 0, 0, 0, 0, 0, 0, 0, 7, 0, 0, 0)
    expect(programSize(marks(6, 3, levels), 2).lines).toBe(2 * (2 + 5 + 5))
  })

  it('counts what a plain loop counts', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 90 }),
        fc.array(fc.integer({ min: 0, max: 2 }), { minLength: 90, maxLength: 400 }),
        (columns, list) => {
          const rows = Math.floor(list.length / columns)
          const levels = Uint8Array.from(list.slice(0, rows * columns))
          let lines = 0
          for (let r = 0; r < rows; r++) {
            const row = [...levels.subarray(r * columns, (r + 1) * columns)]
            const from = row.findIndex((v) => v > 0)
            if (from < 0) continue
            const part = row.slice(from, row.findLastIndex((v) => v > 0) + 1)
            lines += 5 + part.filter((v, i) => i > 0 && v !== part[i - 1]).length
          }
          expect(programSize(marks(columns, rows, levels), 1).lines).toBe(lines)
        },
      ),
    )
  })
})
