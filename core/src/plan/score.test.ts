import { describe, expect, it } from 'vitest'
import { shapeArea } from '../geometry/clip.ts'
import { ringsBounds } from '../geometry/ring.ts'
import type { JobDocument } from '../job/document/document.ts'
import { grownRings, outlineLines, outlineRings } from '../lineage/evaluate.ts'
import { outlineFacts } from '../lineage/outline-numbers.ts'
import type { CutOperation } from '../process/cut/settings.ts'
import { checkJob } from '../reading/check-job.ts'
import { forecastScene } from '../scene/scene.ts'
import { burning, greyPicture, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { measureJob } from './plan.ts'

/** A straight stroke, 8 px wide with round ends, from (20, 50) to (80, 50) in 100 × 100 px. */
const picture = greyPicture(100, 100, (x, y) => {
  const away = Math.hypot(Math.max(0, 20 - x - 0.5, x + 0.5 - 80), y + 0.5 - 50)
  return Math.round(255 * Math.min(1, Math.max(0, away - 3.5)))
})
const supply = supplyWith(picture)
const sample = sampleJob({ picture, widthMm: 50 })
const scored = (change: Partial<CutOperation> = {}): JobDocument =>
  checkJob({
    ...burning(sample, 'cut'),
    nodes: { ...sample.nodes, edge: { ...sample.nodes.edge, mode: 'centreline' } as never },
    operations: { cut: { ...(sample.operations.cut as CutOperation), of: ['edge'], passes: 1, ...change } },
  })

describe('lines that are scored', () => {
  it('are followed once, in the middle of the stroke, from end to end', () => {
    const job = scored()
    const { xMm, yMm } = job.placements.source
    const [line, ...more] = outlineLines(job, 'edge', supply)
    expect(more).toEqual([])
    const box = ringsBounds([line])
    expect(box.y0).toBeCloseTo(yMm + 25, 1)
    expect(box.y1).toBeCloseTo(yMm + 25, 1)
    expect(Math.abs(box.x0 - xMm - 10)).toBeLessThan(1)
    const { burnMm, operations } = measureJob(job, supply)
    expect(burnMm).toBeCloseTo(box.x1 - box.x0, 1)
    expect(operations).toHaveLength(1)
    expect(measureJob(scored({ passes: 3 }), supply).burnMm).toBeCloseTo(3 * burnMm, 1)
  })

  it('are told with their strokes, and grow into bands with round ends', () => {
    const job = scored()
    const numbers = outlineFacts(job, 'edge', supply)
    expect(numbers.paths).toBe(1)
    expect(numbers.smallestMm).toBeCloseTo(4, 0)
    const length = numbers.lengthMm
    expect(shapeArea(grownRings(job, 'edge', 2, supply))).toBeCloseTo(2 * length + Math.PI, 0)
    expect(grownRings(job, 'edge', -1, supply)).toEqual([])
    expect(shapeArea(outlineRings(job, 'edge', supply))).toBeCloseTo(0, 6)
    const around = { ...job.nodes.around, from: 'edge', distanceMm: 3 } as never
    const grown = outlineRings({ ...job, nodes: { ...job.nodes, around } }, 'around', supply)
    expect(shapeArea(grown)).toBeCloseTo(6 * length + Math.PI * 9, 0)
  })

  it('show as marks where their dose only marks, and as cuts where it cuts', () => {
    const layer = (job: JobDocument) => {
      const [only] = forecastScene(job, supply).layers
      if (only.kind !== 'kerf') throw new Error()
      return only
    }
    const light = layer(scored({ power: 0.05, speedMmS: 100 }))
    expect([light.kerf.length, light.rim.length]).toEqual([0, 1])
    expect(layer(scored({ power: 1, speedMmS: 5 })).kerf).toHaveLength(1)
  })
})
