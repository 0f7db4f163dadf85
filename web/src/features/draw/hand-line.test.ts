import { pathsOf } from '@neotaxis/core/formats/svg/path-data'
import { describe, expect, it } from 'vitest'
import { handData } from './hand-line.ts'

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
