import { describe, expect, it } from 'vitest'
import { burnOrder } from '../job/document/document.ts'
import { checkJob } from '../reading/check-job.ts'
import { greyPicture, sampleJob } from '../testing/sample-job.ts'
import { given } from './give-process.ts'
import { LAY_ON, laidByGuide } from './laid-by-guide.ts'

describe('a guide to lay the workpiece on', () => {
  it('is burned faintly before all else, and the machine waits then', () => {
    const sample = sampleJob({ picture: greyPicture(20, 20, () => 0) })
    const { job, operation } = given(sample, ['around'], 'score')
    const score = job.operations[operation]
    const laid = laidByGuide(job, operation)
    expect(() => checkJob(JSON.parse(JSON.stringify(laid)))).not.toThrow()
    expect(burnOrder(laid)[0]).toBe(operation)
    expect(laid.operations[operation]).toMatchObject({ process: 'guide', drawn: true })
    expect(laid.operations[operation].power).toBeLessThan(score.power)
    expect(laid.order.map((id) => laid.steps[id].kind)).toEqual(['burn', 'pause', 'burn', 'burn'])
    const pause = laid.steps[laid.order[1]]
    expect(pause.kind === 'pause' && pause.text).toBe(LAY_ON)
  })
})
