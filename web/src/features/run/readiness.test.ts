import { preflight } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { describe, expect, it } from 'vitest'
import { restingDesk } from '../../testing/fake-server.tsx'
import { doesFirst, missingBeforeStart, type Readiness } from './readiness.ts'

const job = sampleJob({ picture: squarePicture(20, 5) })
const asked = [
  ...preflight(job, []),
  { id: 'finding-edge', title: 'The cut leaves the workpiece', detail: '', kind: 'asked' as const },
]
const ready: Readiness = {
  operator: 'Mara',
  desk: restingDesk,
  stops: [],
  chosen: ['cut'],
  measured: true,
  items: asked,
  answers: new Set(asked.map(({ id }) => id)),
}
const without = (...ids: string[]) => new Set(asked.map(({ id }) => id).filter((id) => !ids.includes(id)))
const report = restingDesk.report!
/** A machine whose lens is set by hand. */
const byGauge = asked.map(({ action, ...item }) => (action === 'focus' ? item : { ...item, ...(action && { action }) }))

describe('what is missing before a start', () => {
  it('is nothing when all is seen to', () => {
    expect(missingBeforeStart(ready)).toBe('')
  })

  it.each<[string, Partial<Readiness>]>([
    ['say who you are first, at the top', { operator: '' }],
    ['connect the machine first', { desk: { ...restingDesk, state: 'lost' } }],
    ['first connection: check the machine', { desk: { ...restingDesk, checked: false } }],
    ['it cannot run as it is', { stops: ['It lies outside.'] }],
    ['choose a block below', { chosen: [] }],
    ['the job is being worked out', { measured: false }],
    ['go through the list first', { answers: without('people') }],
    ['set the focus, or say that it is set', { items: byGauge, answers: without('focus') }],
    ['answer what the check asks', { answers: without('finding-edge') }],
    ['close the lid first', { desk: { ...restingDesk, report: { ...report, lidOpen: true } } }],
    ['the machine is busy', { desk: { ...restingDesk, state: 'framing' } }],
    ['the machine is busy', { desk: { ...restingDesk, state: 'stopping' } }],
    ['the machine is busy', { desk: { ...restingDesk, report: { ...report, state: 'hold' } } }],
  ])('is “%s”', (missing, change) => {
    expect(missingBeforeStart({ ...ready, ...change })).toBe(missing)
  })

  it('is no way home and no focus where the machine sees to that itself: it is said what it does first', () => {
    const lost = { ...restingDesk, report: { ...report, state: 'alarm' as const } }
    expect(missingBeforeStart({ ...ready, desk: lost, answers: without('focus') })).toBe('')
    expect(doesFirst({ ...ready, desk: lost, answers: without('focus') })).toBe('homes, sets its focus')
    expect(doesFirst({ ...ready, items: byGauge, answers: without('focus') })).toBe('')
    expect(doesFirst(ready)).toBe('')
  })

  it('is told one thing at a time, in the order in which it is done', () => {
    expect(missingBeforeStart({ ...ready, operator: '', desk: { ...restingDesk, state: 'off' }, answers: new Set() })).toBe(
      'say who you are first, at the top',
    )
    expect(missingBeforeStart({ ...ready, answers: without('people', 'focus', 'finding-edge') })).toBe(
      'go through the list first',
    )
  })
})
