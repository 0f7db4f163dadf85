import { describe, expect, it } from 'vitest'
import { combine, offset, shapeArea } from '../geometry/clip.ts'
import { liesWithin } from '../geometry/edge.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { type JobDocument, mainPiece, placeOf, withPiece } from '../job/document/document.ts'
import { outlineOfFace } from '../job/document/workpiece.ts'
import { checkJob } from '../reading/check-job.ts'
import { greyPicture, onRectangle, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { costOf, FIRST_RATES } from './cost.ts'
import { cutOffLine } from './cut-off.ts'
import { leftOver } from './left-over.ts'
import { outlineArea, type StockPiece } from './stock-piece.ts'
import { ontoStock, shapeOfJob, whichFit } from './which-fits.ts'

const picture = greyPicture(80, 60, (x, y) => (Math.hypot((x - 40) / 1.3, y - 30) < 26 ? 30 : 255))
const supply = supplyWith(picture)
/** An oval part of some 45 × 35 mm in the rear left corner of a sheet. */
const job = onRectangle(sampleJob({ picture, widthMm: 40, xMm: 5, yMm: 5 }), { widthMm: 300, heightMm: 200 })
const material = mainPiece(job).material

const piece = (id: string, outline: StockPiece['outline'], more: Partial<StockPiece> = {}): StockPiece => ({
  id,
  name: id,
  material,
  outline,
  thicknessMm: 3,
  keepOuts: {},
  marks: {},
  cents: 1000,
  ...more,
})
const rect = (widthMm: number, heightMm: number) => ({ kind: 'rect', widthMm, heightMm }) as const

describe('what a job leaves of a sheet', () => {
  it('is the sheet without the part and its kerf', () => {
    const { offcuts, wholeMm2, usedMm2 } = leftOver(job, supply)
    expect(wholeMm2).toBe(60_000)
    expect(offcuts).toHaveLength(1)
    const part = shapeArea(shapeOfJob(job, supply))
    // The kerf stands half over the part's path.
    expect(usedMm2).toBeGreaterThan(part * 0.99)
    expect(usedMm2).toBeLessThan(part * 1.03)
    expect(offcuts[0].areaMm2 + usedMm2).toBeCloseTo(wholeMm2, 6)
    // Where the part was there is a hole.
    const [cx, cy] = [25, 20]
    expect(liesWithin(offcuts[0].rings, cx, cy)).toBe(false)
    expect(liesWithin(offcuts[0].rings, 150, 100)).toBe(true)
  })

  it('is the same where nothing but the cut is burned, on a sheet of any edge', () => {
    const cutOnly: JobDocument = { ...job, order: ['cut'] }
    for (const outline of [rect(300, 200), { kind: 'circle', diameterMm: 220 }] as const) {
      const laid = withPiece({ ...cutOnly, placements: { source: { ...job.placements.source, xMm: 90, yMm: 80 } } }, { outline })
      const { offcuts, wholeMm2, usedMm2 } = leftOver(laid, supply)
      const part = shapeArea(shapeOfJob(laid, supply))
      expect(offcuts).toHaveLength(1)
      expect(usedMm2 / part).toBeGreaterThan(0.99)
      expect(usedMm2 / part).toBeLessThan(1.03)
      expect(offcuts[0].areaMm2 + usedMm2).toBeCloseTo(wholeMm2, 6)
      const [cx, cy] = [110, 95]
      expect(liesWithin(offcuts[0].rings, cx, cy)).toBe(false)
    }
  })

  it('is nothing where no cut goes through: the sheet is what was made', () => {
    const { cut: _, ...operations } = job.operations
    const engraved = { ...job, operations, order: ['engrave'] }
    expect(leftOver(engraved, supply)).toEqual({ offcuts: [], wholeMm2: 60_000, usedMm2: 60_000 })
    const weak = { ...job, operations: { ...job.operations, cut: { ...job.operations.cut, speedMmS: 300 } } }
    expect(leftOver(weak, supply).offcuts).toHaveLength(0)
  })

  it('does not keep what is burned beside the part, nor scraps that nobody could use', () => {
    const second: JobDocument = {
      ...job,
      nodes: { ...job.nodes, other: { ...job.nodes.source, name: 'other' } },
      placements: { ...job.placements, other: { ...job.placements.source, of: 'other', xMm: 200, yMm: 100 } },
    }
    const dots = { ...job.nodes.dots, from: 'other' } as JobDocument['nodes'][string]
    const beside: JobDocument = {
      ...second,
      nodes: { ...second.nodes, more: dots },
      operations: { ...second.operations, engrave: { ...second.operations.engrave, of: ['dots', 'more'] } },
    }
    expect(liesWithin(leftOver(beside, supply).offcuts[0].rings, 220, 115)).toBe(false)
    const narrow = onRectangle(sampleJob({ picture, widthMm: 40, xMm: 8, yMm: 8 }), { widthMm: 58, heightMm: 48 })
    expect(leftOver(narrow, supply).offcuts).toHaveLength(0)
  })
})

describe('the line that cuts the rest off', () => {
  it('leaves the larger side, so far from what is burned, and reaches from edge to edge', () => {
    const line = cutOffLine(job, supply, 4)
    const made = ringsBounds(shapeOfJob(job, supply))
    expect(line?.lines).toHaveLength(1)
    const [x0, y0, x1, y1] = line!.lines[0]
    expect(x0).toBe(x1)
    expect([Math.min(y0, y1), Math.max(y0, y1)]).toEqual([0, 200])
    expect(x0 - made.x1).toBeGreaterThan(3.9)
    expect(x0 - made.x1).toBeLessThan(4.3)
    expect(line!.savedMm2).toBeCloseTo((300 - x0) * 200, 0)
  })

  it('parts where the edge of a piece does, and is none where nothing would be left', () => {
    const bitten = withPiece(job, {
      outline: { kind: 'rings', rings: [[0, 0, 300, 0, 300, 80, 40, 80, 40, 120, 300, 120, 300, 200, 0, 200]] },
    })
    expect(cutOffLine(bitten, supply, 4)?.lines).toHaveLength(2)
    const full = onRectangle(sampleJob({ picture, widthMm: 40, xMm: 5, yMm: 5 }), { widthMm: 52, heightMm: 44 })
    expect(cutOffLine(full, supply, 10)).toBeUndefined()
    expect(cutOffLine({ ...job, order: [] }, supply, 4)).toBeUndefined()
  })
})

describe('pieces of stock for a job', () => {
  const stock = [
    piece('sheet', rect(600, 400)),
    piece('small', rect(40, 30)),
    piece('offcut', rect(80, 60)),
    piece('thick', rect(80, 60), { thicknessMm: 6 }),
    piece('other', rect(80, 60), { material: 'oak' }),
    // As large as the offcut, but with a hole right where anything would lie.
    piece('holed', {
      kind: 'rings',
      rings: [
        [0, 0, 80, 0, 80, 60, 0, 60],
        [15, 15, 65, 15, 65, 45, 15, 45],
      ],
    }),
    piece('clamped', rect(80, 60), {
      keepOuts: { clamp: { name: 'clamp', outline: rect(60, 40), pose: { xMm: 10, yMm: 10 } } },
    }),
  ]

  it('are those of its kind that take it, the least waste first, on their true outlines', () => {
    expect(whichFit(job, supply, stock, 2).map(({ piece: { id } }) => id)).toEqual(['offcut', 'sheet'])
    expect(whichFit(job, supply, stock, 15).map(({ piece: { id } }) => id)).toEqual(['sheet'])
  })

  it('take it turned where it fits no other way, and along the grain where there is one', () => {
    const upright = piece('upright', rect(42, 90))
    const [found] = whichFit(job, supply, [upright], 2)
    expect(Math.abs(found.fit.angleDeg) % 180).toBe(90)
    const grained = withPiece(job, { grainDeg: 0 })
    expect(whichFit(grained, supply, [{ ...upright, grainDeg: 0 }], 2)).toHaveLength(0)
    expect(whichFit(grained, supply, [{ ...upright, grainDeg: 90 }], 2)).toHaveLength(1)
  })

  it('become its workpiece, with all that lay on it in the same order to each other, within the margin', () => {
    const odd = piece('odd', { kind: 'rings', rings: [[0, 0, 120, 20, 100, 90, 30, 70]] }, { grainDeg: 12 })
    const [found] = whichFit(job, supply, [odd], 3)
    const laid = ontoStock(job, supply, found)
    expect(() => checkJob(laid)).not.toThrow()
    expect(mainPiece(laid)).toMatchObject({ name: 'odd', stock: { id: 'odd', cents: 1000 }, grainDeg: 12 })
    const over = combine('subtract', shapeOfJob(laid, supply), offset(outlineOfFace(mainPiece(laid).outline), -2.98))
    expect(shapeArea(over)).toBeLessThan(0.05)
    expect(placeOf(laid, 'source').widthMm).toBe(40)
  })
})

describe('cost', () => {
  it('is material by what is used of it, and time at the shop’s rates', () => {
    const worked = { pieceCents: 2400, usedShare: 0.25, machineSeconds: 1800, handMinutes: 10 }
    expect(costOf(worked, FIRST_RATES)).toEqual({ materialCents: 600, machineCents: 1500, handCents: 1000, totalCents: 3100 })
  })

  it('of a round thing is that of its true area', () => {
    expect(outlineArea({ kind: 'circle', diameterMm: 100 })).toBeCloseTo(Math.PI * 2500, -1)
  })
})
