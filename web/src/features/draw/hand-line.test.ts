import { pathsOf } from '@neotaxis/core/formats/svg/path-data'
import { describe, expect, it } from 'vitest'
import { handData } from './hand-line.ts'
import { typedCorner } from './use-pen.tsx'

describe('a line drawn by hand', () => {
  it('is straight between corners, and closes where it is told to', () => {
    const corners = [
      { x: 0, y: 0 },
      { x: 10, y: 0 },
      { x: 10, y: 5 },
    ]
    expect(handData(corners.slice(0, 1), false)).toBe('')
    expect(handData(corners, false)).toBe('M0 0L10 0L10 5')
    const [path] = pathsOf(handData(corners, true))
    expect(path.closed).toBe(true)
    expect([...path.kinds]).toEqual([0, 0, 0])
  })

  it('bends through a corner with the same handle on both sides', () => {
    const [path] = pathsOf(
      handData(
        [
          { x: 0, y: 0 },
          { x: 10, y: 0, out: { dx: 3, dy: 4 } },
          { x: 20, y: 0 },
        ],
        false,
      ),
    )
    expect([...path.kinds]).toEqual([1, 1])
    const [, , , , inX, inY, x, y, outX, outY] = path.points
    expect([x - inX, y - inY]).toEqual([3, 4])
    expect([outX - x, outY - y]).toEqual([3, 4])
  })
})

describe('a corner that is typed', () => {
  const [last, hover] = [
    { x: 10, y: 20 },
    { x: 13, y: 24 },
  ]

  it('is a place with two numbers, a side the way the hand points with one', () => {
    expect(typedCorner('60 12,5', last, hover)).toEqual({ x: 60, y: 12.5 })
    expect(typedCorner('60;-3', undefined, undefined)).toEqual({ x: 60, y: -3 })
    expect(typedCorner('40', last, hover)).toEqual({ x: 34, y: 52 })
    expect(typedCorner('2.5', last, { x: 0, y: 20 })).toEqual({ x: 7.5, y: 20 })
  })

  it('is none where the numbers make none', () => {
    for (const typed of ['', ' ', '-', '1 2 3', '4..5']) expect(typedCorner(typed, last, hover)).toBeUndefined()
    expect(typedCorner('40', undefined, hover)).toBeUndefined()
    expect(typedCorner('40', last, last)).toBeUndefined()
  })
})
