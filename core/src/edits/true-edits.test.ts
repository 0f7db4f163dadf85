import { describe, expect, it } from 'vitest'
import { type Ring, ringsBounds } from '../geometry/ring.ts'
import { type JobDocument, mainPiece } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { outlinePaths, outlineRings } from '../lineage/evaluate.ts'
import { checkJob } from '../reading/check-job.ts'
import { diameterOn, type Round, widestMm } from '../rotary/round-face.ts'
import { ROTARIES } from '../rotary/shipped.ts'
import { fieldOf, marksOf, sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { withArch } from './arch-edits.ts'
import { withRound } from './round-edits.ts'
import { isTrueToFace, withTrueToFace } from './true-edits.ts'

const picture = squarePicture(80, 10)
const supply = supplyWith(picture)

/** A dark square of 32 mm, 40 mm with its white, on a cup of Ø 40 to 60 mm whose side is 60 mm long. */
function cup(): JobDocument {
  const job = withRound(sampleJob({ picture, engrave: { intervalMm: 0.1 } }), ROTARIES.chuck, { leftMm: 40, rightMm: 60 }, 60)
  return { ...job, placements: { source: { ...job.placements.source, xMm: 5, yMm: 60 } } }
}

/** How large what is inside polygons of a face is on the surface itself, mm². */
function onSurface(job: JobDocument, rings: readonly Ring[]): number {
  const surface = mainPiece(job).surface as Round
  let sum = 0
  for (const ring of rings)
    for (let i = 0; i < ring.length; i += 2) {
      const j = (i + 2) % ring.length
      // ∮ y·q(x) dx, by the trapezium of a short side.
      const q = diameterOn(surface, 60, (ring[i] + ring[j]) / 2) / widestMm(surface)
      sum += ((ring[i + 1] + ring[j + 1]) / 2) * q * (ring[j] - ring[i])
    }
  return Math.abs(sum)
}

describe('artwork on a taper', () => {
  it('follows it until it is asked to be true: then its outlines are as large on the surface as they are drawn', () => {
    expect(isTrueToFace(sampleJob({ picture }), 'edge')).toBeUndefined()
    const follows = cup()
    expect(isTrueToFace(follows, 'edge')).toBe(false)
    const job = withTrueToFace(follows, 'edge', true)
    expect(isTrueToFace(job, 'dots')).toBe(true)
    expect(checkJob(JSON.parse(JSON.stringify(job)))).toEqual(job)
    expect(withTrueToFace(job, 'dots', false)).toEqual(follows)

    expect(onSurface(follows, outlineRings(follows, 'edge', supply)) / 32 ** 2).toBeLessThan(0.9)
    expect(onSurface(job, outlineRings(job, 'edge', supply)) / 32 ** 2).toBeCloseTo(1, 3)
    expect(onSurface(job, outlineRings(job, 'around', supply))).toBeCloseTo(38 ** 2 - (4 - Math.PI) * 9, 0)
    // Its sides are bent as they are counted, and its lines are parted for that.
    const [path] = outlinePaths(job, 'edge', supply)
    expect(path.closed).toBe(true)
    expect(path.kinds.length).toBeGreaterThan(20)
    // The middle stays, 20 mm from the left: wider to both sides by the share of its widest place, 60 : 50 at 25 mm.
    const { y0, y1 } = ringsBounds(outlineRings(job, 'edge', supply))
    expect((y0 + y1) / 2).toBeCloseTo(80, 3)
    expect(y1 - y0).toBeGreaterThan(32 * 1.2)
  })

  it('has its dots where its outlines are', () => {
    const job = withTrueToFace(cup(), 'dots', true)
    const engrave = job.operations.engrave as Operation
    const { columns, levels } = marksOf(job, engrave, supply)
    const { x0, y0, pitch, rows } = fieldOf(job, engrave)
    // A pixel is 0.4 mm: edges of a picture are as soft as that.
    const [edge] = outlineRings(job, 'edge', supply)
    const box = ringsBounds([edge])
    const dark: number[] = []
    for (let i = 0; i < levels.length; i++) if (levels[i] > 0) dark.push(i)
    const xs = dark.map((i) => x0 + ((i % columns) + 0.5) * pitch)
    const ys = dark.map((i) => y0 + (Math.floor(i / columns) + 0.5) * pitch)
    expect(levels.length).toBe(columns * rows)
    expect(xs.reduce((a, b) => Math.min(a, b))).toBeGreaterThan(box.x0 - 0.8)
    expect(xs.reduce((a, b) => Math.max(a, b))).toBeLessThan(box.x1 + 0.8)
    expect(Math.abs(ys.reduce((a, b) => Math.min(a, b)) - box.y0)).toBeLessThan(0.8)
    expect(Math.abs(ys.reduce((a, b) => Math.max(a, b)) - box.y1)).toBeLessThan(0.8)
    const area = dark.reduce((sum, _, k) => sum + (diameterOn(mainPiece(job).surface as Round, 60, xs[k]) / 60) * pitch ** 2, 0)
    expect(area / 32 ** 2).toBeCloseTo(1, 2)
  })
})

describe('artwork on a curved face', () => {
  it('is burned narrower beside its crown, by as much as the face falls away', () => {
    const flat = sampleJob({ picture, xMm: 0, yMm: 80 })
    const curved = withArch(flat, { radiusMm: 200, across: 'x' })
    const job = withTrueToFace(curved, 'edge', true)
    const { x0, x1, y0, y1 } = ringsBounds(outlineRings(job, 'edge', supply))
    // Its middle, 20 mm from the left, is 130 mm from the crown: 200 · asin(130 / 200) = 141.5 mm along the face.
    const middle = 200 * Math.asin(130 / 200)
    expect(x0).toBeCloseTo(150 - 200 * Math.sin((middle + 16) / 200), 1)
    expect(x1).toBeCloseTo(150 - 200 * Math.sin((middle - 16) / 200), 1)
    expect(y1 - y0).toBeCloseTo(32, 1)
    expect(isTrueToFace(withArch(job, undefined), 'edge')).toBeUndefined()
  })
})
