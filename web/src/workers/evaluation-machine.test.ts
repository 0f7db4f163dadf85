// The evaluation as a machine: what comes next by a table, and that nothing stale is ever taken for new by random walks.
import type { JobDocument } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  AT_REST,
  type Evaluated,
  type Evaluation,
  evaluation,
  isWorkedOutIn,
  nextStep,
  type Said,
  type Step,
  yields,
} from './evaluation-machine.ts'

const sample = sampleJob({ picture: squarePicture(20, 5) })
const named = (n: number): JobDocument => ({ ...sample, name: String(n) })
const A = named(1)
const B = named(2)
const DRAWING = { versions: {}, outlines: {}, bounds: {} }
const MEASURE = { report: { operations: [], seconds: 60 }, findings: [], outlines: {}, loose: [], places: {} } as never

const after = (...all: readonly Said[]): Evaluation => all.reduce(evaluation, AT_REST)
const want = (document: JobDocument | null, jobId = 'j'): Said => ({ type: 'wanted', jobId, document })
const begin = (step: Step): Said => ({ type: 'begun', step })
/** What the engine gives for a step. */
const give = ({ kind }: Step): Said => ({
  type: 'answered',
  result: kind === 'draw' ? { drawing: DRAWING } : kind === 'forecast' ? { painted: true } : { measure: MEASURE },
})
const CALLED_OFF: Said = { type: 'answered', result: undefined }
/** The next step is begun and answered. */
const stepped = (state: Evaluation): Evaluation => {
  const step = nextStep(state)
  return step ? evaluation(evaluation(state, begin(step)), give(step)) : state
}
const words = (step: Step | undefined): string =>
  step ? `${step.kind}${'only' in step && step.only ? ` ${step.only.join(' ')}` : ''} of ${step.job.name}` : 'nothing'

describe('what comes next', () => {
  const drawn: Partial<Evaluated> = { seen: A, drawn: A }
  const burned: Partial<Evaluated> = { ...drawn, forecast: A }
  const all: Partial<Evaluated> = { ...burned, measured: A }
  const table: readonly (readonly [string, Partial<Evaluation>, Partial<Evaluated>, string])[] = [
    ['no job is open', { wanted: null }, {}, 'nothing'],
    ['nothing is known', {}, {}, 'draw of 1'],
    ['somebody looks at an outline', { looked: ['edge', 'source', 'gone'] }, {}, 'draw edge of 1'],
    ['that outline is there', { looked: ['edge'] }, { seen: A }, 'draw of 1'],
    ['outlines of a document before', {}, { seen: B, drawn: B, forecast: B, measured: B }, 'draw of 1'],
    ['all outlines are there', {}, drawn, 'forecast of 1'],
    ['the burn is there too', {}, burned, 'measure of 1'],
    ['all is there', {}, all, 'nothing'],
    ['the burn comes first', { burnFirst: true }, {}, 'forecast of 1'],
    ['the burn came first', { burnFirst: true }, { forecast: A }, 'draw of 1'],
    ['somebody stopped it', {}, { cancelled: true }, 'nothing'],
    ['something is under way', { underWay: { kind: 'draw', job: A } }, {}, 'nothing'],
  ]
  it.each(table)('where %s', (_, change, shown, next) => {
    const state: Evaluation = { ...AT_REST, jobId: 'j', wanted: A, ...change, shown: { ...AT_REST.shown, ...shown } }
    expect(words(nextStep(state))).toBe(next)
  })
})

describe('a newer document', () => {
  const table: readonly (readonly [string, Step, Partial<Evaluated>, boolean, boolean])[] = [
    ['finishes outlines that are looked at', { kind: 'draw', job: A, only: ['edge'] }, {}, false, false],
    ['finishes outlines where nobody looks at some', { kind: 'draw', job: A }, {}, false, false],
    ['calls off outlines that nobody looks at', { kind: 'draw', job: A }, { seen: A }, false, true],
    ['calls off the burn', { kind: 'forecast', job: A, beside: undefined, hidden: [] }, { seen: A, drawn: A }, false, true],
    ['finishes the burn where it is looked at', { kind: 'forecast', job: A, beside: undefined, hidden: [] }, {}, true, false],
    ['calls off times and findings', { kind: 'measure', job: A }, { seen: A, drawn: A, forecast: A }, true, true],
  ]
  it.each(table)('%s', (_, underWay, shown, burnFirst, off) => {
    const state = { ...AT_REST, jobId: 'j', wanted: A, burnFirst, underWay, shown: { ...AT_REST.shown, ...shown } }
    expect(yields(evaluation(state, want(B)))).toBe(off)
  })

  it('is tried though the one before fails in the middle; only its own failure counts', () => {
    const failed: Said = { type: 'failed', message: 'The picture is missing.' }
    const over = after(want(A), begin({ kind: 'draw', job: A }), want(B), failed)
    expect(over.shown.error).toBeUndefined()
    expect(words(nextStep(over))).toBe('draw of 2')
    const own = after(want(A), begin({ kind: 'draw', job: A }), failed)
    expect(own.shown.error).toBe('The picture is missing.')
    expect(nextStep(own)).toBeUndefined()
    expect(words(nextStep(evaluation(own, want(B))))).toBe('draw of 2')
  })

  it('goes on by itself where the one before was stopped', () => {
    const stopped = after(want(A), begin({ kind: 'draw', job: A }), CALLED_OFF)
    expect(stopped.shown.cancelled).toBe(true)
    expect(words(nextStep(evaluation(stopped, { type: 'resumed' })))).toBe('draw of 1')
    expect(words(nextStep(evaluation(stopped, want(B))))).toBe('draw of 2')
  })
})

describe('whatever happens in whatever order', () => {
  const documents = [0, 1, 2, 3].map(named)
  const happens = fc.oneof(
    { weight: 6, arbitrary: fc.constant({ type: 'step' } as const) },
    { weight: 6, arbitrary: fc.constant({ type: 'answer' } as const) },
    fc.constant({ type: 'called off' } as const),
    fc.constant({ type: 'fails' } as const),
    {
      weight: 3,
      arbitrary: fc.record({
        type: fc.constant('wants' as const),
        n: fc.nat({ max: 3 }),
        job: fc.constantFrom('j', 'j', 'j', 'k'),
      }),
    },
    fc.record({ type: fc.constant('looks' as const), at: fc.constantFrom([], ['edge'], ['source'], ['gone']) }),
    fc.record({ type: fc.constant('first' as const), burn: fc.boolean() }),
    fc.record({ type: fc.constant('beside' as const), operation: fc.constantFrom(undefined, 'spare') }),
    fc.constant({ type: 'resumes' } as const),
    fc.constant({ type: 'dies' } as const),
  )

  it('what counts as belonging to a document was made of that document, and it is all there in the end', () => {
    fc.assert(
      fc.property(fc.array(happens, { maxLength: 60 }), (all) => {
        let state = evaluation(AT_REST, want(documents[0]))
        /** What the engine really made of which document since it last began. */
        let made = { drawn: new Set<JobDocument>(), forecast: new Set<string>(), measured: new Set<JobDocument>() }
        const key = (job: JobDocument, beside: string | undefined): string => `${job.name} ${beside ?? ''}`
        const say = (said: Said): void => {
          const { underWay } = state
          if (said.type === 'answered' && said.result && underWay) {
            if (underWay.kind === 'draw') made.drawn.add(underWay.job)
            else if (underWay.kind === 'forecast') made.forecast.add(key(underWay.job, underWay.beside))
            else made.measured.add(underWay.job)
          }
          if (said.type === 'died') made = { ...made, drawn: new Set(), forecast: new Set() }
          state = evaluation(state, said)
        }
        for (const one of all) {
          if (one.type === 'step') {
            const step = nextStep(state)
            if (step) say(begin(step))
          } else if (one.type === 'answer') {
            if (state.underWay) say(give(state.underWay))
          } else if (one.type === 'called off') {
            if (state.underWay) say(CALLED_OFF)
          } else if (one.type === 'fails') {
            if (state.underWay) say({ type: 'failed', message: 'It failed.' })
          } else if (one.type === 'wants') say(want(documents[one.n], one.job))
          else if (one.type === 'looks') say({ type: 'looked', nodes: one.at })
          else if (one.type === 'first') say({ type: 'first', burn: one.burn })
          else if (one.type === 'beside') say({ type: 'beside', operation: one.operation })
          else if (one.type === 'resumes') say({ type: 'resumed' })
          else say({ type: 'died' })
          const { drawn, forecast, measured, error, failed } = state.shown
          expect(error === undefined).toBe(failed === undefined)
          if (drawn) expect(made.drawn.has(drawn)).toBe(true)
          if (forecast) expect(made.forecast.has(key(forecast, state.beside))).toBe(true)
          if (measured) expect(made.measured.has(measured)).toBe(true)
        }
        // It comes to rest with all of what is wanted, unless somebody stopped it or it cannot be worked out.
        if (state.underWay) say(give(state.underWay))
        // A failure is told until something changes.
        if (state.shown.failed) say(want(named(9)))
        say({ type: 'resumed' })
        for (let n = 0; n < 6; n++) state = stepped(state)
        expect(nextStep(state)).toBeUndefined()
        expect(isWorkedOutIn(state.shown, state.wanted!)).toBe(true)
      }),
      { numRuns: 2000 },
    )
  })
})
