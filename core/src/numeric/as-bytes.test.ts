import { describe, expect, it } from 'vitest'
import { asBytes } from './as-bytes.ts'

describe('numbers as bytes', () => {
  it('are rounded to the nearest, and kept within what a byte holds', () => {
    expect([...asBytes([0, 0.001, 0.003, 0.5, 1, 1.2, -0.1], 1)]).toEqual([0, 0, 1, 128, 255, 255, 0])
  })

  it('may run the other way', () => {
    expect([...asBytes([0, 0.25, 1], 0, 1)]).toEqual([255, 191, 0])
  })
})
