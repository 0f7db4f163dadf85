import { describe, expect, it } from 'vitest'
import { checkFindings } from '../findings/check.ts'
import { paintForecast } from '../forecast/paint.ts'
import { combine, shapeArea } from '../geometry/clip.ts'
import { burnOrder, type JobDocument, withPiece } from '../job/document/document.ts'
import { outlineOfFace, type PieceOutline } from '../job/document/workpiece.ts'
import { checkJob } from '../reading/check-job.ts'
import { forecastScene, seenScene } from '../scene/scene.ts'
import { mapped } from '../space/affine.ts'
import { mappedRings } from '../space/map-shapes.ts'
import { greyPicture, onRectangle, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { withArtwork } from './add-artwork.ts'
import { withoutPiece } from './piece-edits.ts'
import { throughPiece, withSecondSide } from './second-side.ts'
import { stepsMoved } from './steps-edits.ts'

const picture = greyPicture(20, 20, () => 20)
const supply = supplyWith(picture)
/** A fob with a hole at its left. */
const fob: PieceOutline = {
  kind: 'rings',
  rings: [
    [0, 0, 60, 0, 60, 20, 10, 28, 0, 20],
    [4, 8, 4, 12, 8, 12, 8, 8],
  ],
}
const job = withPiece(onRectangle(sampleJob({ picture, widthMm: 10, xMm: 20, yMm: 5 }), { widthMm: 60, heightMm: 28 }), {
  outline: fob,
  grainDeg: 30,
  keepOuts: { ring: { name: 'ring', outline: { kind: 'circle', diameterMm: 10 }, pose: { xMm: 1, yMm: 5 } } },
  marks: { pin: { xMm: 50, yMm: 10 } },
})

describe('the second side', () => {
  it.each(['left-right', 'top-bottom'] as const)('turned %s has all where it is seen from there', (way) => {
    const { job: both, side } = withSecondSide(job, way)
    expect(() => checkJob(JSON.parse(JSON.stringify(both)))).not.toThrow()
    const [front, back] = [both.workpieces.piece, both.workpieces[side]]
    expect(back).toMatchObject({ name: 'workpiece, back', back: { of: 'piece', way }, grainDeg: -30, pose: front.pose })
    const through = throughPiece(front, way)
    const seen = mappedRings(through, outlineOfFace(front.outline))
    expect(shapeArea(combine('exclude', seen, outlineOfFace(back.outline)))).toBeLessThan(0.001)
    const [x, y] = mapped(through, 50, 10)
    expect(back.marks.pin).toEqual({ xMm: x, yMm: y })
    const [kx, ky] = mapped(through, 6, 10)
    expect(back.keepOuts.ring.pose).toEqual({ xMm: kx - 5, yMm: ky - 5 })
    // There and back is where it was.
    expect(mapped(through, x, y)).toEqual([50, 10])
    expect(both.order.map((id) => both.steps[id].kind)).toEqual(['burn', 'burn', 'set-up'])
    expect(withSecondSide(both, way).job).toBe(both)
  })

  it.each(['left-right', 'top-bottom'] as const)(
    'turned %s shows what was cut from the front, where it is seen from there',
    (way) => {
      const { job: both, side } = withSecondSide(job, way)
      const view = { x: 0, y: 0, pxPerMm: 10, widthPx: 600, heightPx: 280 }
      const open = (scene: ReturnType<typeof seenScene>): Uint8Array =>
        paintForecast(scene, view).filter((_, i) => i % 4 === 3) as unknown as Uint8Array
      const [front, back] = [open(seenScene(both, supply, 'piece')), open(seenScene(both, supply, side))]
      const bare = open(forecastScene(both, supply, undefined, side))
      let cut = 0
      let off = 0
      for (let y = 0; y < 280; y++)
        for (let x = 0; x < 600; x++) {
          const [bx, by] = way === 'left-right' ? [599 - x, y] : [x, 279 - y]
          if (Math.abs(front[600 * y + x] - back[600 * by + bx]) > 40) off++
          if (bare[600 * by + bx] - back[600 * by + bx] > 200) cut++
        }
      expect(cut).toBeGreaterThan(100)
      expect(off).toBeLessThan(20)
      // The front itself has nothing of the back.
      expect(seenScene(both, supply, 'piece')).toEqual(forecastScene(both, supply, undefined, 'piece'))
    },
  )

  it('takes artwork behind the set-up; what stands on the wrong side of it is asked', () => {
    const { job: both, side } = withSecondSide(job, 'left-right')
    const looked: JobDocument = { ...both, lookedAt: side }
    const made = withArtwork(looked, job, 'b')
    const { lookedAt: _, ...kept } = made
    expect(burnOrder(kept)).toEqual(['engrave', 'cut', 'engrave-b', 'cut-b'])
    const kinds = kept.order.map((id) => kept.steps[id].kind)
    expect(kinds).toEqual(['burn', 'burn', 'set-up', 'burn', 'burn'])
    const of = (document: JobDocument) => checkFindings(document, supply).filter(({ kind }) => kind === 'not-turned')
    expect(of(kept)).toHaveLength(0)
    expect(checkFindings(kept, supply).filter(({ kind }) => kind === 'pieces-overlap')).toHaveLength(0)
    const early = stepsMoved(kept, ['engrave-b'], 0)
    expect(of(early).map(({ operation, message }) => [operation, message.includes('before the piece is turned')])).toEqual([
      ['engrave-b', true],
    ])
    const late = stepsMoved(kept, ['engrave'], 5)
    expect(of(late)[0]).toMatchObject({ operation: 'engrave', severity: 'ask' })
  })

  it('goes with its front', () => {
    const { job: both, side } = withSecondSide(job, 'left-right')
    const other = { ...both, workpieces: { ...both.workpieces, other: job.workpieces.piece } }
    expect(Object.keys(withoutPiece(other, 'piece').workpieces)).toEqual(['other'])
    expect(Object.keys(withoutPiece(other, side).workpieces).sort()).toEqual(['other', 'piece'])
  })
})
