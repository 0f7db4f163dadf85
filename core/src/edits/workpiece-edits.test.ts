import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Ring } from '../geometry/ring.ts'
import type { JobDocument } from '../job/document/document.ts'
import { chartOf } from '../job/document/pieces.ts'
import { faceSize, outlineOfFace } from '../job/document/workpiece.ts'
import { checkJob } from '../reading/check-job.ts'
import { mapped } from '../space/affine.ts'
import { onRectangle, sampleJob, squarePicture } from '../testing/sample-job.ts'
import { faceEdge, upright, withFaceOf, withShape, withShapeAround } from './workpiece-edits.ts'

const sample = sampleJob({ picture: squarePicture(60, 20), widthMm: 40, xMm: 100, yMm: 60 })
const lying = (deg: number): JobDocument => onRectangle(sample, { xMm: 120, yMm: 80, deg })
const angle = fc.integer({ min: -1800, max: 1800 }).map((tenths) => tenths / 10)

/** Where the corner of the artwork's box lies on the bed, mm. */
const onBed = (job: JobDocument): readonly [number, number] => {
  const { xMm, yMm } = job.placements.source
  return mapped(chartOf(job).toAxes, xMm, yMm)
}
const near = (a: readonly [number, number], b: readonly [number, number]): void => {
  expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(0.005)
}

describe('a workpiece that gets another edge', () => {
  it('keeps where its corner lies, and the artwork its place from there', () => {
    fc.assert(
      fc.property(angle, (deg) => {
        const job = lying(deg)
        const circle = withShape(job, { kind: 'circle', diameterMm: 180 })
        near(onBed(circle), onBed(job))
        expect(circle.placements).toEqual(job.placements)
        expect(checkJob(circle)).toEqual(circle)
      }),
    )
  })

  it('around the same middle leaves all that lies on it where it is on the bed', () => {
    fc.assert(
      fc.property(angle, (deg) => {
        const job = lying(deg)
        const round = withShapeAround(job, { kind: 'circle', diameterMm: 190 })
        near(onBed(round), onBed(job))
        expect(faceSize(round.workpieces.piece)).toEqual({ widthMm: 190, heightMm: 190 })
      }),
    )
  })

  it('from an outline on it lies where that outline lay, and so does the artwork', () => {
    const drop = Float64Array.of(90, 50, 160, 50, 190, 90, 160, 130, 90, 130)
    fc.assert(
      fc.property(angle, (deg) => {
        const job = lying(deg)
        const cut = withFaceOf(job, [drop])
        near(onBed(cut), onBed(job))
        const edge = outlineOfFace(cut.workpieces.piece.outline)[0]
        const corner = (of: JobDocument, ring: Ring): readonly [number, number] => mapped(chartOf(of).toAxes, ring[0], ring[1])
        const corners = Array.from({ length: edge.length / 2 }, (_, i) =>
          mapped(chartOf(cut).toAxes, edge[2 * i], edge[2 * i + 1]),
        )
        const [x, y] = corner(job, drop)
        expect(Math.min(...corners.map(([u, v]) => Math.hypot(u - x, v - y)))).toBeLessThan(0.01)
        expect(checkJob(cut)).toEqual(cut)
      }),
    )
  })
})

describe('an edge from polygons', () => {
  const square = (x: number, y: number, side: number): Ring => Float64Array.of(x, y, x + side, y, x + side, y + side, x, y + side)

  it('is what they enclose by even-odd, without doubled corners', () => {
    const edge = faceEdge([square(0, 0, 100), square(40, 40, 20)])
    expect(edge).toHaveLength(2)
    const dense = Float64Array.from({ length: 800 }, (_, i) => {
      const t = ((i >> 1) / 400) * 2 * Math.PI
      return 50 + 40 * (i % 2 === 0 ? Math.cos(t) : Math.sin(t))
    })
    const [circle] = faceEdge([dense])
    expect(circle.length / 2).toBeLessThan(160)
    // Chords lie within 0.02 mm of it.
    for (let i = 0; i < circle.length; i += 2)
      expect(Math.abs(Math.hypot(circle[i] - 50, circle[i + 1] - 50) - 40)).toBeLessThan(0.03)
  })

  it('is refused with a sentence where nothing is enclosed, or nobody could cut it', () => {
    expect(() => faceEdge([])).toThrow('encloses nothing')
    expect(() => faceEdge([Float64Array.of(0, 0, 50, 0, 20, 0)])).toThrow('encloses nothing')
    const burr = Float64Array.from({ length: 40_000 }, (_, i) => {
      const k = i >> 1
      const t = (k / 20_000) * 2 * Math.PI
      return 500 + (400 + (k % 2) * 20) * (i % 2 === 0 ? Math.cos(t) : Math.sin(t))
    })
    expect(() => faceEdge([burr])).toThrow('simplify it first')
  })
})

describe('a job as benches show it', () => {
  it('is upright, whatever it is turned by; one that is upright is itself', () => {
    const job = lying(17)
    const up = upright({ ...job, placements: { source: { ...job.placements.source, deg: 30 } } })
    expect(up.placements).toEqual(job.placements)
    expect(up.workpieces.piece.pose).toEqual({ xMm: 120, yMm: 80 })
    expect(upright(sample)).toBe(sample)
  })
})
