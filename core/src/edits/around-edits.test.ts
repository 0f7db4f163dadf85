import { describe, expect, it } from 'vitest'
import { checkFindings } from '../findings/check.ts'
import { type JobDocument, mainPiece, placeOf, placesOf, withPiece } from '../job/document/document.ts'
import { applyPatches } from '../job/patches/edit.ts'
import { checkJob } from '../reading/check-job.ts'
import { ROTARIES } from '../rotary/shipped.ts'
import { sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import {
  acrossFrom,
  byKeepOut,
  onceRound,
  onFace,
  reachAround,
  roundRows,
  seenFromFront,
  sizedAsSeen,
  timesRound,
  uprightBy,
} from './around-edits.ts'
import { withEnds, withFlat, withRound } from './round-edits.ts'
import { withoutOperation } from './take-away.ts'

const picture = squarePicture(200, 0)
/** A dark square of 40 mm on a cup of Ø 80 mm, in the middle of its face. */
const cup = (): JobDocument => withRound(withoutOperation(sampleJob({ picture, widthMm: 40 }), 'cut'), ROTARIES.rollers, 80, 120)
const AROUND = Math.PI * 80
const middle = (job: JobDocument): number => {
  const { yMm, heightMm } = placeOf(job, 'source')
  return yMm + heightMm / 2
}
const found = (job: JobDocument, kind: string) => checkFindings(job, supplyWith(picture)).find((each) => each.kind === kind)

describe('artwork on what turns', () => {
  it('goes so often around that it closes exactly, by gaps or by its size, within one step of the motor', () => {
    for (const [closing, count, size] of [
      ['gap', 6, 40],
      ['gap', 4, 40],
      // 251.327 / 40 = 6.28: six of 41.888 mm come nearest.
      ['scale', 6, AROUND / 6],
    ] as const) {
      const job = timesRound(cup(), 'source', closing, closing === 'gap' && count === 6 ? {} : { count })
      expect(checkJob(job)).toEqual(job)
      const ys = placesOf(job, 'source').map((id) => job.placements[id].yMm)
      expect(ys).toHaveLength(count)
      for (const [i, y] of ys.entries()) expect(Math.abs(y - ys[0] - (i * AROUND) / count)).toBeLessThan(0.001)
      // The step of the motor: 1 / 35.8 mm.
      expect(Math.abs(ys[0] + AROUND - ys[count - 1] - (ys[1] - ys[0]))).toBeLessThan(1 / 35.8)
      expect(placeOf(job, 'source').heightMm).toBeCloseTo(size, 3)
      expect(roundRows(job, 'source')).toMatchObject({ count, bands: 1, gapMm: expect.closeTo(AROUND / count - size, 2) })
      expect(found(job, 'seam')).toBeUndefined()
    }
  })

  it('is taken for as large as what is seen of it, where it has white around', () => {
    const { xMm, yMm } = placeOf(cup(), 'source')
    // Only the middle half of it is dark.
    const seen = { x0: xMm + 10, y0: yMm + 10, x1: xMm + 30, y1: yMm + 30 }
    const job = timesRound(cup(), 'source', 'scale', { seen })
    expect(roundRows(job, 'source')?.count).toBe(13)
    expect(placeOf(job, 'source').heightMm / 2).toBeCloseTo(AROUND / 13, 3)
    expect(seenFromFront(cup(), 'source', seen)).toBeCloseTo(80 * Math.sin(0.25), 6)
    expect(placeOf(onceRound(cup(), 'source', seen), 'source').heightMm).toBeCloseTo(2 * AROUND, 2)
  })

  it('lies in bands, once each or several times around', () => {
    const job = timesRound(cup(), 'source', 'gap', { count: 5, bands: 2 })
    const places = placesOf(job, 'source').map((id) => job.placements[id])
    expect(places).toHaveLength(10)
    expect(places.slice(0, 2).map(({ xMm, widthMm }) => xMm + widthMm / 2)).toEqual([
      expect.closeTo(30, 3),
      expect.closeTo(90, 3),
    ])
    // Laid anew, they are not laid on top of each other.
    expect(placesOf(timesRound(job, 'source', 'gap', { count: 3 }), 'source')).toHaveLength(3)
    expect(placesOf(timesRound(job, 'source', 'scale', { count: 1 }), 'source')).toHaveLength(1)
  })

  it('is made once around, to the size that an eye sees from the front, and refused where nothing looks as wide', () => {
    expect(reachAround(onceRound(cup(), 'source'), 'source')).toBeCloseTo(AROUND, 3)
    // d · sin(arc / d): 40 mm of arc on Ø 80 mm look 38.354 mm wide.
    expect(seenFromFront(cup(), 'source')).toBeCloseTo(80 * Math.sin(0.5), 6)
    const seen = sizedAsSeen(cup(), 'source', 60)
    expect(reachAround(seen, 'source')).toBeCloseTo(80 * Math.asin(0.75), 3)
    expect(middle(seen)).toBeCloseTo(middle(cup()), 2)
    expect(() => sizedAsSeen(cup(), 'source', 81)).toThrow('nothing looks wider')
    const flat = withFlat(cup())
    for (const refused of [
      () => onceRound(flat, 'source'),
      () => sizedAsSeen(flat, 'source', 9),
      () => acrossFrom(flat, 'source'),
    ])
      expect(refused).toThrow('This piece is flat')
    expect(onFace(flat, 'source')).toBe(flat)
  })

  it('is put across, on a handle or opposite it, and brought round to its face', () => {
    const handle = { name: 'handle', outline: { kind: 'rect', widthMm: 60, heightMm: 20 }, pose: { xMm: 30, yMm: 10 } } as const
    const job = withPiece(cup(), { keepOuts: { handle } })
    expect(middle(byKeepOut(job, 'source', 'handle', false))).toBeCloseTo(20, 6)
    expect(middle(byKeepOut(job, 'source', 'handle', true))).toBeCloseTo(20 + AROUND / 2, 2)
    expect(middle(acrossFrom(job, 'source'))).toBeCloseTo(middle(job) + AROUND / 2, 2)
    const over = byKeepOut(job, 'source', 'handle', false)
    expect(found(over, 'keep-out')?.message).toContain('“handle”')
    // A turn farther it is the same place.
    const turned: JobDocument = {
      ...over,
      placements: { source: { ...over.placements.source, yMm: over.placements.source.yMm + 2 * AROUND } },
    }
    expect(found(turned, 'keep-out')?.message).toContain('“handle”')
    expect(middle(onFace(turned, 'source'))).toBeCloseTo(20, 2)
    expect(onFace(over, 'source')).toBe(over)
  })

  it('stands upright with its top at the lip', () => {
    expect(placeOf(uprightBy(cup(), 'source'), 'source').deg).toBe(-90)
    const other = withEnds(cup(), { lip: 'right', held: 'left' })
    expect(checkJob(other)).toEqual(other)
    expect(placeOf(uprightBy(other, 'source'), 'source').deg).toBe(90)
    // Who corrects the diameter is not asked again.
    expect(mainPiece(withRound(other, ROTARIES.rollers, 78, 120)).surface).toEqual({
      kind: 'cylinder',
      diameterMm: 78,
      lip: 'right',
      held: 'left',
    })
  })

  it('is told where it nearly closes, by how much, and closed in one movement', () => {
    const six = timesRound(cup(), 'source', 'gap')
    const rows = six.repeats!.source
    const off = { ...six, repeats: { source: { ...rows, pitchYMm: AROUND / 6 - 0.2 } } } as JobDocument
    const seam = found(off, 'seam')!
    expect(seam.message).toContain('6 times around end 1.20 mm before the first')
    expect(seam.severity).toBe('ask')
    for (const fix of seam.fixes) expect(found(applyPatches(off, fix.patches) as JobDocument, 'seam')).toBeUndefined()
    const placed = (heightMm: number): JobDocument => {
      const job = cup()
      return { ...job, placements: { source: { ...job.placements.source, heightMm, widthMm: heightMm / 4, xMm: 10, yMm: 0 } } }
    }
    // 251.33 mm around.
    const short = found(placed(AROUND - 2), 'seam')!
    expect(short.message).toMatch(/ends (1\.9|2\.0)\d mm before it meets itself/)
    expect(found(applyPatches(placed(AROUND - 2), short.fixes[0].patches) as JobDocument, 'seam')).toBeUndefined()
    expect(found(placed(AROUND - 20), 'seam')).toBeUndefined()
    expect(found(placed(AROUND + 1), 'seam')!.message).toContain('over itself')
  })
})
