import { expect, it } from 'vitest'
import { shapeAround } from './shape-around.ts'

const box = { x0: 20, y0: 30, x1: 50, y1: 70 }

it('a shape around artwork is centred on it: at a distance, around its corners, or as large as was typed', () => {
  expect(shapeAround('rectangle', box, { distanceMm: 3, radiusMm: 5 })).toEqual({
    drawn: { kind: 'rectangle', widthMm: 36, heightMm: 46, radiusMm: 0 },
    widthMm: 36,
    heightMm: 46,
    at: { xMm: 17, yMm: 27 },
  })
  expect(shapeAround('rounded', box, { distanceMm: 0, radiusMm: 5, widthMm: 60 })).toMatchObject({
    drawn: { widthMm: 60, heightMm: 40, radiusMm: 5 },
    at: { xMm: 5, yMm: 30 },
  })
  // Every corner of the box lies on the circle.
  const { widthMm, at } = shapeAround('circle', box, { distanceMm: 0, radiusMm: 0 })
  expect(widthMm).toBe(50)
  expect(Math.hypot(20 - at.xMm - 25, 30 - at.yMm - 25)).toBeCloseTo(25, 6)
})
