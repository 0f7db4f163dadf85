import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { withOperation } from '../edits/change.ts'
import { given } from '../edits/give-process.ts'
import { withoutOperation } from '../edits/take-away.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { ResultCache } from '../lineage/cache.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { propose } from '../proposals/proposals.ts'
import { besideArc, gripAt } from './grips.ts'
import { besideRing, operationAt } from './operation-at.ts'

const picture = { widthPx: 20, heightPx: 20, samples: new Uint8Array(400).fill(80), full: 255 }
const facts = { name: 'gauge.png', asset: 'a'.repeat(64), widthPx: 20, heightPx: 20, hasAlpha: false }
const settings = { workpiece: { widthMm: 60, heightMm: 40, thicknessMm: 3 }, material: MATERIALS[0], machine: MACHINES[0] }
const { job } = propose(facts, picture, settings, { cache: new ResultCache(), picture: () => picture })[1]

describe('the operation under a place', () => {
  const square = Float64Array.of(10, 10, 50, 10, 50, 30, 10, 30)
  const drawn = {
    outlines: { around: [square], edge: [] },
    bounds: { around: ringsBounds([square]), dots: { x0: 15, y0: 12, x1: 30, y1: 28 } },
  }

  it('is a cut when its line is close, else the picture, else the cut around', () => {
    expect(operationAt(job, drawn, 30, 10.4, 1)).toBe('cut')
    expect(operationAt(job, drawn, 20, 20, 1)).toBe('engrave')
    expect(operationAt(job, drawn, 42, 20, 1)).toBe('cut')
    expect(operationAt(job, drawn, 55, 20, 1)).toBeUndefined()
  })

  it('is the fill where its area lies, not in its holes, and any piece of an operation that has several', () => {
    const { job: filled, operation } = given(job, ['edge'], 'area')
    const hole = Float64Array.of(20, 15, 20, 25, 26, 25, 26, 15)
    const island = Float64Array.of(52, 32, 58, 32, 58, 38, 52, 38)
    const shapes = {
      outlines: { around: [square], edge: [square, hole] },
      bounds: { ...drawn.bounds, edge: ringsBounds([square]) },
    }
    expect(operationAt(filled, shapes, 17, 20, 0.5)).toBe(operation)
    expect(operationAt(filled, shapes, 23, 20, 0.5)).toBe('engrave')
    const both = withOperation(filled, operation, { of: ['edge', 'around'] })
    const apart = {
      outlines: { edge: [square, hole], around: [island] },
      bounds: { ...shapes.bounds, around: ringsBounds([island]) },
    }
    const alone = withoutOperation(both, 'cut')
    expect(operationAt(alone, apart, 55, 35, 0.5)).toBe(operation)
  })

  it('is found at each place where it lies, turned ones too', () => {
    const [{ of, on, xMm, yMm, widthMm, heightMm }] = Object.values(job.placements)
    const copy = { of, on, widthMm, heightMm, xMm: xMm + 200, yMm: yMm + 100, deg: 90 }
    const twice = { ...job, placements: { ...job.placements, copy } }
    // A spot near the middle of the first one, where the copy has it.
    const [cx, cy] = [xMm + widthMm / 2, yMm + heightMm / 2]
    const there = (x: number, y: number): [number, number] => [200 + cx - (y - cy), 100 + cy + (x - cx)]
    for (const [x, y] of [
      [30, 10.4],
      [20, 20],
      [42, 20],
    ])
      expect(operationAt(twice, drawn, ...there(x, y), 1)).toBe(operationAt(job, drawn, x, y, 1))
    expect(operationAt(twice, drawn, ...there(55, 20), 1)).toBeUndefined()
  })

  it('is none where nothing is drawn yet', () => {
    expect(operationAt(job, { outlines: {}, bounds: {} }, 20, 20, 1)).toBeUndefined()
  })
})

describe('beside a ring', () => {
  it('is what is within reach of one of its edges, the closing one too', () => {
    const ring = Float64Array.of(0, 0, 10, 0, 10, 10)
    expect(besideRing(ring, 5, -1, 1.1)).toBe(true)
    expect(besideRing(ring, 4.5, 5.5, 0.75)).toBe(true)
    expect(besideRing(ring, 4, 7, 1)).toBe(false)
    expect(besideRing(Float64Array.of(3, 3, 3, 3), 3, 4, 1)).toBe(true)
  })
})

describe('a grip', () => {
  const place = fc.record({
    x: fc.double({ min: 0, max: 100, noNaN: true }),
    y: fc.double({ min: 0, max: 100, noNaN: true }),
    reach: fc.double({ min: 1, max: 30, noNaN: true }),
  })

  it('that is meant is in reach, and none in reach is nearer', () => {
    fc.assert(
      fc.property(fc.array(place, { maxLength: 20 }), place, (grips, { x, y }) => {
        const far = grips.map((grip) => Math.hypot(grip.x - x, grip.y - y))
        const found = gripAt(grips, x, y)
        const near = far.filter((d, i) => d <= grips[i].reach)
        if (found < 0) expect(near).toEqual([])
        else expect(far[found]).toBe(Math.min(...near))
      }),
    )
  })

  it('that is an arc is meant along it and a little beyond its ends, wherever it lies', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -10, max: 10, noNaN: true }),
        fc.double({ min: 0.05, max: 0.6, noNaN: true }),
        fc.double({ min: 40, max: 400, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -9, max: 9, noNaN: true }),
        (middle, half, radius, along, out) => {
          const arc = { x: 7, y: -3, radius, from: middle - half, to: middle + half }
          const at = (angle: number, r: number): readonly [number, number] => [7 + r * Math.cos(angle), -3 + r * Math.sin(angle)]
          expect(besideArc(arc, ...at(middle + along * half, radius + out), 9.001)).toBe(true)
          expect(besideArc(arc, ...at(middle + along * half, radius + Math.sign(out || 1) * 11), 9)).toBe(false)
          expect(besideArc(arc, ...at(middle + half + 12 / radius, radius), 9)).toBe(false)
          expect(besideArc(arc, ...at(middle - half - 6 / radius, radius), 9)).toBe(true)
        },
      ),
    )
  })
})
