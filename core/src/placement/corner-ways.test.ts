import { describe, expect, it } from 'vitest'
import { asPrinted } from '../edits/printed-size.ts'
import { mainPiece, mainPieceId, withPiece } from '../job/document/document.ts'
import { sampleJob, squarePicture } from '../testing/sample-job.ts'
import { cornerWays } from './corner-ways.ts'
import { placesToFind } from './registration.ts'

describe('a corner of a workpiece', () => {
  it('has a way along each of its edges', () => {
    const outline = { kind: 'rect' as const, widthMm: 60, heightMm: 40 }
    for (const place of placesToFind({ outline, marks: {} })) {
      const ways = cornerWays({ outline }, place)!
      // Square to each other, and both into the rectangle.
      expect(ways[0][0] * ways[1][0] + ways[0][1] * ways[1][1]).toBeCloseTo(0, 9)
      for (const [dx, dy] of ways) {
        expect(Math.hypot(dx, dy)).toBeCloseTo(1, 9)
        expect(place[0] + dx).toBeGreaterThanOrEqual(0)
        expect(place[0] + dx).toBeLessThanOrEqual(60)
        expect(place[1] + dy).toBeLessThanOrEqual(40)
        expect(place[1] + dy).toBeGreaterThanOrEqual(0)
      }
    }
  })
  it('is none of something round, beside an edge, or where edges are too short to be looked along', () => {
    expect(cornerWays({ outline: { kind: 'circle', diameterMm: 40 } }, [0, 20])).toBeUndefined()
    expect(cornerWays({ outline: { kind: 'rect', widthMm: 60, heightMm: 40 } }, [30, 0])).toBeUndefined()
    expect(cornerWays({ outline: { kind: 'rect', widthMm: 60, heightMm: 4 } }, [0, 0])).toBeUndefined()
    const round = Array.from({ length: 128 }, (_, i) =>
      i % 2 ? 40 + 40 * Math.sin((Math.PI * (i >> 1)) / 32) : 40 + 40 * Math.cos((Math.PI * (i >> 1)) / 32),
    )
    expect(cornerWays({ outline: { kind: 'rings', rings: [round] } }, [round[0], round[1]])).toBeUndefined()
  })
})

it('a job is as large as it was printed: artwork and marks of that workpiece, not its edge', () => {
  const base = sampleJob({ picture: squarePicture(20, 5) })
  const id = mainPieceId(base)
  const job = withPiece(base, { marks: { a: { xMm: 10, yMm: 20 } } }, id)
  const made = asPrinted(job, { x: 1.004, y: 1.004 }, id)
  expect(mainPiece(made).marks.a).toEqual({ xMm: 10.04, yMm: 20.08 })
  expect(mainPiece(made).outline).toEqual(mainPiece(job).outline)
  for (const [key, place] of Object.entries(job.placements)) {
    expect(made.placements[key].widthMm).toBeCloseTo(1.004 * place.widthMm, 6)
    expect(made.placements[key].xMm).toBeCloseTo(1.004 * place.xMm, 6)
  }
})
