import { describe, expect, it } from 'vitest'
import { flattenPath } from '../../geometry/path.ts'
import { type Ring, ringArea } from '../../geometry/ring.ts'
import { pathThrough } from '../../outline/trace.ts'
import { edgeNodes, nodeGone, nodeMoved, painted } from './correct-blank.ts'
import { respaced } from './edge-walk.ts'
import type { SeenBlank } from './seen-blank.ts'

const disc = (x: number, y: number, r: number): Ring =>
  Float64Array.from({ length: 400 }, (_, i) => {
    const a = (2 * Math.PI * (i >> 1)) / 200
    return i % 2 ? y + r * Math.sin(a) : x + r * Math.cos(a)
  })
const path = (ring: Ring) => pathThrough(respaced(ring, 0.5), 0.5, 0.12)
const blank: SeenBlank = { edge: path(disc(100, 80, 30)), holes: [], areaMm2: 900 * Math.PI, cutOff: false, faint: 0.2 }
const areaOf = ({ edge, holes }: SeenBlank): number =>
  Math.abs(ringArea(flattenPath(edge, 0.01))) - holes.reduce((sum, hole) => sum + Math.abs(ringArea(flattenPath(hole, 0.01))), 0)

describe('a blank that was found', () => {
  it('is as large as what is painted to it, and away from it', () => {
    const line = Float64Array.of(125, 80, 140, 80)
    const more = painted(blank, line, 5, 'add')!
    expect(Math.abs(areaOf(more) - more.areaMm2)).toBeLessThan(3)
    expect(areaOf(more)).toBeGreaterThan(areaOf(blank) + 90)
    const back = painted(more, Float64Array.of(136, 80, 150, 80), 5, 'take')!
    expect(areaOf(back)).toBeLessThan(areaOf(more))
    expect(edgeNodes(back.edge).length).toBeLessThan(60)
  })
  it('has a hole where it is painted away in its middle, and loses it again', () => {
    const holed = painted(blank, Float64Array.of(95, 80, 105, 80), 4, 'take')!
    expect(holed.holes).toHaveLength(1)
    expect(Math.abs(areaOf(blank) - areaOf(holed) - (16 * Math.PI + 80))).toBeLessThan(5)
    expect(painted(holed, Float64Array.of(95, 80, 105, 80), 6, 'add')!.holes).toHaveLength(0)
  })
  it('is the larger part where it is cut in two, and nothing where all is taken', () => {
    const part = painted(blank, Float64Array.of(115, 40, 115, 120), 2, 'take')!
    expect(areaOf(part)).toBeGreaterThan(0.5 * areaOf(blank))
    expect(areaOf(part)).toBeLessThan(0.85 * areaOf(blank))
    expect(painted(blank, Float64Array.of(60, 80, 140, 80), 60, 'take')).toBeUndefined()
  })
  it('goes where its nodes are moved, and stays closed', () => {
    const nodes = edgeNodes(blank.edge)
    for (const k of [0, 1, nodes.length - 1]) {
      const moved = nodeMoved(blank.edge, k, 3, -2)
      const [x, y] = edgeNodes(moved)[k]
      expect(x - nodes[k][0]).toBeCloseTo(3, 9)
      expect(y - nodes[k][1]).toBeCloseTo(-2, 9)
      expect([...moved.points.slice(0, 2)]).toEqual([...moved.points.slice(-2)])
      expect(edgeNodes(moved).filter(([a, b], i) => a !== nodes[i][0] || b !== nodes[i][1])).toHaveLength(1)
    }
  })
  it('has a node less, and about the same shape', () => {
    const nodes = edgeNodes(blank.edge)
    expect(nodes.length).toBeGreaterThan(3)
    for (let k = 0; k < nodes.length; k++) {
      const less = nodeGone(blank.edge, k)
      expect(edgeNodes(less)).toHaveLength(nodes.length - 1)
      expect([...less.points.slice(0, 2)]).toEqual([...less.points.slice(-2)])
      expect(Math.abs(ringArea(flattenPath(less, 0.01)) / ringArea(flattenPath(blank.edge, 0.01)) - 1)).toBeLessThan(0.2)
    }
    const square = { closed: true, kinds: Uint8Array.of(0, 0, 0, 0), points: Float64Array.of(0, 0, 9, 0, 9, 9, 0, 9, 0, 0) }
    const three = nodeGone(square, 2)
    expect([...three.points]).toEqual([0, 0, 9, 0, 0, 9, 0, 0])
    expect(nodeGone(three, 1)).toBe(three)
  })
})
