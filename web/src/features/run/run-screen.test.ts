// The run screen as a machine: what can be pressed by a table, and by random walks that nothing lights the beam that should not.
import { DESK_STATES, type DeskLive, type RunLive } from '@neotaxis/contract'
import { preflight } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { restingDesk } from '../../testing/fake-server.tsx'
import { isBusy } from '../live/desk-words.ts'
import { freshHand, type Hand, type HandSaid, hand as handAfter, knowsPlace, type RunFacts, runScreen } from './run-screen.ts'

const job = sampleJob({ picture: squarePicture(20, 5) })
const items = preflight(job, [])
const ALL = new Set(items.map(({ id }) => id))
const run: RunLive = {
  id: 'r1',
  jobId: 'j',
  name: 'Net float',
  operator: 'Mara',
  phase: 'running',
  reason: '',
  instruction: null,
  place: null,
  lines: 400,
  seconds: 66,
  estimateSeconds: 600,
  doneSeconds: 60,
  operation: 'engrave',
  only: null,
  startedAt: 0,
}
const hand: Hand = { ...freshHand(['engrave', 'cut']), answers: ALL }
const facts: RunFacts = {
  jobId: 'j',
  operator: 'Mara',
  desk: restingDesk,
  hand,
  stops: [],
  items,
  measured: true,
  open: [],
  blocks: 2,
  frame: { power: 0, loop: true },
}
const desk = (change: Partial<DeskLive>): Partial<RunFacts> => ({ desk: { ...restingDesk, ...change } })
const at = (phase: string, change: Partial<DeskLive> = {}) => desk({ state: 'running', run: { ...run, phase }, ...change })
const shown = (change: Partial<RunFacts>): string => {
  const { at: where, buttons } = runScreen({ ...facts, ...change })
  return `${where}: ${buttons.map(({ does, disabled }) => (disabled ? `(${does})` : does)).join(' ')}`
}

describe('what can be pressed', () => {
  const table: readonly (readonly [string, Partial<RunFacts>, string])[] = [
    ['all is seen to', {}, 'before: frame start arm'],
    ['the list is not gone through', { hand: { ...hand, answers: new Set() } }, 'before: frame (start) (arm)'],
    ['no block is chosen', { hand: { ...hand, chosen: [] } }, 'before: (frame) (start) (arm)'],
    ['it cannot run as it is', { stops: ['It lies outside.'] }, 'before: frame (start) (arm)'],
    ['it is being worked out', { measured: false }, 'before: frame (start) (arm)'],
    ['nobody said who they are', { operator: '' }, 'before: frame (start) (arm)'],
    ['the machine is not connected', desk({ state: 'off', report: null }), 'before: (frame) (start) (arm)'],
    ['its connection is lost', desk({ state: 'lost' }), 'before: (frame) (start) (arm)'],
    ['it frames', desk({ state: 'framing' }), 'busy: stop'],
    ['it shows the place of the beam', desk({ state: 'pulsing' }), 'busy: stop'],
    ['somebody moves the head', desk({ state: 'jogging' }), 'busy: stop'],
    ['the program is being made', desk({ state: 'preparing' }), 'busy: stop'],
    ['another job runs', at('running', { run: { ...run, jobId: 'k' } }), 'busy: stop'],
    ['another job ended', desk({ run: { ...run, jobId: 'k', phase: 'done' } }), 'before: frame start arm'],
    ['it waits for the button at the machine', at('armed'), 'active: (hold) stop'],
    ['it runs', at('running'), 'active: hold stop'],
    ['it is held', at('held', { state: 'holding' }), 'active: resume stop'],
    ['it waits in a planned pause', at('paused', { state: 'holding' }), 'active: resume stop'],
    ['the lid was opened', at('lid', { state: 'holding' }), 'active: resume stop'],
    ['its connection is lost in the middle', at('away', { state: 'looking' }), 'active: (resume) stop'],
    ['it stops', at('stopping', { state: 'stopping' }), 'active: stop'],
    ['it ended', desk({ run: { ...run, phase: 'done' } }), 'over: (again) finish'],
    ['it ended, something is open', { ...desk({ run: { ...run, phase: 'done' } }), open: ['lift'] }, 'over: (again) sure'],
    [
      'it ended, something is open, and that is said to be so',
      { ...desk({ run: { ...run, phase: 'done' } }), open: ['lift'], hand: { ...hand, isSure: true } },
      'over: (again) finish',
    ],
    [
      'it ended, and something is missing',
      { ...desk({ run: { ...run, phase: 'done' } }), hand: { ...hand, again: { cut: { passes: 1 } } } },
      'over: again finish',
    ],
    [
      'it ended, and nobody knows yet what was written down',
      { ...desk({ run: { ...run, phase: 'done' } }), hand: { ...hand, again: { cut: { passes: 1 } } }, open: undefined },
      'over: (again) (finish)',
    ],
    ['it ended, and the head is moved', desk({ state: 'jogging', run: { ...run, phase: 'done' } }), 'over: stop'],
    [
      'it was finished with',
      { ...desk({ run: { ...run, phase: 'done' } }), hand: { ...hand, left: 'r1' } },
      'before: frame start arm',
    ],
  ]
  it.each(table)('where %s', (_, change, buttons) => {
    expect(shown(change)).toBe(buttons)
  })
})

describe('what the operator said', () => {
  const said = (...all: readonly HandSaid[]): Hand => all.reduce(handAfter, freshHand(['engrave', 'cut']))

  it('counts for one start', () => {
    const before = said({ type: 'all answered', items: ['people', 'air'] }, { type: 'answered', item: 'air', yes: false })
    expect([...before.answers]).toEqual(['people'])
    expect(handAfter(before, { type: 'started' }).answers.size).toBe(0)
  })

  it('about the focus counts until the machine does not know its place any more', () => {
    const focused = said({ type: 'answered', item: 'focus', yes: true }, { type: 'answered', item: 'people', yes: true })
    expect([...handAfter(focused, { type: 'place lost' }).answers]).toEqual(['people'])
    expect(knowsPlace(restingDesk)).toBe(true)
    expect(knowsPlace({ ...restingDesk, state: 'off' })).toBe(false)
    expect(knowsPlace({ ...restingDesk, report: { ...restingDesk.report!, state: 'alarm' } })).toBe(false)
  })

  it('about blocks is of the operations that are there', () => {
    const chosen = said({ type: 'chose', blocks: ['cut'] })
    expect(chosen.chosen).toEqual(['cut'])
    expect(handAfter(chosen, { type: 'order', order: ['engrave', 'score', 'cut'] }).chosen).toEqual(['engrave', 'score', 'cut'])
  })
})

describe('whatever happens in whatever order', () => {
  const phases = ['armed', 'running', 'held', 'paused', 'lid', 'homing', 'away', 'stopping', 'done', 'stopped', 'refused', 'lost']
  const desks = fc.record({
    state: fc.constantFrom(...DESK_STATES),
    reported: fc.constantFrom('idle', 'run', 'hold', 'alarm', 'lid', 'armed', 'none'),
    lidOpen: fc.boolean(),
    checked: fc.boolean(),
    run: fc.option(
      fc.record({ id: fc.constantFrom('r1', 'r2'), jobId: fc.constantFrom('j', 'k'), phase: fc.constantFrom(...phases) }),
    ),
  })
  const says: fc.Arbitrary<HandSaid> = fc.oneof(
    fc.record({ type: fc.constant('answered' as const), item: fc.constantFrom(...ALL), yes: fc.boolean() }),
    fc.constant({ type: 'all answered', items: [...ALL] } as const),
    fc.record({ type: fc.constant('chose' as const), blocks: fc.subarray(['engrave', 'cut']) }),
    fc.record({ type: fc.constant('again' as const), again: fc.constantFrom<Hand['again']>({}, { cut: { passes: 1 } }) }),
    fc.constant({ type: 'sure' } as const),
    fc.record({ type: fc.constant('finished' as const), run: fc.constantFrom('r1', 'r2') }),
  )
  const happens = fc.oneof(
    fc.record({ is: fc.constant('machine' as const), told: desks }),
    fc.record({ is: fc.constant('said' as const), said: says }),
    fc.record({ is: fc.constant('job' as const), stops: fc.constantFrom([], ['It lies outside.']), measured: fc.boolean() }),
    fc.record({ is: fc.constant('press' as const), nth: fc.nat({ max: 2 }) }),
  )

  it('the beam is lit only after the list, on a machine that stands free, and Stop is there whenever anything moves', () => {
    fc.assert(
      fc.property(fc.array(happens, { maxLength: 50 }), (all) => {
        let now: RunFacts = { ...facts, hand: freshHand(['engrave', 'cut']) }
        for (const one of all) {
          if (one.is === 'machine') {
            const { reported, lidOpen, run: of, ...rest } = one.told
            const report = reported === 'none' ? null : { ...restingDesk.report!, state: reported, lidOpen }
            now = { ...now, desk: { ...restingDesk, ...rest, report, run: of && { ...run, ...of } } }
            if (!knowsPlace(now.desk)) now = { ...now, hand: handAfter(now.hand, { type: 'place lost' }) }
          } else if (one.is === 'said') now = { ...now, hand: handAfter(now.hand, one.said) }
          else if (one.is === 'job') now = { ...now, stops: one.stops, measured: one.measured }
          else {
            const pressed = runScreen(now).buttons.filter(({ disabled }) => !disabled)[one.nth]
            if (pressed?.does === 'start' || pressed?.does === 'arm') {
              // What the machine sees to itself, without its beam, is no question.
              expect(now.items.every(({ id, action }) => action === 'focus' || now.hand.answers.has(id))).toBe(true)
              now = { ...now, hand: handAfter(now.hand, { type: 'started' }) }
            }
          }
          const { at: where, buttons, mine, missing } = runScreen(now)
          const can = new Set(buttons.filter(({ disabled }) => !disabled).map(({ does }) => does))
          const { state, report } = now.desk
          // Whatever the machine does for anybody can be stopped here.
          if (isBusy(now.desk) || where === 'active') expect(can.has('stop')).toBe(true)
          // What lights the beam: never while it does anything else, and never two things at once.
          if (can.has('start') || can.has('arm')) {
            expect({ where, missing, state, lid: report?.lidOpen }).toEqual({
              where: 'before',
              missing: '',
              state: 'idle',
              lid: false,
            })
            // One that does not know its place homes first.
            expect(['idle', 'alarm']).toContain(report?.state)
            expect(now.stops).toEqual([])
            expect(now.hand.chosen.length).toBeGreaterThan(0)
          }
          if (can.has('frame')) expect(state).toBe('idle')
          if (can.has('again')) expect(where).toBe('over')
          if (can.has('resume'))
            expect(mine && !['done', 'stopped', 'refused', 'lost', 'away', 'stopping'].includes(mine.phase)).toBe(true)
          expect(['start', 'again', 'resume', 'hold'].filter((does) => can.has(does as 'start')).length).toBeLessThanOrEqual(1)
          expect(new Set(buttons.map(({ does }) => does)).size).toBe(buttons.length)
        }
      }),
      { numRuns: 2000 },
    )
  })
})
