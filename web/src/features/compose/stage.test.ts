import { MACHINES, MATERIALS, propose, ResultCache } from '@neotaxis/core'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fitView, MAX_SCALE, MIN_SCALE, zoomed } from '../../stage/stage-view.ts'
import { burnsOf, familyRows } from '../lineage/family.ts'

describe('stage view', () => {
  it('fits a box inside its margins, in the middle', () => {
    const view = fitView({ x0: 0, y0: 0, x1: 300, y1: 200 }, 800, 600, { x: 50, top: 40, bottom: 60 })
    expect(view.scale).toBeCloseTo(700 / 300, 9)
    expect((150 - view.x) * view.scale).toBeCloseTo(400, 9)
    expect((100 - view.y) * view.scale).toBeCloseTo(40 + 250, 9)
  })

  it('keeps the point under the pointer while it zooms, within its limits', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        fc.double({ min: 0, max: 800, noNaN: true }),
        fc.double({ min: 0, max: 600, noNaN: true }),
        (factor, px, py) => {
          const before = { x: -20, y: 12, scale: 2.5 }
          const after = zoomed(before, factor, px, py)
          expect(after.x + px / after.scale).toBeCloseTo(before.x + px / before.scale, 6)
          expect(after.y + py / after.scale).toBeCloseTo(before.y + py / before.scale, 6)
          expect(after.scale).toBeGreaterThanOrEqual(MIN_SCALE)
          expect(after.scale).toBeLessThanOrEqual(MAX_SCALE)
        },
      ),
    )
  })
})

const picture = { widthPx: 20, heightPx: 20, samples: new Uint8Array(400).fill(80), full: 255 }
const facts = { name: 'gauge.png', asset: 'a'.repeat(64), widthPx: 20, heightPx: 20, hasAlpha: false }
const settings = { workpiece: { widthMm: 60, heightMm: 40, thicknessMm: 3 }, material: MATERIALS[0], machine: MACHINES[0] }
const { job } = propose(facts, picture, settings, { cache: new ResultCache(), picture: () => picture })[1]

describe('the lineage shelf', () => {
  it('shows each piece of artwork under the one it comes from', () => {
    expect(familyRows(job).map(({ id, depth }) => [id, depth])).toEqual([
      ['source', 0],
      ['dots', 1],
      ['edge', 1],
      ['around', 2],
    ])
  })

  it('leads each row to the one that it comes from, however many stand between', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(), { minLength: 1, maxLength: 40 }), (parents) => {
        // Each comes from one before it, or from nothing.
        const nodes = Object.fromEntries(
          parents.map((n, i) => [`n${i}`, n % (i + 1) === i ? { kind: 'source' } : { kind: 'trace', from: `n${n % (i + 1)}` }]),
        )
        const rows = familyRows({ ...job, nodes: nodes as never })
        expect(rows).toHaveLength(parents.length)
        for (const [i, row] of rows.entries())
          expect(row.depth === 0 ? undefined : rows[i - row.above].id).toBe((row.node as { from?: string }).from)
      }),
    )
  })

  it('numbers what burns each piece, in burn order, all of an operation that has several', () => {
    const [first, second] = Object.keys(job.operations)
    const both = { ...job, operations: { ...job.operations, [second]: { ...job.operations[second], of: ['dots', 'around'] } } }
    expect([...burnsOf(both as never, [second, first])]).toEqual([
      ['dots', job.operations[first].of[0] === 'dots' ? [0, 1] : [0]],
      ['around', job.operations[first].of[0] === 'around' ? [0, 1] : [0]],
    ])
  })
})
