import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { Step } from '../job/document/steps.ts'
import { askedBefore } from '../plan/plan.ts'
import { checkJob } from '../reading/check-job.ts'
import { onlySteps } from '../run/changes.ts'
import { setUps } from '../run/set-ups.ts'
import { sampleJob, squarePicture } from '../testing/sample-job.ts'
import { withArtwork } from './add-artwork.ts'
import { usedAgain } from './give-process.ts'
import {
  burned,
  groupedSteps,
  groupNamed,
  putAside,
  stepAdded,
  stepAs,
  stepsMoved,
  stretchesOf,
  withoutSteps,
} from './steps-edits.ts'
import { withoutArtwork } from './take-away.ts'

const sample = sampleJob({ picture: squarePicture(20, 5) })
const pause: Step = { kind: 'pause', text: 'Peel the mask off' }
/** engrave, cut, a, b, c: every step has the name of its operation. */
const five = ['a', 'b', 'c'].reduce((job: JobDocument, id) => burned(job, id, sample.operations.engrave), sample)

describe('the line of a job', () => {
  it('holds together whatever is moved, added, grouped and taken away', () => {
    const at = fc.nat(9)
    const picks = fc.uniqueArray(fc.nat(8), { minLength: 1, maxLength: 3 })
    const change = fc.oneof(
      fc.record({ what: fc.constant('move' as const), picks, at }),
      fc.record({ what: fc.constant('group' as const), picks, at }),
      fc.record({ what: fc.constant('add' as const), picks, at }),
      fc.record({ what: fc.constant('off' as const), picks, at }),
      fc.record({ what: fc.constant('on' as const), picks, at }),
      fc.record({ what: fc.constant('take' as const), picks, at }),
      fc.record({ what: fc.constant('part' as const), picks, at }),
    )
    fc.assert(
      fc.property(fc.array(change, { maxLength: 14 }), (changes) => {
        let job = five
        for (const { what, picks: some, at: to } of changes) {
          const ids = [...new Set(some.map((i) => job.order[i % Math.max(1, job.order.length)]))].filter(Boolean)
          const burning = burnOrder(job)
          if (what === 'move') {
            const before = job.order.filter((id) => ids.includes(id))
            job = stepsMoved(job, ids, to)
            const first = job.order.indexOf(before[0])
            expect(job.order.slice(first, first + before.length)).toEqual(before)
            expect([...burnOrder(job)].sort()).toEqual([...burning].sort())
          } else if (what === 'group') {
            job = groupedSteps(job, ids, 'Front')
            if (ids.length > 0)
              expect(stretchesOf(job).some(({ group, steps }) => group && steps.length === ids.length)).toBe(true)
          } else if (what === 'add') {
            const made = stepAdded(job, pause, to)
            job = made.job
            expect(job.order.indexOf(made.step)).toBe(Math.min(to, job.order.length - 1))
          } else if (what === 'off' || what === 'on') {
            const id = Object.keys(job.operations)[to % 5]
            const next = what === 'off' ? putAside(job, id) : usedAgain(job, id)
            expect(burnOrder(next).includes(id)).toBe(what === 'on')
            job = next
          } else if (what === 'part') job = groupNamed(job, 'Front', to > 4 ? 'Back' : undefined)
          else
            job = withoutSteps(
              job,
              ids.filter((id) => job.steps[id].kind === 'pause'),
            )
          expect(checkJob(job)).toEqual(job)
          expect(stretchesOf(job).flatMap(({ steps }) => steps)).toEqual(job.order)
          expect(checkJob(withArtwork(sample, job, 'x')).order).toHaveLength(job.order.length + 2)
        }
      }),
    )
  })

  it('moves a group as one, takes in what comes between its steps, and lets go what leaves', () => {
    const grouped = groupedSteps(five, ['cut', 'b'], 'Front')
    expect(grouped.order).toEqual(['engrave', 'cut', 'b', 'a', 'c'])
    const last = stepsMoved(grouped, ['cut', 'b'], 9)
    expect(stretchesOf(last)).toEqual([
      { steps: ['engrave'] },
      { steps: ['a'] },
      { steps: ['c'] },
      { group: 'Front', steps: ['cut', 'b'] },
    ])
    const taken = stepsMoved(last, ['a'], 3)
    expect(stretchesOf(taken).at(-1)).toEqual({ group: 'Front', steps: ['cut', 'a', 'b'] })
    expect(stretchesOf(stepsMoved(taken, ['a'], 0))[0]).toEqual({ steps: ['a'] })
    const again = groupedSteps(last, ['engrave', 'a'], 'Front')
    expect(stretchesOf(again)[0].group).toBe('Front 2')
    expect(stretchesOf(groupNamed(again, 'Front 2', undefined)).map(({ group }) => group)).toEqual([
      undefined,
      undefined,
      undefined,
      'Front',
    ])
  })

  it('does not burn what is switched off, and asks what stands there all the same', () => {
    const { job, step } = stepAdded(five, pause, 1)
    const off = putAside(job, 'cut')
    expect(burnOrder(off)).toEqual(['engrave', 'a', 'b', 'c'])
    expect(off.order).toEqual(job.order)
    expect(askedBefore(off).get('a')).toEqual(['Peel the mask off'])
    expect(setUps(off)).toEqual([['engrave', 'a', 'b', 'c']])
    expect(onlySteps(off, new Set(['b'])).order).toEqual([step, 'b'].slice(1))
    expect(usedAgain(off, 'cut')).toEqual(job)
  })

  it('keeps what another tool cuts as long as it is there', () => {
    const [node] = sample.operations.cut.of
    const { job, step } = stepAdded(
      sample,
      { kind: 'elsewhere', text: 'Cut the panel out', tool: 'router', of: [node], toolMm: 3 },
      9,
    )
    expect(checkJob(job)).toEqual(job)
    expect(stepAs(job, step, pause).steps[step]).toEqual(pause)
    const pasted = checkJob(withArtwork(sample, job, 'x'))
    expect(pasted.steps[`${step}-x`]).toMatchObject({ of: [`${node}-x`] })
    expect(checkJob(withoutArtwork(job, [node])).steps[step]).toMatchObject({ of: [] })
    expect(() => checkJob({ ...job, steps: { ...job.steps, [step]: { ...job.steps[step], of: ['source'] } } })).toThrow(
      'cuts artwork that is missing or has no outline',
    )
  })
})
