import { expect, it } from 'vitest'
import { given } from '../edits/give-process.ts'
import { withFlat, withRound } from '../edits/round-edits.ts'
import { withoutOperation } from '../edits/take-away.ts'
import type { JobDocument } from '../job/document/document.ts'
import { applyPatches } from '../job/patches/edit.ts'
import type { AreaOperation } from '../process/area/settings.ts'
import { checkJob } from '../reading/check-job.ts'
import { ROTARIES } from '../rotary/shipped.ts'
import { sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { checkFindings } from './check.ts'

const picture = squarePicture(60, 10)
const found = (job: JobDocument) => checkFindings(job, supplyWith(picture)).find(({ kind }) => kind === 'jumps-around')

it('tells a fill that turns a round piece to and fro, why, and makes it one sweep along the axis', () => {
  const base = sampleJob({ picture, widthMm: 30 })
  const { job, operation: id } = given(base, base.operations.cut.of, 'area')
  const cup = withRound(withoutOperation(withoutOperation(job, 'engrave'), 'cut'), ROTARIES.rollers, 80, 120)
  const fill = (change: Partial<AreaOperation>): JobDocument => {
    const { crossDeg: _, shareMm: __, ...area } = cup.operations[id] as AreaOperation
    return { ...cup, operations: { ...cup.operations, [id]: { ...area, strategy: 'sweep', deg: 0, ...change } } }
  }
  expect(found(fill({}))).toBeUndefined()
  expect(found(fill({ deg: 30 }))).toBeUndefined()
  for (const [change, why] of [
    [{ strategy: 'patches' }, 'patch by patch'],
    [{ strategy: 'rings' }, 'along rings'],
    [{ shareMm: 5 }, 'each shape by itself'],
    [{ deg: 90 }, 'lines that go around'],
    [{ deg: 0, crossDeg: 90 }, 'lines that go around'],
  ] as const) {
    const job = fill(change)
    const told = found(job)!
    expect(told.message).toContain(why)
    expect(told.severity).toBe('note')
    const mended = applyPatches(job, told.fixes[0].patches) as JobDocument
    expect(checkJob(mended)).toEqual(mended)
    expect(found(mended)).toBeUndefined()
  }
  // On something flat it may be filled as anybody likes.
  expect(found(withFlat(fill({ strategy: 'rings' })))).toBeUndefined()
})
