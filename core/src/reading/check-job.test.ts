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
  const onPiece = (change: object): unknown => with_({ workpieces: { piece: { ...job.workpieces.piece, ...change } } })
  const edge = (...rings: number[][]): unknown => onPiece({ outline: { kind: 'rings', rings } })
  const placed = (change: object): unknown => with_({ placements: { source: { ...job.placements.source, ...change } } })
  const step = (id: string, one: object): unknown => with_({ steps: { ...job.steps, [id]: one } })
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
    ['a pose that is no number', onPiece({ pose: { xMm: Number.NaN, yMm: 0 } }), 'pose.xMm'],
    ['a pose without end', onPiece({ pose: { xMm: 0, yMm: Number.POSITIVE_INFINITY } }), 'pose.yMm'],
    ['a turn of text', placed({ deg: '17' }), 'deg'],
    ['a turn that is no number', placed({ deg: Number.NaN }), 'deg'],
    ['a place on no workpiece', placed({ on: 'gone' }), 'lies on a workpiece that is missing'],
    ['a circle without a size', onPiece({ outline: { kind: 'circle', diameterMm: 0 } }), 'diameterMm'],
    ['a kind of outline from the future', onPiece({ outline: { kind: 'spiral' } }), 'kind of outline'],
    ['a surface from the future', onPiece({ surface: { kind: 'torus' } }), 'kind of surface'],
    ['an edge that crosses itself', edge([0, 0, 10, 10, 10, 0, 0, 10]), 'crosses itself'],
    ['edges that cross each other', edge([0, 0, 10, 0, 10, 10, 0, 10], [5, 5, 15, 5, 15, 15, 5, 15]), 'crosses itself'],
    ['an edge without area', edge([0, 0, 10, 0, 5, 0]), 'has no area'],
    ['an edge of two corners', edge([0, 0, 10, 0]), 'rings'],
    ['an edge with half a corner', edge([0, 0, 10, 0, 5, 5, 1]), 'rings'],
    [
      'a keep-out that crosses itself',
      onPiece({
        keepOuts: {
          clamp: {
            name: 'the clamp',
            outline: { kind: 'rings', rings: [[0, 0, 10, 10, 10, 0, 0, 10]] },
            pose: { xMm: 0, yMm: 0 },
          },
        },
      }),
      'the outline of “the clamp” crosses itself',
    ],
    ['a material that is missing', onPiece({ material: 'moon-rock' }), 'of a material that is missing'],
    ['no workpiece', with_({ workpieces: {} }), 'workpieces'],
    ['an operation of nothing', withOperation(job, 'cut', { of: [] }), 'of'],
    ['an operation at no place', withOperation(job, 'cut', { at: ['gone'] }), 'burns at a place that is missing'],
    ['a step of nothing', step('cut', { kind: 'burn', operation: 'gone' }), 'burns an operation “gone” that is missing'],
    ['one operation twice', step('cut', { kind: 'burn', operation: 'engrave' }), 'is burned by two steps'],
    [
      'a step out of the order',
      with_({ steps: { ...job.steps, more: { kind: 'pause', text: 'Wait' } } }),
      'no place in the order',
    ],
    ['a kind of step from the future', step('cut', { kind: 'anneal' }), 'kind of step'],
    ['work by hand that takes forever', step('cut', { kind: 'by-hand', text: 'Sand it', minutes: 1e9 }), 'minutes'],
    [
      'a set-up that lays nothing',
      step('cut', { kind: 'set-up', name: 'Turn it', poses: { gone: { xMm: 0, yMm: 0 } } }),
      'the set-up “Turn it” lays a workpiece that is missing',
    ],
    ['an order of nothing', with_({ order: ['engrave', 'cut', 'gone'] }), 'that is missing'],
    ['an order with one twice', with_({ order: ['engrave', 'cut', 'cut'] }), 'duplicate'],
  ])('refuses %s with a sentence', (_what, value, sentence) => {
    expect(() => checkJob(value)).toThrow(JobError)
    expect(() => checkJob(value)).toThrow(sentence)
    // One sentence, and nothing of it twice.
    try {
      checkJob(value)
    } catch (cause) {
      expect((cause as Error).message).toMatch(/^[A-Z“][^\n]*[.]$/)
      expect((cause as Error).message.length).toBeLessThan(200)
    }
  })

  it('refuses artwork that comes from itself', () => {
    const loop = {
      ...job,
      nodes: { ...job.nodes, a: { ...job.nodes.around, from: 'b' }, b: { ...job.nodes.around, from: 'a' } },
    } as JobDocument
    expect(() => checkJob(loop)).toThrow('comes from itself')
  })
})
