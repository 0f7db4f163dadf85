import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { askedBefore } from '../plan/plan.ts'
import { checkJob } from '../reading/check-job.ts'
import { sampleJob, squarePicture } from '../testing/sample-job.ts'
import { usedAgain } from './give-process.ts'
import { askedFor, burned, burnStepOf, putAside, reordered, stepsBefore } from './steps-edits.ts'

const sample = sampleJob({ picture: squarePicture(20, 5) })
const pause = { kind: 'pause', text: 'Peel the mask off' } as const
const turn = { kind: 'set-up', name: 'Turn it over' } as const
/** Five operations, the second and the fourth with something asked before them. */
const five = ['a', 'b', 'c'].reduce((job: JobDocument, id) => burned(job, id, sample.operations.engrave), sample)
const asked = askedFor(askedFor(five, 'cut', pause), 'b', turn)

describe('steps of a job', () => {
  it('are asked, asked otherwise, and not asked any more', () => {
    expect(askedBefore(asked).get('cut')).toEqual(['Peel the mask off'])
    expect(askedBefore(askedFor(asked, 'cut', { ...pause, text: 'Wipe it' })).get('cut')).toEqual(['Wipe it'])
    expect(askedFor(askedFor(asked, 'cut', undefined), 'b', undefined)).toEqual(five)
    expect(askedFor(sample, 'gone', pause)).toBe(sample)
  })

  it('move with what is asked before them, and hold together whatever is done', () => {
    const move = fc.record({ what: fc.constant('move' as const), id: fc.constantFrom(...burnOrder(five)), to: fc.nat(6) })
    const aside = fc.record({ what: fc.constant('aside' as const), id: fc.constantFrom('a', 'cut', 'b') })
    const ask = fc.record({
      what: fc.constant('ask' as const),
      id: fc.constantFrom(...burnOrder(five)),
      step: fc.constantFrom(pause, turn, undefined),
    })
    fc.assert(
      fc.property(fc.array(fc.oneof(move, aside, ask), { maxLength: 12 }), (changes) => {
        let job = asked
        for (const change of changes) {
          const before = burnOrder(job)
          if (change.what === 'move') {
            const own = stepsBefore(job, change.id).map((id) => job.steps[id])
            job = reordered(job, change.id, change.to)
            if (before.includes(change.id)) {
              expect(burnOrder(job).indexOf(change.id)).toBe(Math.min(before.length - 1, change.to))
              expect(stepsBefore(job, change.id).map((id) => job.steps[id])).toEqual(own)
            }
            expect([...burnOrder(job)].sort()).toEqual([...before].sort())
          } else if (change.what === 'aside') {
            job = putAside(job, change.id)
            expect(burnOrder(job)).toEqual(before.filter((id) => id !== change.id))
            expect(job.operations[change.id]).toBeDefined()
          } else {
            job = askedFor(job, change.id, change.step)
            expect(burnOrder(job)).toEqual(before)
            expect(stepsBefore(job, change.id)).toHaveLength(change.step && burnStepOf(job, change.id) ? 1 : 0)
          }
          expect(checkJob(job)).toEqual(job)
        }
      }),
    )
  })

  it('come back where they are asked for again after they were put aside', () => {
    const gone = putAside(asked, 'b')
    expect(burnOrder(gone)).toEqual(['engrave', 'cut', 'a', 'c'])
    expect(burnOrder(reordered(gone, 'a', 0))).toEqual(['a', 'engrave', 'cut', 'c'])
    expect(burnOrder(usedAgain(reordered(gone, 'a', 0), 'b'))).toEqual(['a', 'engrave', 'cut', 'b', 'c'])
  })
})
