import { describe, expect, it } from 'vitest'
import { shapeArea } from '../geometry/clip.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { type JobDocument, sourceOf, usesOf } from '../job/document/document.ts'
import { cleanReports, grownRings, kerfRings, outlineLines, outlineRings } from '../lineage/evaluate.ts'
import { measureJob } from '../plan/plan.ts'
import { checkJob } from '../reading/check-job.ts'
import { burning, greyPicture, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { moved, resized } from './change.ts'
import {
  cleanerOf,
  othersFor,
  withCombination,
  withOffset,
  withOutlineStep,
  withoutOutlineStep,
  withStepChanged,
  withStepMoved,
} from './outline-edits.ts'

/** A square of 60 px with a speck beside it, on 100 px of 40 mm. */
const picture = greyPicture(100, 100, (x, y) =>
  (x >= 20 && x < 80 && y >= 20 && y < 80) || (x >= 90 && x < 93 && y >= 90 && y < 93) ? 0 : 255,
)
const job = sampleJob({ picture, widthMm: 40 })
const supply = supplyWith(picture)
const erase = { kind: 'erase', on: true, x: 0.85, y: 0.85, width: 0.15, height: 0.15, touched: false } as const
const clean = withOutlineStep(job, 'edge', erase, { step: 's1', node: 'c1' })

describe('clean-up in a job', () => {
  it('stands between the outline and what is made from it', () => {
    checkJob(clean)
    expect(clean.nodes.around).toMatchObject({ from: 'c1' })
    expect(outlineRings(job, 'edge', supply)).toHaveLength(2)
    expect(outlineRings(clean, 'c1', supply)).toHaveLength(1)
    expect(outlineRings(clean, 'around', supply)).toHaveLength(1)
    expect(cleanReports(clean, 'c1', supply).s1.removed).toBe(1)
    expect(usesOf(clean, 'c1')).toEqual(['cut'])
  })

  it('keeps its places when the artwork is moved and sized', () => {
    const box = { x0: 0, y0: 0, x1: 40, y1: 40 }
    const large = resized(moved(clean, 'c1', 30, 12), 'dots', box, { widthMm: 90 }, { anchorX: 0, anchorY: 0, keepRatio: true })
    expect(outlineRings(large, 'c1', supply)).toHaveLength(1)
  })

  it('steps are added, changed, moved and taken out; with the last one the node goes', () => {
    const two = withOutlineStep(clean, 'edge', { kind: 'simplify', on: true, toleranceMm: 0.05 }, { step: 's2', node: 'unused' })
    expect(Object.keys(two.nodes)).toEqual(Object.keys(clean.nodes))
    expect(cleanerOf(two, 'edge')).toBe('c1')
    expect(withStepMoved(two, 'c1', 's2', 0).nodes.c1).toMatchObject({ order: ['s2', 's1'] })
    expect(outlineRings(withStepChanged(two, 'c1', 's1', { on: false }), 'c1', supply)).toHaveLength(2)
    const none = withoutOutlineStep(withoutOutlineStep(two, 'c1', 's1'), 'c1', 's2')
    expect(none).toEqual(job)
  })

  it('lines that are left open are followed as they are, and outlines keep their kerf', () => {
    const gone = { kind: 'stretch', on: true, from: { x: 0.3, y: 0.2 }, to: { x: 0.5, y: 0.2 }, as: 'gone' } as const
    const open = withOutlineStep(
      { ...job, operations: { ...job.operations, cut: { ...job.operations.cut, of: ['edge'] } } },
      'edge',
      gone,
      { step: 's', node: 'c' },
    )
    checkJob(open)
    expect(open.operations.cut.of[0]).toBe('c')
    const lines = outlineLines(open, 'c', supply)
    expect(lines).toHaveLength(1)
    expect(kerfRings(open, 'c', 0.1, supply)).toHaveLength(1)
    // The band of the open line, and the speck grown.
    expect(grownRings(open, 'c', 0.1, supply)).toHaveLength(2)
    const { burnMm } = measureJob(burning(open, 'cut'), supply)
    // 96 mm less 8 mm, and around the speck of 1.2 mm.
    expect(burnMm).toBeGreaterThan(92)
    expect(burnMm).toBeLessThan(95)
  })
})

describe('offsets and combinations in a job', () => {
  const hole = withOffset(job, 'edge', -5, 'inner')

  it('are artwork of their own, which follows its source', () => {
    expect(hole.nodes.inner.name).toBe('edge − 5 mm')
    checkJob(hole)
    const ring = withCombination(hole, 'edge', 'inner', 'subtract', 'ring')
    expect(ring.nodes.around).toMatchObject({ from: 'ring' })
    expect(sourceOf(ring, 'ring')).toBe('source')
  })

  it('subtract what was offset inwards: a frame', () => {
    const framed: JobDocument = {
      ...hole,
      nodes: { ...hole.nodes, frame: { kind: 'combine', name: 'frame', from: 'edge', with: 'inner', op: 'subtract' } },
    }
    checkJob(framed)
    // A square of 24 mm and one of 14 mm within, and the speck of 1.2 mm.
    expect(shapeArea(outlineRings(framed, 'frame', supply))).toBeCloseTo(24 ** 2 - 14 ** 2 + 1.2 ** 2, 0)
    expect(usesOf(burning({ ...framed, operations: { cut: { ...job.operations.cut, of: ['frame'] } } }, 'cut'), 'inner')).toEqual(
      ['cut'],
    )
  })

  it('of artwork that lies elsewhere are made where both lie', () => {
    const two: JobDocument = {
      ...job,
      nodes: {
        ...job.nodes,
        other: job.nodes.source,
        shape: { ...job.nodes.edge, from: 'other' } as never,
        both: { kind: 'combine', name: 'both', from: 'edge', with: 'shape', op: 'union' },
      },
      placements: { ...job.placements, other: { ...job.placements.source, of: 'other', xMm: job.placements.source.xMm + 60 } },
    }
    checkJob(two)
    const box = ringsBounds(outlineRings(two, 'both', supply))
    const alone = ringsBounds(outlineRings(two, 'edge', supply))
    expect(box.x1 - alone.x1).toBeCloseTo(60, 3)
    expect(box.x0).toBeCloseTo(alone.x0, 3)
  })

  it('are refused where they come from themselves or from what has no outline', () => {
    const loop = {
      ...hole,
      nodes: { ...hole.nodes, edge2: { kind: 'combine', name: 'x', from: 'edge', with: 'edge2', op: 'union' } },
    }
    expect(() => checkJob(loop)).toThrow(/comes from itself/)
    const wrong = {
      ...hole,
      nodes: { ...hole.nodes, edge2: { kind: 'combine', name: 'x', from: 'edge', with: 'dots', op: 'union' } },
    }
    expect(() => checkJob(wrong)).toThrow(/no outline/)
    expect(othersFor(hole, 'edge')).toEqual([])
    expect(othersFor(hole, 'inner')).toEqual(['edge', 'around'])
  })
})
