import { describe, expect, it } from 'vitest'
import { combine, offset, shapeArea } from '../geometry/clip.ts'
import { fromEdge, liesWithin } from '../geometry/edge.ts'
import { type JobDocument, mainPiece, placeOf, withPlace } from '../job/document/document.ts'
import { outlineOfFace, type PieceOutline } from '../job/document/workpiece.ts'
import { outlineLines, outlineRings } from '../lineage/evaluate.ts'
import { dotOnFace } from '../lineage/field.ts'
import { checkJob } from '../reading/check-job.ts'
import { fieldOf, greyPicture, marksOf, onRectangle, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { withArtwork } from './add-artwork.ts'
import { covering, edgeOf, edgesFor, keptWhole, keptWithin } from './clip-edits.ts'
import { withoutArtwork } from './take-away.ts'

/** All dark, so that only the edge says where it ends. */
const picture = greyPicture(90, 60, () => 20)
const supply = supplyWith(picture)
const odd: PieceOutline = { kind: 'rings', rings: [[0, 0, 60, 8, 66, 40, 20, 44]] }
const plain = sampleJob({ picture, widthMm: 80, xMm: -5, yMm: -4 })
const job: JobDocument = {
  ...onRectangle(plain, { widthMm: 66, heightMm: 44 }),
  workpieces: { piece: { ...plain.workpieces.piece, outline: odd, pose: { xMm: 40, yMm: 30, deg: 11 } } },
}
const edge = outlineOfFace(odd)

/** How far every dot that is burned lies inside the edge; negative: beyond it. */
function insideOf(of: JobDocument): number[] {
  const field = fieldOf(of, of.operations.engrave)
  const marks = marksOf(of, of.operations.engrave, supply)
  const far: number[] = []
  marks.levels.forEach((level, i) => {
    if (level === 0) return
    const [x, y] = dotOnFace(field, i % field.columns, Math.floor(i / field.columns))
    far.push((liesWithin(edge, x, y) ? 1 : -1) * fromEdge(edge, x, y))
  })
  return far
}

describe('a picture kept within the edge of its workpiece', () => {
  const kept = keptWithin(job, 'dots', { marginMm: 3 }, 'c')

  it('ends there, to half a dot, however it is moved, grown or turned behind it', () => {
    expect(() => checkJob(JSON.parse(JSON.stringify(kept)))).not.toThrow()
    expect(Math.min(...insideOf(job))).toBeLessThan(-3)
    for (const place of [{}, { xMm: -12, yMm: 3 }, { deg: 27 }, { widthMm: 120, heightMm: 80, deg: -40 }]) {
      const far = insideOf(withPlace(kept, 'source', place))
      expect(Math.min(...far)).toBeGreaterThan(3 - 0.15)
      expect(Math.min(...far)).toBeLessThan(3.2)
    }
  })

  it('fades evenly over a distance where that is wanted', () => {
    const faded = keptWithin(job, 'dots', { marginMm: 1, fadeMm: 8 }, 'c')
    const share = (from: number, to: number): number => {
      const all = insideOf(keptWithin(job, 'dots', { marginMm: 0 }, 'c')).filter((mm) => mm >= from && mm < to).length
      return insideOf(faded).filter((mm) => mm >= from && mm < to).length / all
    }
    expect(share(0, 1)).toBe(0)
    expect(share(1, 3)).toBeLessThan(0.25)
    expect(share(4, 6)).toBeGreaterThan(0.4)
    expect(share(4, 6)).toBeLessThan(0.6)
    expect(share(9.5, 14)).toBeGreaterThan(0.95)
  })

  it('is whole again on request, and when the outline that it was kept within goes', () => {
    expect(keptWhole(kept, 'dots')).toEqual(job)
    const within = keptWithin(job, 'dots', { to: 'around', marginMm: 1 }, 'c')
    expect(edgeOf(within, 'dots')).toMatchObject({ to: 'around', marginMm: 1, fadeMm: 0 })
    expect(edgeOf(withoutArtwork(within, ['around']), 'dots')).toBeUndefined()
    const twice = withArtwork(within, within, 'b')
    expect(edgeOf(twice, 'dots-b')).toMatchObject({ to: 'around-b' })
  })
})

describe('outlines kept within an edge', () => {
  it('are cut at it; what burned them burns what is left', () => {
    const kept = keptWithin(job, 'around', { marginMm: 2 }, 'c')
    expect(kept.operations.cut.of).toEqual(['c'])
    const rings = outlineRings(kept, 'c', supply)
    const over = combine('subtract', rings, offset(edge, -2))
    expect(shapeArea(over)).toBeLessThan(0.05)
    expect(shapeArea(combine('union', rings))).toBeCloseTo(
      shapeArea(combine('intersect', outlineRings(job, 'around', supply), offset(edge, -2))),
      1,
    )
    const looser = keptWithin(kept, 'c', { marginMm: -1 }, 'x')
    expect(Object.keys(looser.nodes)).toEqual(Object.keys(kept.nodes))
    expect(keptWhole(kept, 'c').operations.cut.of).toEqual(['around'])
    expect(edgesFor(kept, 'around')).not.toContain('c')
  })

  it('as lines end there and stay lines', () => {
    const traced = {
      ...withPlace(job, 'source', { xMm: 6, yMm: 5, widthMm: 54, heightMm: 36 }),
      nodes: { ...job.nodes, around: { ...job.nodes.around, both: true, distanceMm: 2 } as JobDocument['nodes'][string] },
    }
    const kept = keptWithin(traced, 'around', { marginMm: 2 }, 'c')
    const lines = outlineLines(kept, 'c', supply)
    expect(lines.length).toBeGreaterThan(1)
    const room = offset(edge, -2)
    // One that was cut apart does not go back to where it began.
    expect(lines.some((line) => Math.hypot(line[0] - line[line.length - 2], line[1] - line[line.length - 1]) > 1)).toBe(true)
    for (const line of lines)
      for (let i = 0; i < line.length; i += 2) {
        const [x, y] = [line[i], line[i + 1]]
        if (!liesWithin(room, x, y)) expect(fromEdge(room, x, y)).toBeLessThan(0.02)
      }
  })
})

describe('artwork that fills its workpiece', () => {
  it('covers all of it, in its own proportions and in the middle', () => {
    const filled = covering(job, 'dots')
    const { xMm, yMm, widthMm, heightMm } = placeOf(filled, 'source')
    expect(Math.min(xMm, yMm)).toBeLessThanOrEqual(0.001)
    expect(xMm + widthMm).toBeGreaterThanOrEqual(66 - 0.001)
    expect(yMm + heightMm).toBeGreaterThanOrEqual(44 - 0.001)
    expect(widthMm / heightMm).toBeCloseTo(placeOf(job, 'source').widthMm / placeOf(job, 'source').heightMm, 6)
    expect(mainPiece(filled)).toBe(mainPiece(job))
  })
})
