import { describe, expect, it } from 'vitest'
import { combine, offset, shapeArea } from '../geometry/clip.ts'
import { type JobDocument, placesOf, withPiece } from '../job/document/document.ts'
import { outlineOfFace } from '../job/document/workpiece.ts'
import { outlineRings } from '../lineage/evaluate.ts'
import { checkJob } from '../reading/check-job.ts'
import { greyPicture, onRectangle, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { filledSheet } from './fill-sheet.ts'

/** Half a disc: two of them make a whole. */
const picture = greyPicture(60, 36, (x, y) => (Math.hypot(x - 30, y - 34) < 28 && y < 33 ? 20 : 255))
const supply = supplyWith(picture)
const job = onRectangle(sampleJob({ picture, widthMm: 24, xMm: 30, yMm: 20, distanceMm: 1 }), { widthMm: 140, heightMm: 90 })
const cuts = (of: JobDocument) => placesOf(of, 'source').map((place) => outlineRings(of, 'around', supply, place))

describe('a sheet full of one piece', () => {
  it('holds more than rows would, apart and within the margin, each whole', () => {
    const made = filledSheet(job, 'around', supply, { spacingMm: 1, marginMm: 3, angles: [0, 180] })
    if ('not' in made) throw new Error(made.not)
    expect(() => checkJob(made.job)).not.toThrow()
    const rings = cuts(made.job)
    expect(rings).toHaveLength(made.count)
    // 26 × 15 mm with a millimetre between them: 4 × 5 in rows of boxes.
    expect(made.count).toBeGreaterThanOrEqual(20)
    const room = offset(outlineOfFace(job.workpieces.piece.outline), -2.9)
    for (const [i, a] of rings.entries()) {
      expect(shapeArea(combine('subtract', a, room))).toBeLessThan(0.05)
      for (const b of rings.slice(0, i)) expect(shapeArea(combine('intersect', offset(a, 0.7), b))).toBeLessThan(0.05)
    }
    const again = filledSheet(made.job, 'around', supply, { spacingMm: 1, marginMm: 3, angles: [0, 180] })
    expect('count' in again && again.count).toBe(made.count)
  })

  it('keeps clear of what may not be burned, and says where not one goes', () => {
    const clamp = { name: 'clamp', outline: { kind: 'rect', widthMm: 60, heightMm: 90 }, pose: { xMm: 40, yMm: 0 } } as const
    const made = filledSheet(withPiece(job, { keepOuts: { clamp } }), 'around', supply, { spacingMm: 1 })
    if ('not' in made) throw new Error(made.not)
    for (const rings of cuts(made.job))
      expect(shapeArea(combine('intersect', rings, [Float64Array.of(40, 0, 100, 0, 100, 90, 40, 90)]))).toBeLessThan(0.05)
    expect(filledSheet(job, 'around', supply, { marginMm: 40 })).toEqual({ not: expect.stringContaining('Not one has a place') })
  })
})
