import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkFindings } from '../findings/check.ts'
import type { JobDocument } from '../job/document/document.ts'
import { applyPatches } from '../job/patches/edit.ts'
import { wattsAt } from '../machine/machine.ts'
import { areaDose } from '../material/material.ts'
import { PLAIN_DOTS } from '../picture/steps.ts'
import { checkJob } from '../reading/check-job.ts'
import { greyPicture, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { lineDemands, withinLine } from './line-limit.ts'
import { measureJob, planWhole } from './plan.ts'
import { writeProgram } from './write-program.ts'

const picture = greyPicture(80, 60, (x, y) => 60 + 90 * ((x * 7 + y * 3) % 2))
const supply = supplyWith(picture)
const on = (machine: Partial<JobDocument['machine']>, speedMmS = 300): JobDocument => {
  const sample = sampleJob({ picture, engrave: { speedMmS, intervalMm: 0.2, power: 0.4 } })
  const dots = { ...sample.nodes.dots, dots: { ...PLAIN_DOTS, kernel: 'floyd-steinberg' } } as (typeof sample.nodes)[string]
  return { ...sample, nodes: { ...sample.nodes, dots }, machine: { ...sample.machine, ...machine } }
}
const demand = (job: JobDocument) =>
  lineDemands(job.machine, (sink) => planWhole(job, supply, sink)).find(({ id }) => id === 'engrave')!
const slowed = (job: JobDocument): JobDocument => withinLine(job, (all, sink) => planWhole(all, supply, sink))
const dose = ({ operations: { engrave }, machine }: JobDocument): number =>
  areaDose(wattsAt(machine, engrave.power), engrave.speedMmS, 0.2)

describe("what a controller's line can take", () => {
  it('is kept to: what is too dense is driven slower, with the same dose', () => {
    fc.assert(
      fc.property(fc.integer({ min: 100, max: 600 }), fc.integer({ min: 4000, max: 200_000 }), (speed, lineBytesS) => {
        const job = on({ lineBytesS }, speed)
        const kept = slowed(job)
        if (demand(job).share <= 1) expect(kept.operations).toEqual(job.operations)
        else {
          expect(demand(kept).share).toBeLessThanOrEqual(1.001)
          expect(demand(kept).share).toBeGreaterThan(0.85)
          expect(dose(kept) / dose(job)).toBeCloseTo(1, 2)
        }
      }),
      { numRuns: 40 },
    )
  })

  it('changes nothing where nobody measured it', () => {
    const job = on({})
    expect(slowed(job)).toBe(job)
    expect(checkFindings(job, supply).filter(({ kind }) => kind === 'too-dense')).toEqual([])
  })

  it('is part of the time that is told, of the program, and of the findings', () => {
    const job = on({ linesS: 300 })
    const [free, held] = [on({}), job].map(
      (each) => measureJob(each, supply).operations.find(({ id }) => id === 'engrave')!.seconds,
    )
    expect(held).toBeGreaterThan(1.2 * free)
    let text = ''
    writeProgram(job, supply, (bytes) => {
      text += new TextDecoder().decode(bytes)
    })
    expect(text).not.toContain('F18000')
    // Its comment says with what it is driven, and why.
    expect(text).toMatch(/operation engrave: .*slower than set/)
    expect(text).not.toMatch(/operation engrave: .* 300 mm\/s/)
    const [finding] = checkFindings(job, supply).filter(({ kind }) => kind === 'too-dense')
    expect(finding.message).toMatch(/Too dense for the line: at 300 mm\/s it sends \d+ lines and [\d.]+ kB a second/)
    const set = checkJob(applyPatches(job, finding.fixes[0].patches))
    expect(checkFindings(set, supply).filter(({ kind }) => kind === 'too-dense')).toEqual([])
    expect(measureJob(set, supply).seconds).toBeCloseTo(measureJob(job, supply).seconds, 1)
  })
})
