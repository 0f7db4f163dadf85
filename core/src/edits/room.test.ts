// What is added lands where there is room: never over what is there, beyond the edge, or on a keep-out.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Bounds } from '../geometry/bounds.ts'
import type { PieceOutline } from '../job/document/workpiece.ts'
import { ResultCache } from '../lineage/cache.ts'
import { greyPicture, sampleJob } from '../testing/sample-job.ts'
import { withArtwork } from './add-artwork.ts'
import { roomAmong, roomFor } from './room.ts'
import { isUndecided, undecided } from './undecided.ts'

const rect = (widthMm: number, heightMm: number): PieceOutline => ({ kind: 'rect', widthMm, heightMm })
const apart = (a: Bounds, b: Bounds, gap: number): boolean =>
  a.x1 + gap <= b.x0 + 1e-6 || b.x1 + gap <= a.x0 + 1e-6 || a.y1 + gap <= b.y0 + 1e-6 || b.y1 + gap <= a.y0 + 1e-6
const boxAt = (at: { xMm: number; yMm: number }, w: number, h: number): Bounds => ({
  x0: at.xMm,
  y0: at.yMm,
  x1: at.xMm + w,
  y1: at.yMm + h,
})

describe('room on a face', () => {
  it('is the middle where nothing lies there', () => {
    const at = roomFor({ outline: rect(300, 200), keepOuts: {} }, [], { widthMm: 80, heightMm: 40 })!
    expect(at).toEqual({ xMm: 110, yMm: 80 })
  })

  it('keeps its distance from everything, whatever lies there', () => {
    const box = fc
      .tuple(
        fc.integer({ min: 0, max: 280 }),
        fc.integer({ min: 0, max: 180 }),
        fc.integer({ min: 3, max: 90 }),
        fc.integer({ min: 3, max: 90 }),
      )
      .map(([x, y, w, h]): Bounds => ({ x0: x, y0: y, x1: x + w, y1: y + h }))
    let found = 0
    fc.assert(
      fc.property(
        fc.array(box, { maxLength: 6 }),
        fc.integer({ min: 5, max: 120 }),
        fc.integer({ min: 5, max: 120 }),
        (taken, w, h) => {
          const at = roomFor({ outline: rect(300, 200), keepOuts: {} }, taken, { widthMm: w, heightMm: h })
          if (!at) return
          found++
          const own = boxAt(at, w, h)
          expect(own.x0).toBeGreaterThanOrEqual(4 - 1e-6)
          expect(own.y0).toBeGreaterThanOrEqual(4 - 1e-6)
          expect(own.x1).toBeLessThanOrEqual(296 + 1e-6)
          expect(own.y1).toBeLessThanOrEqual(196 + 1e-6)
          for (const each of taken) expect(apart(own, each, 4)).toBe(true)
        },
      ),
      { numRuns: 200 },
    )
    expect(found).toBeGreaterThan(80)
  })

  it('is found in the last free corner, and told to be none where there is none', () => {
    const taken = [
      { x0: 0, y0: 0, x1: 200, y1: 200 },
      { x0: 200, y0: 0, x1: 300, y1: 120 },
    ]
    const piece = { outline: rect(300, 200), keepOuts: {} }
    const at = roomFor(piece, taken, { widthMm: 80, heightMm: 60 })!
    expect(at.xMm).toBeGreaterThan(204)
    expect(at.yMm).toBeGreaterThan(124)
    expect(roomFor(piece, taken, { widthMm: 110, heightMm: 60 })).toBeUndefined()
    expect(roomFor(piece, [], { widthMm: 400, heightMm: 10 })).toBeUndefined()
  })

  it('lies inside of a round face, out of its holes, and not on a clamp', () => {
    const round = roomFor({ outline: { kind: 'circle', diameterMm: 100 }, keepOuts: {} }, [], { widthMm: 60, heightMm: 60 })!
    for (const [x, y] of [
      [0, 0],
      [60, 0],
      [60, 60],
      [0, 60],
    ])
      expect(Math.hypot(round.xMm + x - 50, round.yMm + y - 50)).toBeLessThan(50)
    expect(
      roomFor({ outline: { kind: 'circle', diameterMm: 100 }, keepOuts: {} }, [], { widthMm: 75, heightMm: 75 }),
    ).toBeUndefined()
    const clamp = { name: 'clamp', outline: rect(60, 100), pose: { xMm: 20, yMm: 0 } }
    const beside = roomFor({ outline: rect(200, 100), keepOuts: { clamp } }, [], { widthMm: 40, heightMm: 40 })!
    expect(beside.xMm).toBeGreaterThanOrEqual(84)
  })
})

describe('artwork that is added to a job', () => {
  const picture = greyPicture(20, 20, () => 0)
  const supply = { cache: new ResultCache(), picture: () => picture }
  const job = sampleJob({ picture })
  const { widthMm, heightMm } = job.placements.source

  it('lands beside what is there, its cut around it too', () => {
    const room = roomAmong(job, job, supply, false)!
    const { xMm, yMm } = job.placements.source
    const moved = { ...job, placements: { source: { ...job.placements.source, xMm: xMm + room.dxMm, yMm: yMm + room.dyMm } } }
    const both = withArtwork(job, moved, 'n2')
    const [a, b] = Object.values(both.placements).map((place) => boxAt(place, widthMm, heightMm))
    expect(apart(a, b, 4)).toBe(true)
    expect(room.scale).toBe(1)
  })

  it('may be smaller where nobody said its size, and else has no room where there is none', () => {
    const wide = sampleJob({ picture, widthMm: 130, xMm: 85, yMm: 35 })
    expect(roomAmong(wide, wide, supply, false)).toBeUndefined()
    expect(roomAmong(wide, wide, supply, true)!.scale).toBe(0.5)
  })

  it('can wait until somebody decides what becomes of it', () => {
    const later = undecided(job)
    expect(Object.keys(later.nodes)).toEqual(['source'])
    expect(later.placements).toEqual(job.placements)
    expect([later.operations, later.order, later.steps]).toEqual([{}, [], {}])
    expect([isUndecided(later, 'source'), isUndecided(job, 'source'), isUndecided(job, 'edge')]).toEqual([true, false, false])
  })
})
