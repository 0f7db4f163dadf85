// The scheduler of what is computed: on an engine whose answers the test gives, one by one.
import { type JobDocument, withOperation } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { changing, closed, edited, opened } from '../store/job-slice.ts'
import { store } from '../store/store.ts'

interface Call {
  readonly what: 'draw' | 'forecast' | 'measure'
  readonly job: JobDocument
  readonly first?: readonly string[]
  readonly beside?: string
  answer(value: unknown): void
  fail(message: string): void
}
const { calls, cancelled, engine } = vi.hoisted(() => {
  const calls: Call[] = []
  const cancelled = { times: 0 }
  const deaths: (() => void)[] = []
  const ask = (what: Call['what']) => (job: JobDocument, extra?: never) =>
    new Promise((resolve, reject) =>
      calls.push({
        what,
        job,
        ...(what === 'draw' ? { first: extra } : { beside: extra }),
        answer: resolve,
        fail: (message) => reject(new Error(message)),
      }),
    )
  return {
    calls,
    cancelled,
    engine: {
      deaths,
      draw: ask('draw'),
      forecast: ask('forecast'),
      measure: ask('measure'),
      cancelWork: () => {
        cancelled.times++
      },
      progressNow: () => 0.4,
      onWorkerDeath: (listener: () => void) => {
        deaths.push(listener)
        return () => {}
      },
    },
  }
})
vi.mock('./engine.ts', () => engine)
const { evaluatedNow, isWorkedOut, lookAt, onEvaluated, painted, resumeWork, showBeside, stopWork, workOut } = await import(
  './use-evaluation.ts'
)

const document = sampleJob({ picture: squarePicture(20, 5) })
const DRAWING = { versions: {}, outlines: {}, bounds: {} }
const MEASURE = { report: { operations: [], seconds: 60 }, findings: [], outlines: {}, loose: [], places: {} }
const now = (): JobDocument => store.getState().job.document!
const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 1))
/** What is asked of the engine now; it asks for one thing at a time. */
const open = (): Call[] => calls.filter((call) => !done.has(call))
const done = new Set<Call>()
async function give(value: unknown): Promise<void> {
  const [call] = open()
  done.add(call)
  call.answer(value)
  // Whoever paints a result says so at once.
  await settle()
  painted('outline', now())
  painted('burn', now())
  await settle()
}
const asks = (): string[] => open().map(({ what }) => what)
const power = (value: number): JobDocument => withOperation(now(), 'cut', { power: value })

beforeEach(() => {
  calls.length = 0
  done.clear()
  cancelled.times = 0
  lookAt([])
  workOut('outlines')
  store.dispatch(opened({ id: `j${Math.random()}`, revision: 0, document, edits: [], unsent: [] }))
})
afterEach(async () => {
  // Whatever is still asked for ends, so that the next test begins with nothing under way.
  store.dispatch(closed())
  while (open().length > 0) await give(undefined)
  vi.useRealTimers()
})

describe('what is computed of a job', () => {
  it('comes in order: outlines, the burn, times and findings; then all of it belongs to the job', async () => {
    expect(asks()).toEqual(['draw'])
    await give(DRAWING)
    expect(evaluatedNow()).toMatchObject({ drawing: DRAWING, drawn: now() })
    expect(asks()).toEqual(['forecast'])
    await give(true)
    expect(evaluatedNow().forecast).toBe(now())
    expect(asks()).toEqual(['measure'])
    expect(isWorkedOut(now())).toBe(false)
    await give(MEASURE)
    expect(isWorkedOut(now())).toBe(true)
    expect(evaluatedNow()).toMatchObject({ measure: MEASURE, error: undefined, progress: undefined })
    expect(asks()).toEqual([])
  })

  it('draws first what is looked at, then the rest', async () => {
    await give(DRAWING)
    lookAt(['edge', 'gone', 'source'])
    store.dispatch(edited('power', power(0.4)))
    // The burn of the job before is not waited for.
    await give(true)
    expect(open()[0]).toMatchObject({ what: 'draw', first: ['edge'], job: now() })
    await give(DRAWING)
    expect(evaluatedNow().seen).toBe(now())
    expect(open()[0]).toMatchObject({ what: 'draw', first: undefined })
  })

  it('burns first where the burn is what is looked at', async () => {
    workOut('burn')
    await give(DRAWING)
    store.dispatch(edited('power', power(0.4)))
    await give(true)
    expect(open()[0]).toMatchObject({ what: 'forecast', job: now() })
  })

  it('is taken up anew when the job changes: what takes long is called off, old results stay until new ones are there', async () => {
    await give(DRAWING)
    const before = evaluatedNow().drawing
    // In the middle of the burn a drag goes on.
    store.dispatch(changing(power(0.3)))
    expect(cancelled.times).toBe(1)
    expect(evaluatedNow().drawing).toBe(before)
    // The engine answers that it was overtaken.
    await give(false)
    expect(open()[0]).toMatchObject({ what: 'draw', job: now() })
    store.dispatch(changing(power(0.35)))
    store.dispatch(changing(power(0.36)))
    const stale = { ...DRAWING }
    await give(stale)
    // Of all that were asked for meanwhile only the newest is worked out.
    expect(open().map(({ job }) => job.operations.cut.power)).toEqual([0.36])
    expect(evaluatedNow().drawn?.operations.cut.power).not.toBe(0.36)
  })

  it('stops where somebody stops it, and goes on where somebody goes on', async () => {
    await give(DRAWING)
    stopWork()
    expect(cancelled.times).toBe(1)
    await give(false)
    expect(evaluatedNow().cancelled).toBe(true)
    expect(asks()).toEqual([])
    resumeWork()
    expect(asks()).toEqual(['forecast'])
    await give(true)
    await give(MEASURE)
    expect(isWorkedOut(now())).toBe(true)
    // A change goes on by itself.
    stopWork()
    store.dispatch(edited('power', power(0.4)))
    expect(evaluatedNow().cancelled).toBe(false)
    expect(asks()).toEqual(['draw'])
  })

  it('is told in a sentence where it cannot be worked out, and not tried again until something changes', async () => {
    const [call] = open()
    done.add(call)
    call.fail('The picture is missing.')
    await settle()
    expect(evaluatedNow().error).toBe('The picture is missing.')
    expect(asks()).toEqual([])
    store.dispatch(edited('power', power(0.4)))
    await give(DRAWING)
    expect(evaluatedNow().error).toBeUndefined()
  })

  it('shows an operation that is put aside beside the others, and none when it is not looked at any more', async () => {
    await give(DRAWING)
    await give(true)
    await give(MEASURE)
    showBeside('spare')
    expect(open()[0]).toMatchObject({ what: 'forecast', beside: 'spare' })
    // Another one is wanted before that is there: the first burn is not shown for it.
    showBeside(undefined)
    await give(true)
    expect(evaluatedNow().forecast).toBeUndefined()
    expect(open()[0]).toMatchObject({ what: 'forecast', beside: undefined })
    await give(true)
    expect(evaluatedNow().forecast).toBe(now())
  })

  it('tells how far it is when it takes longer than half a second', async () => {
    const seen: (number | undefined)[] = []
    const stop = onEvaluated(() => seen.push(evaluatedNow().progress))
    await expect.poll(() => seen.includes(0.4), { timeout: 2000 }).toBe(true)
    stop()
    await give(DRAWING)
    await give(true)
    await give(MEASURE)
    expect(evaluatedNow().progress).toBeUndefined()
  })

  it('is gone with the worker that made it, and made again', async () => {
    await give(DRAWING)
    await give(true)
    await give(MEASURE)
    for (const died of engine.deaths) died()
    expect(evaluatedNow()).toMatchObject({ drawn: undefined, forecast: undefined, measured: now() })
    expect(asks()).toEqual(['draw'])
    await give(DRAWING)
    await give(true)
    expect(isWorkedOut(now())).toBe(true)
  })

  it('of one job is never shown for another', async () => {
    await give(DRAWING)
    expect(evaluatedNow().drawing).toBeDefined()
    store.dispatch(opened({ id: 'another', revision: 0, document, edits: [], unsent: [] }))
    expect(evaluatedNow()).toMatchObject({ drawing: undefined, measure: undefined })
  })
})
