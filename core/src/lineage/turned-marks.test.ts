import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { turnedTo, withNode } from '../edits/change.ts'
import type { JobDocument } from '../job/document/document.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import { PLAIN_DOTS } from '../picture/steps.ts'
import { inverseOf, mapped } from '../space/affine.ts'
import { poseMap } from '../space/pose.ts'
import { fieldOf, greyPicture, marksOf, onRectangle, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { dotOnFace, staysAsPrepared } from './field.ts'

/** A soft picture that is known at every place, 0 black to 1 white. */
const soft = (u: number, v: number): number => 0.5 + 0.3 * Math.sin(7 * u + 1) * Math.cos(5 * v) + 0.15 * Math.cos(11 * (u - v))
const picture = greyPicture(240, 160, (x, y) => Math.round(255 * soft((x + 0.5) / 240, (y + 0.5) / 160)))
const supply = supplyWith(picture)

/** Grey as it is, turned on a workpiece that is turned itself. */
function lying(artworkDeg: number, pieceDeg: number, dots: object = { kernel: 'none' }): JobDocument {
  const sample = sampleJob({ picture, widthMm: 36, xMm: 120, yMm: 80, engrave: { intervalMm: 0.2 } })
  const grey = withNode(sample, 'dots', { dots: { ...PLAIN_DOTS, ...dots } } as never)
  return onRectangle(turnedTo(grey, 'source', artworkDeg), { deg: pieceDeg })
}
const marksAt = (artworkDeg: number, pieceDeg: number, dots?: object) => {
  const job = lying(artworkDeg, pieceDeg, dots)
  const operation = job.operations.engrave
  return { job, field: fieldOf(job, operation), marks: marksOf(job, operation, supply), piece: burnedPieces(job, operation)[0] }
}

describe('marks of a turned picture', () => {
  it('are what the picture is at each dot’s own place, sampled once, whatever artwork and workpiece are turned by', () => {
    fc.assert(
      fc.property(fc.integer({ min: -179, max: 180 }), fc.integer({ min: -179, max: 180 }), (artworkDeg, pieceDeg) => {
        const { job, field, marks } = marksAt(artworkDeg, pieceDeg)
        const place = job.placements.source
        const toPicture = inverseOf(poseMap(place, place))
        let sum = 0
        let count = 0
        for (let row = 0; row < field.rows; row += 3)
          for (let column = 0; column < field.columns; column += 3) {
            const [x, y] = mapped(toPicture, ...dotOnFace(field, column, row))
            const [u, v] = [x / place.widthMm, y / place.heightMm]
            const level = marks.levels[row * field.columns + column] / 255
            // Well inside; at its edge a dot is covered in part. Well outside nothing is burned.
            if (u > 0.02 && u < 0.98 && v > 0.02 && v < 0.98) {
              sum += (level - (1 - soft(u, v))) ** 2
              count++
            } else if (u < -0.02 || u > 1.02 || v < -0.02 || v > 1.02) expect(level).toBe(0)
          }
        expect(count).toBeGreaterThan(1500)
        expect(Math.sqrt(sum / count)).toBeLessThan(0.006)
      }),
      { numRuns: 25 },
    )
  })

  it('depend on both turns together, not on each', () => {
    expect(marksAt(30, 45).marks.levels).toEqual(marksAt(75, 0).marks.levels)
    expect(marksAt(17, -17).marks.levels).toEqual(marksAt(0, 0).marks.levels)
  })

  it('are moved and never changed by quarter turns', () => {
    // Rows and columns are summed up in another order: the last of 255 steps may differ.
    const near = (a: number, b: number): void => expect(Math.abs(a - b)).toBeLessThanOrEqual(1)
    const plain = marksAt(0, 0)
    const { columns, rows } = plain.field
    const at = (column: number, row: number): number => plain.marks.levels[row * columns + column]
    const quarter = marksAt(90, 0)
    expect([quarter.field.columns, quarter.field.rows]).toEqual([rows, columns])
    for (let row = 0; row < columns; row += 7)
      for (let column = 0; column < rows; column += 5) near(quarter.marks.levels[row * rows + column], at(row, rows - 1 - column))
    const half = marksAt(120, 60)
    for (let i = 0; i < rows * columns; i += 11) near(half.marks.levels[i], plain.marks.levels[rows * columns - 1 - i])
  })

  it('stay as prepared where the composed turn moves pixels only', () => {
    const prepared = { asPrepared: true }
    const stays = (artworkDeg: number, pieceDeg: number): boolean => {
      const { job, piece } = marksAt(artworkDeg, pieceDeg, prepared)
      return staysAsPrepared(job, piece)
    }
    expect([stays(0, 0), stays(90, 0), stays(17, 73), stays(-30, -150), stays(0.5, 89.5)]).toEqual([true, true, true, true, true])
    expect([stays(17, 0), stays(0, 17), stays(90, 0.1)]).toEqual([false, false, false])
    // One dot a pixel, all of them.
    const { field, marks } = marksAt(17, 73, prepared)
    expect([field.columns, field.rows]).toEqual([160, 240])
    const burned = marks.levels.reduce((sum, level) => sum + (level > 0 ? 1 : 0), 0)
    expect(burned).toBe(marksAt(0, 0, prepared).marks.levels.reduce((sum, level) => sum + (level > 0 ? 1 : 0), 0))
  })
})
