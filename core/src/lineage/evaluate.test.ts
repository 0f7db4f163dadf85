import { describe, expect, it, vi } from 'vitest'
import { moved, resized, withNode, withOperation } from '../edits/change.ts'
import { shapeArea } from '../geometry/clip.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { burnOrder } from '../job/document/document.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import * as tracing from '../outline/trace.ts'
import { propose, type SourceFacts } from '../proposals/proposals.ts'
import { checkJob } from '../reading/check-job.ts'
import { greyPicture, marksOf, sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { ResultCache } from './cache.ts'
import { grownRings, outlinePaths, outlineRings } from './evaluate.ts'
import { outlineFacts } from './outline-numbers.ts'

const picture = squarePicture(60, 20)
const job = sampleJob({ picture })

describe('lineage', () => {
  it('keeps outline and offset in register with the picture, wherever it is and however large', () => {
    const supply = supplyWith(picture)
    const check = (j: typeof job): void => {
      const { xMm, yMm, widthMm } = j.placements.source
      const px = widthMm / 100
      const edge = ringsBounds(outlineRings(j, 'edge', supply))
      expect(edge.x0).toBeCloseTo(xMm + 20 * px, 2)
      expect(edge.y1).toBeCloseTo(yMm + 80 * px, 2)
      const around = ringsBounds(outlineRings(j, 'around', supply))
      expect(around.x0).toBeCloseTo(xMm + 20 * px - 3, 2)
      expect(around.x1).toBeCloseTo(xMm + 80 * px + 3, 2)
    }
    check(job)
    check(moved(job, 'source', 13.37, -8))
    check(
      resized(job, 'dots', { x0: 100, y0: 50, x1: 140, y1: 90 }, { widthMm: 91 }, { anchorX: 0, anchorY: 1, keepRatio: true }),
    )
  })

  it('works nothing out again that did not change', () => {
    const traced = vi.spyOn(tracing, 'trace')
    const supply = supplyWith(picture)
    outlineRings(job, 'around', supply)
    outlineRings(moved(job, 'source', 5, 5), 'around', supply)
    outlineRings(withNode(job, 'around', { distanceMm: 7 }), 'around', supply)
    outlineRings(withOperation(job, 'cut', { power: 0.1 }), 'around', supply)
    expect(traced).toHaveBeenCalledTimes(1)
    outlineRings(withNode(job, 'edge', { threshold: 0.6 }), 'around', supply)
    expect(traced).toHaveBeenCalledTimes(2)
    traced.mockRestore()
  })

  it('traces a zone of the picture only, in its place, and counts what came of it', () => {
    const supply = supplyWith(picture)
    const zoned = {
      ...job,
      nodes: { ...job.nodes, edge: { ...job.nodes.edge, zone: { x: 0, y: 0, width: 0.5, height: 1 } } as never },
    }
    const whole = ringsBounds(outlineRings(job, 'edge', supply))
    const half = ringsBounds(outlineRings(zoned, 'edge', supply))
    const { xMm, widthMm } = job.placements.source
    expect(half.x0).toBeCloseTo(whole.x0, 2)
    expect(half.x1).toBeLessThanOrEqual(xMm + widthMm / 2 + 0.2)
    const numbers = outlineFacts(zoned, 'edge', supply)
    expect(numbers).toMatchObject({ paths: 1, nodes: 4 })
    expect(numbers.smallestMm ** 2).toBeCloseTo((half.x1 - half.x0) * (half.y1 - half.y0), 0)
    expect(checkJob(zoned).nodes.edge).toMatchObject({ zone: { width: 0.5 } })
  })

  it('grows outlines for kerfs and gives traces as curves', () => {
    const supply = supplyWith(picture)
    expect(shapeArea(grownRings(job, 'around', 0, supply))).toBeLessThan(shapeArea(grownRings(job, 'around', 0.1, supply)))
    expect(outlinePaths(job, 'edge', supply)[0].kinds).toHaveLength(4)
    expect(outlinePaths(job, 'around', supply)).toHaveLength(1)
    expect(() => outlineRings(job, 'dots', supply)).toThrow('no outline')
  })

  it('prepares dots at the interval of the operation', () => {
    const marks = marksOf(job, job.operations.engrave as never, supplyWith(picture))
    expect([marks.columns, marks.rows]).toEqual([200, 200])
    expect(marks.wantedTone).toBeCloseTo(0.36, 3)
    expect(marks.coverage).toBeCloseTo(0.36, 1)
  })
})

describe('ResultCache', () => {
  it('forgets what was not used for longest when it is full', () => {
    const cache = new ResultCache(30)
    const made: string[] = []
    const get = (key: string): string =>
      cache.get(
        key,
        () => {
          made.push(key)
          return key
        },
        () => 10,
      )
    for (const key of ['a', 'b', 'c', 'a', 'd', 'a', 'b']) get(key)
    expect(made).toEqual(['a', 'b', 'c', 'd', 'b'])
  })
})

describe('propose', () => {
  const settings = {
    workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 },
    material: MATERIALS[0],
    machine: MACHINES[0],
  }
  const facts: SourceFacts = { name: 'tide_gauge.png', asset: 'b'.repeat(64), widthPx: 100, heightPx: 100, hasAlpha: false }

  it('makes jobs that hold together, centred, with the recipe of the material, cut last', () => {
    const supply = supplyWith(picture)
    const proposals = propose(facts, picture, settings, supply)
    expect(proposals.map(({ id }) => id)).toEqual([
      'engrave',
      'engrave-cut-around',
      'cut-shape',
      'fill-shape',
      'engrave-cut-elsewhere',
    ])
    for (const { job: made } of proposals) {
      expect(checkJob(made)).toEqual(made)
      expect(made.name).toBe('tide gauge')
      const last = made.operations[burnOrder(made)[burnOrder(made).length - 1]]
      const box =
        last.process === 'cut'
          ? ringsBounds(outlineRings(made, last.of[0], supply))
          : ringsBounds(outlineRings(proposals[1].job, 'edge', supply))
      expect((box.x0 + box.x1) / 2).toBeCloseTo(150, 0)
      expect((box.y0 + box.y1) / 2).toBeCloseTo(100, 0)
    }
    expect(burnOrder(proposals[1].job)).toEqual(['engrave', 'cut'])
    expect(proposals[1].job.operations.cut).toMatchObject({ power: 0.68, speedMmS: 12, recipe: 'birch-ply-3-cut' })
  })

  it('uses transparency where there is any, and the whole picture where its border is dark', () => {
    const alpha = Uint8Array.from(picture.samples, (v) => 255 - v)
    const see = propose({ ...facts, hasAlpha: true }, { ...picture, alpha }, settings, supplyWith({ ...picture, alpha }))
    expect(see[1].job.nodes.edge).toMatchObject({ channel: 'alpha' })
    const dark = greyPicture(100, 100, (x) => 60 + x)
    const around = propose(facts, dark, settings, supplyWith(dark))[1]
    expect(around.detail).toBe('around the whole picture')
    const box = ringsBounds(outlineRings(around.job, 'edge', supplyWith(dark)))
    expect(box.x1 - box.x0).toBeCloseTo(around.job.placements.source.widthMm, 1)
  })

  it('keeps a size that the file tells, takes one that is asked for, and warns of settings nobody tried', () => {
    const supply = supplyWith(picture)
    const own = propose({ ...facts, pixelsPerMm: 5 }, picture, settings, supply)[0]
    expect(own.job.placements.source.widthMm).toBe(20)
    const asked = propose(facts, picture, { ...settings, size: { heightMm: 61 } }, supply)[0]
    expect(asked.job.placements.source).toMatchObject({ widthMm: 61, heightMm: 61 })
    const untried = propose(facts, picture, { ...settings, material: MATERIALS[1], machine: MACHINES[1] }, supply)[2]
    expect(untried.job.operations.cut.recipe).toBeUndefined()
  })
})
