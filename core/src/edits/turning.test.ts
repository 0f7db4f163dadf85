import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { JobDocument, Placement } from '../job/document/document.ts'
import { mapped } from '../space/affine.ts'
import { poseMap } from '../space/pose.ts'
import { sampleJob, squarePicture } from '../testing/sample-job.ts'
import { grouped, moved, resized, turnedTo, turnOfPlace } from './change.ts'

const picture = squarePicture(60, 20)
const single = sampleJob({ picture, widthMm: 40, xMm: 100, yMm: 60 })
/** Two pieces of artwork in one group, the second beside the first and half as high. */
const pair: JobDocument = grouped(
  {
    ...single,
    nodes: { ...single.nodes, second: { ...single.nodes.source, name: 'second.png' } },
    placements: {
      ...single.placements,
      second: { of: 'second', on: 'piece', xMm: 160, yMm: 70, widthMm: 30, heightMm: 15, deg: 10 },
    },
  },
  'source',
  'second',
  'both',
)
const angle = fc.double({ min: -720, max: 720, noNaN: true })
const corners = (place: Placement): (readonly [number, number])[] => {
  const map = poseMap(place, place)
  return [
    [0, 0],
    [place.widthMm, 0],
    [0, place.heightMm],
  ].map(([x, y]) => mapped(map, x, y))
}
const distances = (job: JobDocument): number[] => {
  const points = Object.values(job.placements).flatMap(corners)
  return points.flatMap(([x, y], i) => points.slice(i + 1).map(([u, v]) => Math.hypot(x - u, y - v)))
}

describe('turning artwork', () => {
  it('is about its own middle, and says the angle as people read it', () => {
    fc.assert(
      fc.property(angle, (deg) => {
        const place = turnedTo(single, 'source', deg).placements.source
        const { deg: read = 0, ...rest } = place
        expect({ ...rest, deg: undefined }).toEqual({ ...single.placements.source, deg: undefined })
        expect(read).toBeGreaterThan(-180)
        expect(read).toBeLessThanOrEqual(180)
        expect(Math.cos(((read - deg) * Math.PI) / 180)).toBeGreaterThan(1 - 1e-9)
      }),
    )
    expect(turnedTo(turnedTo(single, 'source', 33), 'source', 360)).toEqual(single)
  })

  it('takes its group along as one stiff thing', () => {
    const before = distances(pair)
    fc.assert(
      fc.property(angle, fc.constantFrom('source', 'second'), (deg, id) => {
        const after = distances(turnedTo(pair, id, deg))
        after.forEach((distance, i) => {
          expect(Math.abs(distance - before[i])).toBeLessThan(0.01)
        })
      }),
    )
  })

  it('and moving it, and turning it back, comes back to where it was', () => {
    const there = turnedTo(moved(pair, 'source', 12.5, -3), 'source', 57.3)
    const back = moved(turnedTo(there, 'source', 0), 'source', -12.5, 3)
    for (const [id, place] of Object.entries(pair.placements))
      for (const key of ['xMm', 'yMm', 'widthMm', 'heightMm'] as const)
        expect(Math.abs(back.placements[id][key] - place[key])).toBeLessThan(0.005)
    expect(turnOfPlace(back, 'second')).toBeCloseTo(10, 3)
  })
})

describe('sizes of what is turned', () => {
  const boxOf = (place: Placement) => {
    const [[ax, ay], [bx, by], [cx, cy]] = corners(place)
    const xs = [ax, bx, cx, bx + cx - ax]
    const ys = [ay, by, cy, by + cy - ay]
    return { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) }
  }
  const wide: JobDocument = {
    ...single,
    placements: { source: { ...single.placements.source, widthMm: 40, heightMm: 25 } },
  }

  it.each([90, 180, -90])('by %d° are those that are seen, from the side that stays', (deg) => {
    const job = turnedTo(wide, 'source', deg)
    const box = boxOf(job.placements.source)
    const next = resized(job, 'source', box, { widthMm: 50 }, { anchorX: 0, anchorY: 1, keepRatio: false })
    const after = boxOf(next.placements.source)
    expect(after.x1 - after.x0).toBeCloseTo(50, 3)
    expect(after.y1 - after.y0).toBeCloseTo(box.y1 - box.y0, 3)
    expect(after.x0).toBeCloseTo(box.x0, 3)
    expect(after.y1).toBeCloseTo(box.y1, 3)
  })

  it('by any angle keep their ratio, so that nothing is sheared', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 89, noNaN: true }), fc.double({ min: 20, max: 120, noNaN: true }), (deg, widthMm) => {
        const job = turnedTo(wide, 'source', deg)
        const box = boxOf(job.placements.source)
        const next = resized(job, 'source', box, { widthMm }, { anchorX: 0, anchorY: 0, keepRatio: false })
        const place = next.placements.source
        const after = boxOf(place)
        expect(place.widthMm / place.heightMm).toBeCloseTo(40 / 25, 2)
        expect(after.x1 - after.x0).toBeCloseTo(widthMm, 1)
        expect(after.x0).toBeCloseTo(box.x0, 2)
        expect(after.y0).toBeCloseTo(box.y0, 2)
      }),
    )
  })
})
