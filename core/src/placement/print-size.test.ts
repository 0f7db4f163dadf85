import { describe, expect, it } from 'vitest'
import { asPrinted } from '../edits/printed-size.ts'
import { mainPieceId } from '../job/document/document.ts'
import { sampleJob, squarePicture } from '../testing/sample-job.ts'
import { printSize } from './print-size.ts'

/** A print stretched both ways by its own share, askew, lying turned and anywhere. */
const lain = (sx: number, sy: number, askewDeg: number) => {
  const skew = Math.sin((askewDeg * Math.PI) / 180)
  const [cos, sin] = [Math.cos(0.3), Math.sin(0.3)]
  return (
    [
      [20, 20],
      [280, 20],
      [280, 190],
      [20, 190],
      [150, 100],
    ] as const
  ).map(([x, y]) => {
    const [u, v] = [sx * x + skew * sy * y, sy * y]
    return { known: [x, y] as const, found: [40 + cos * u - sin * v, 60 + sin * u + cos * v] as const }
  })
}

describe('the size of a print', () => {
  it('is told both ways, with how far its right angles are off', () => {
    const size = printSize(lain(1.004, 0.998, 0.05))!
    expect(size.x).toBeCloseTo(1.004, 6)
    expect(size.y).toBeCloseTo(0.998, 5)
    expect(size.askewDeg).toBeCloseTo(0.05, 3)
  })

  it('is told as a whole by three marks, and not by two', () => {
    const marks = lain(1.004, 1.004, 0)
    expect(printSize(marks.slice(0, 3))).toMatchObject({ x: expect.closeTo(1.004, 6), y: expect.closeTo(1.004, 6), askewDeg: 0 })
    expect(printSize(marks.slice(0, 2))).toBeUndefined()
  })

  it('makes artwork as large each way, however it is turned by quarters', () => {
    const base = sampleJob({ picture: squarePicture(20, 5) })
    const id = mainPieceId(base)
    const place = { ...base.placements.source, on: id, xMm: 30, yMm: 40, widthMm: 20, heightMm: 10 }
    const made = (deg?: number) =>
      asPrinted({ ...base, placements: { source: deg === undefined ? place : { ...place, deg } } }, { x: 1.1, y: 1.2 }, id)
        .placements.source
    expect(made()).toMatchObject({ xMm: 33, yMm: 48, widthMm: 22, heightMm: 12 })
    // Lying across, its width goes along the print's height: its middle is where the print has it.
    const turned = made(90)
    expect(turned.widthMm).toBeCloseTo(24, 6)
    expect(turned.heightMm).toBeCloseTo(11, 6)
    expect([turned.xMm + turned.widthMm / 2, turned.yMm + turned.heightMm / 2]).toEqual([44, 54].map((v) => expect.closeTo(v, 5)))
  })
})
