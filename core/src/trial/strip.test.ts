import { describe, expect, it } from 'vitest'
import { ringsBounds } from '../geometry/ring.ts'
import { placesOf } from '../job/document/document.ts'
import { assetsSupply } from '../lineage/assets-supply.ts'
import { outlineRings } from '../lineage/evaluate.ts'
import { recordJob } from '../plan/record.ts'
import { checkJob } from '../reading/check-job.ts'
import { greyPicture, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { hardestOfLines, hardestOfPicture } from './hardest-patch.ts'
import { stripAround } from './strip.ts'

/** A calm picture with a fine, grey weave in one place. */
const picture = greyPicture(240, 160, (x, y) =>
  x > 150 && x < 200 && y > 30 && y < 80 ? 90 + 70 * ((x + y) % 2) : 250 - Math.round((40 * x) / 240),
)
const job = sampleJob({ picture, widthMm: 90 })
const supply = supplyWith(picture)
const [engrave] = Object.keys(job.operations).filter((id) => 'intervalMm' in job.operations[id])
const [cut] = Object.keys(job.operations).filter((id) => 'kerfMm' in job.operations[id])

describe('the hardest patch', () => {
  it('of a picture is where its detail is finest', () => {
    const { x, y, width, height } = hardestOfPicture(picture, 40, 40)
    expect([width, height]).toEqual([40, 40])
    expect(x).toBeGreaterThan(140)
    expect(x + width).toBeLessThan(210)
    expect(y).toBeGreaterThan(20)
    expect(y + height).toBeLessThan(90)
    // No larger than the picture itself.
    expect(hardestOfPicture(picture, 900, 900)).toEqual({ x: 0, y: 0, width: 240, height: 160 })
  })

  it('of lines is where they turn most', () => {
    const calm = Float64Array.of(0, 0, 80, 0, 80, 60)
    const zigzag = Float64Array.from({ length: 80 }, (_, i) => (i % 2 ? 40 + ((i >> 1) % 2) : 10 + (i >> 1) * 0.25))
    const patch = hardestOfLines([calm, zigzag], 12, 12)!
    expect(patch.x).toBeLessThan(10)
    expect(patch.x + patch.width).toBeGreaterThan(19)
    expect(patch.y).toBeLessThan(40.01)
    expect(patch.y + patch.height).toBeGreaterThan(40.9)
    expect(hardestOfLines([], 10, 10)).toBeUndefined()
  })
})

describe('a strip of this artwork', () => {
  it('repeats its hardest patch with three powers and three speeds, treated as it is', () => {
    const { job: strip, patch, assets } = stripAround(job, engrave, supply)
    expect(assets.size).toBeGreaterThan(0)
    expect(checkJob(JSON.parse(JSON.stringify(strip))).trial!.cells['cell-3-3']).toEqual({ column: 2, row: 2 })
    expect(placesOf(strip, 'source')).toHaveLength(9)
    const { across, down } = strip.trial!
    const { power, speedMmS } = job.operations[engrave]
    expect(across.values[1]).toBeCloseTo(power, 3)
    expect(down!.values[1]).toBeCloseTo(speedMmS, 1)
    // The weave lies in it, as large as it is on the piece.
    const { xMm, widthMm } = job.placements.source
    expect(patch.x).toBeGreaterThan(xMm + 0.55 * widthMm)
    expect(patch.width).toBeCloseTo(15, 0)
    expect(strip.placements['cell-1-1'].widthMm).toBeCloseTo(patch.width, 2)
    const own = Object.values(strip.nodes).find(({ kind }) => kind === 'picture')
    const { clip: _, ...treated } = Object.values(job.nodes).find(({ kind }) => kind === 'picture') as { clip?: unknown }
    expect(own).toEqual({ ...treated, from: 'source' })
    const all = { ...supply, drawing: assetsSupply((name) => assets.get(name)).drawing } as typeof supply
    expect(recordJob(strip, all).report.operations.length).toBeGreaterThan(9)
  })

  it('of outlines is what of them lies in the patch, cut open at its edge', () => {
    const { job: strip, patch, assets } = stripAround(job, cut, supply)
    const files = assetsSupply((name) => assets.get(name))
    const [node] = strip.operations['cell-1-1'].of
    const { x0, y0, x1, y1 } = ringsBounds(outlineRings(strip, node, files, 'cell-1-1'))
    expect(x1 - x0).toBeLessThanOrEqual(patch.width + 0.01)
    expect(y1 - y0).toBeLessThanOrEqual(patch.height + 0.01)
    expect(strip.operations['cell-2-2']).toMatchObject({ process: 'cut', at: ['cell-2-2'] })
    expect(recordJob(strip, files).report.operations.filter(({ burnMm }) => burnMm > 0).length).toBeGreaterThanOrEqual(9)
  })

  it('goes along other settings where they are chosen', () => {
    const { job: strip } = stripAround(job, engrave, supply, { across: { setting: 'passes', values: [1, 2] } })
    expect(Object.keys(strip.trial!.cells)).toEqual(['cell-1-1', 'cell-1-2'])
    expect(strip.operations['cell-1-2'].passes).toBe(2)
    expect(() => stripAround(job, 'none', supply)).toThrow('nothing to try')
  })
})
