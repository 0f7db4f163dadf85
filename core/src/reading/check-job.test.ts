import { describe, expect, it } from 'vitest'
import { withNode, withOperation } from '../edits/change.ts'
import { JOB_VERSION, type JobDocument } from '../job/document/document.ts'
import { JobError } from '../job/document/job-error.ts'
import { sampleJob, squarePicture } from '../testing/sample-job.ts'
import { checkJob } from './check-job.ts'

const job = sampleJob({ picture: squarePicture(10, 5) })

describe('checkJob', () => {
  it('takes a whole job and gives it back as it is', () => {
    expect(checkJob(job)).toEqual(job)
    expect(checkJob(JSON.parse(JSON.stringify(job)))).toEqual(job)
  })

  const with_ = (change: Record<string, unknown>): unknown => ({ ...job, ...change })
  it.each<[string, unknown, string]>([
    ['nothing', null, 'not a Neotaxis job'],
    ['another format', { format: 'x' }, 'not a Neotaxis job'],
    ['a newer version', with_({ version: JOB_VERSION + 1 }), `made by a newer Neotaxis (job version ${JOB_VERSION + 1}`],
    ['a power of 140 %', withOperation(job, 'cut', { power: 1.4 }), 'power'],
    ['half a pass', withOperation(job, 'cut', { passes: 1.5 }), 'passes'],
    ['a speed of text', withOperation(job, 'cut', { speedMmS: '12' as never }), 'speedMmS'],
    ['an unknown value', with_({ sneaky: 1 }), 'sneaky'],
    ['a name that is too long', with_({ name: 'x'.repeat(201) }), 'name'],
    ['a picture beyond all size', withNode(job, 'source', { widthPx: 70_000 } as never), 'widthPx'],
    ['a kind of artwork from the future', withNode(job, 'dots', { kind: 'hologram' } as never), 'kind of artwork'],
    ['a process from the future', withOperation(job, 'cut', { process: 'polish' } as never), 'process that this version'],
    ['artwork without a place', with_({ placements: {} }), '“sample.png” has no place'],
    [
      'a place without artwork',
      with_({ placements: { ...job.placements, gone: { ...job.placements.source, of: 'gone' } } }),
      'belongs to no artwork',
    ],
    ['an orphan', withNode(job, 'around', { from: 'gone' } as never), 'comes from artwork that is missing'],
    ['an offset of a photo', withNode(job, 'around', { from: 'source' } as never), 'cannot come from'],
    ['a cut of a photo', withOperation(job, 'cut', { of: ['dots'] }), 'cannot burn'],
    ['an order of nothing', with_({ order: ['engrave', 'cut', 'gone'] }), 'that is missing'],
    ['an order with one twice', with_({ order: ['engrave', 'cut', 'cut'] }), 'duplicate'],
  ])('refuses %s with a sentence', (_what, value, sentence) => {
    expect(() => checkJob(value)).toThrow(JobError)
    expect(() => checkJob(value)).toThrow(sentence)
  })

  it('refuses artwork that comes from itself', () => {
    const loop = {
      ...job,
      nodes: { ...job.nodes, a: { ...job.nodes.around, from: 'b' }, b: { ...job.nodes.around, from: 'a' } },
    } as JobDocument
    expect(() => checkJob(loop)).toThrow('comes from itself')
  })
})
