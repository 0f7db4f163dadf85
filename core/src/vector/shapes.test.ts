import { strToU8 } from 'fflate'
import { describe, expect, it } from 'vitest'
import { type Drawn, drawnSvg } from '../drawn/drawn.ts'
import { readDrawing } from '../formats/read-drawing.ts'
import { flattenPath } from '../geometry/path.ts'
import { ringArea, ringsBounds } from '../geometry/ring.ts'

const drawn = (spec: Drawn) => {
  const drawing = readDrawing(strToU8(drawnSvg(spec).svg))
  const rings = drawing.shapes.flatMap(({ paths }) => paths.map((path) => flattenPath(path, 0.0005)))
  return { drawing, rings, area: rings.reduce((sum, ring) => sum + Math.abs(ringArea(ring)), 0) }
}

describe('shapes by their numbers', () => {
  it('are as large as they say', () => {
    expect(drawn({ kind: 'rectangle', widthMm: 30, heightMm: 20, radiusMm: 4 }).area).toBeCloseTo(600 - (4 - Math.PI) * 16, 0)
    expect(drawn({ kind: 'rectangle', widthMm: 30, heightMm: 20, radiusMm: 99 }).area).toBeCloseTo(
      30 * 20 - (4 - Math.PI) * 100,
      0,
    )
    expect(drawn({ kind: 'ellipse', widthMm: 30, heightMm: 20 }).area).toBeCloseTo(Math.PI * 150, 0)
    expect(drawn({ kind: 'polygon', sides: 6, diameterMm: 20 }).area).toBeCloseTo(1.5 * Math.sqrt(3) * 100, 2)
    expect(drawn({ kind: 'star', points: 5, diameterMm: 20, innerShare: 0.5 }).area).toBeCloseTo(
      5 * 10 * 5 * Math.sin(Math.PI / 5),
      2,
    )
    const { drawing } = drawn({ kind: 'line', lengthMm: 50, angleDeg: 30 })
    expect([drawing.widthMm, drawing.heightMm].map((v) => Number(v.toFixed(3)))).toEqual([43.301, 25])
  })

  it('are repeated in rows at an exact pitch, and around a circle', () => {
    const grid = drawn({
      kind: 'ellipse',
      widthMm: 4,
      heightMm: 4,
      repeat: { kind: 'grid', columns: 5, rows: 3, pitchXMm: 7.5, pitchYMm: 6 },
    })
    expect(grid.rings).toHaveLength(15)
    expect(grid.drawing.widthMm).toBeCloseTo(4 * 7.5 + 4, 3)
    expect(grid.drawing.heightMm).toBeCloseTo(2 * 6 + 4, 3)
    const round = drawn({ kind: 'ellipse', widthMm: 4, heightMm: 4, repeat: { kind: 'round', count: 12, diameterMm: 60 } })
    const { x0, y0, x1, y1 } = ringsBounds(round.rings)
    const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2]
    for (const ring of round.rings) {
      const b = ringsBounds([ring])
      expect(Math.hypot((b.x0 + b.x1) / 2 - cx, (b.y0 + b.y1) / 2 - cy)).toBeCloseTo(30, 2)
    }
    expect(() =>
      drawnSvg({ kind: 'line', lengthMm: 1, angleDeg: 0, repeat: { kind: 'round', count: 9999, diameterMm: 9 } }),
    ).toThrow('copies')
  })
})
