import { describe, expect, it } from 'vitest'
import { instructionAt, partAt, type RunPart, withWaits } from './prepared.ts'

const part = (id: string, linesBefore: number, pause: string | null = null): RunPart => ({ id, linesBefore, pause, list: [] })

describe('where a program waits', () => {
  const parts = withWaits(
    [part('engrave', 0), part('cut', 500, 'Turn it over'), part('return', 900)],
    [
      { lines: 200, text: 'Set the focus 4 mm over the bed' },
      { lines: 700, text: 'Set the focus 8 mm over the bed' },
    ],
  )
  it('tells what is to be done there, in the midst of an operation as well as before one', () => {
    expect(instructionAt({ parts }, 201)).toBe('Set the focus 4 mm over the bed')
    expect(instructionAt({ parts }, 499)).toBe('Turn it over')
    expect(instructionAt({ parts }, 702)).toBe('Set the focus 8 mm over the bed')
  })
  it('belongs to the operation that it lies in', () => {
    expect([0, 199, 200, 499, 500, 700, 899, 900].map((lines) => partAt({ parts }, lines))).toEqual([
      'engrave',
      'engrave',
      'engrave',
      'engrave',
      'cut',
      'cut',
      'cut',
      'return',
    ])
    expect(withWaits([part('engrave', 0)], [])).toEqual([part('engrave', 0)])
  })
})
