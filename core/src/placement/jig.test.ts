import { describe, expect, it } from 'vitest'
import { combine, offset, shapeArea } from '../geometry/clip.ts'
import { fromEdge } from '../geometry/edge.ts'
import { type Ring, ringsBounds } from '../geometry/ring.ts'
import { outlineOfFace, type PieceOutline } from '../job/document/workpiece.ts'
import { JIG, jigOf } from './jig.ts'

const slate: PieceOutline = {
  kind: 'rings',
  rings: [
    [0, 12, 70, 0, 120, 30, 100, 80, 20, 75],
    [50, 30, 60, 30, 60, 40, 50, 40],
  ],
}

/** What of the sheet stays: everything between the frame's edge and its openings. */
const stays = ([frame, ...openings]: readonly Ring[]): Ring[] => combine('subtract', [frame], openings)

describe('a jig', () => {
  it('holds its piece with the room that is wanted, and nothing of it stands in the piece', () => {
    for (const outline of [
      slate,
      { kind: 'circle', diameterMm: 60 } as const,
      { kind: 'rect', widthMm: 80, heightMm: 50 } as const,
    ]) {
      const rings = jigOf({ outline }, { ...JIG, fingers: false, vents: false })
      expect(rings).toHaveLength(2)
      const piece = offset(outlineOfFace(outline), 0, { outermost: true })
      expect(shapeArea(combine('intersect', stays(rings), piece))).toBe(0)
      for (let i = 0; i < rings[1].length; i += 2) expect(fromEdge(piece, rings[1][i], rings[1][i + 1])).toBeCloseTo(0.3, 1)
      const [inner, outer] = [ringsBounds(piece), ringsBounds([rings[0]])]
      expect(inner.x0 - outer.x0).toBeCloseTo(20.3, 1)
    }
  })

  it('has room for fingers at both ends, and vents that leave the frame in one piece', () => {
    const plain = stays(jigOf({ outline: slate }, { ...JIG, fingers: false, vents: false }))
    const open = jigOf({ outline: slate }, JIG)
    expect(shapeArea(stays(open))).toBeLessThan(shapeArea(plain) - 200)
    const outer = stays(open).filter((ring) => shapeArea([ring]) > 0)
    expect(outer).toHaveLength(1)
    expect(open.length).toBeGreaterThan(10)
    // A frame too narrow for them has none.
    expect(jigOf({ outline: slate }, { ...JIG, borderMm: 5 })).toHaveLength(2)
  })
})
