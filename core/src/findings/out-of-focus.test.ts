import { describe, expect, it } from 'vitest'
import { radiusByChord, sagittaMm, sharpHalfWidth } from '../curved/curved.ts'
import { withArch, withHeights } from '../edits/arch-edits.ts'
import { withRound } from '../edits/round-edits.ts'
import { withoutOperation } from '../edits/take-away.ts'
import { type JobDocument, mainPiece, withPiece } from '../job/document/document.ts'
import { archOf } from '../job/document/workpiece.ts'
import { applyPatches } from '../job/patches/edit.ts'
import { fittedLens } from '../machine/machine.ts'
import { checkJob } from '../reading/check-job.ts'
import { ROTARIES } from '../rotary/shipped.ts'
import { preflight } from '../run/preflight.ts'
import { onRectangle, sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { checkFindings } from './check.ts'

const picture = squarePicture(200, 0)
/** A dark square in the middle of a plank of 200 × 200 mm whose crown stands so much higher than its edges, mm. */
function plank(high: number, across: 'x' | 'y' = 'x', widthMm = 120): JobDocument {
  const flat = withoutOperation(sampleJob({ picture, widthMm, xMm: 100 - widthMm / 2, yMm: 100 - widthMm / 2 }), 'cut')
  const square = onRectangle(flat, { widthMm: 200, heightMm: 200 })
  const placed = {
    ...square,
    placements: { source: { ...square.placements.source, xMm: 100 - widthMm / 2, yMm: 100 - widthMm / 2 } },
  }
  return withArch(placed as JobDocument, { across, radiusMm: radiusByChord(200, high) })
}
const found = (job: JobDocument) => checkFindings(job, supplyWith(picture)).find(({ kind }) => kind === 'out-of-focus')

describe('a curved face under a head that does not turn', () => {
  it('is kept with the piece, and none where it is flat or turns', () => {
    const job = plank(10)
    expect(checkJob(job)).toEqual(job)
    expect(archOf(mainPiece(job))).toMatchObject({ crownMm: 100, across: 'x', radiusMm: 505 })
    expect(archOf(mainPiece(withArch(job, undefined)))).toBeUndefined()
    const turning = withRound(job, ROTARIES.rollers, 80, 120)
    expect(withArch(turning, { across: 'x', radiusMm: 50 })).toBe(turning)
    expect(() => checkJob(withArch(job, { across: 'x', radiusMm: 0 }))).toThrow()
  })

  it('cannot lie under the bed: how high its crown stands is asked for where it would', () => {
    const under = (job: JobDocument) => checkFindings(job, supplyWith(picture)).find(({ kind }) => kind === 'under-bed')
    // 24 mm over its edges: 8.5 mm down at 60 mm from the crown, and a sheet of 3 mm.
    const bent = plank(24)
    expect(mainPiece(bent).thicknessMm).toBe(3)
    expect(under(bent)).toMatchObject({ severity: 'ask', x: expect.closeTo(40, 0), y: expect.closeTo(40, 0) })
    expect(under(bent)?.message).toMatch(/lies 8\.\d mm under its crown, and its crown stands 3 mm over the bed/)
    expect(under(withPiece(bent, { thicknessMm: 27 }))).toBeUndefined()
    expect(under(plank(4))).toBeUndefined()
    expect(under(withArch(bent, undefined))).toBeUndefined()
    // What was measured place by place was measured over the bed.
    expect(under(withHeights(bent, { columns: 2, rows: 2, mm: [0, 0, 0, -2] }))).toBeUndefined()
  })

  it('is sharp so far from its crown; beyond it is told how far, how deep, and which lens would do', () => {
    const job = plank(10)
    const { depthOfFocusMm } = fittedLens(job.machine)
    const sharp = sharpHalfWidth(505, depthOfFocusMm)
    // √(505² − 501²) with ±2 mm.
    expect(sharp).toBeCloseTo(Math.sqrt(505 ** 2 - 501 ** 2), 6)
    expect(found(plank(10, 'x', 2 * sharp - 2))).toBeUndefined()
    // ±60 mm of it lie within 63.4 mm: no finding. A steeper one has one.
    expect(found(job)).toBeUndefined()
    const steep = plank(20)
    const told = found(steep)!
    const radius = radiusByChord(200, 20)
    expect(told.severity).toBe('ask')
    expect(told.message).toContain(
      `reaches 60 mm from the crown, where the face lies ${Number(sagittaMm(radius, 60).toFixed(1))} mm lower`,
    )
    expect(told.message).toContain('3 strips')
    expect(told.fixes[0].label).toContain('101.6 mm')
    const mended = applyPatches(steep, told.fixes[0].patches) as JobDocument
    expect(fittedLens(mended.machine).focalLengthMm).toBe(101.6)
    expect(found(mended)).toBeUndefined()
    // The other way across it is the same.
    expect(found(plank(20, 'y'))?.message).toBe(told.message)
  })

  it('stops where it falls away so steeply that no strip is sharp', () => {
    expect(found(plank(99, 'x', 190))).toMatchObject({ severity: 'stop', message: expect.stringContaining('too steeply') })
  })

  it('is focused under its crown, as the list before the start says', () => {
    expect(preflight(plank(10), []).find(({ id }) => id === 'focus')?.title).toContain('2 mm under its crown')
    expect(preflight(withArch(plank(10), undefined), []).find(({ id }) => id === 'focus')?.title).not.toContain('crown')
  })
})
