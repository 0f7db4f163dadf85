// @vitest-environment happy-dom
import type { DeskLive, RunLive } from '@neotaxis/contract'
import { type Finding, type JobDocument, mainPiece, ROTARIES, withPiece, withRound } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { closed, opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { operatorNamed } from '../../store/view-slice.ts'
import { type Asked, fakeServer, fillBrowser, restingDesk, shown } from '../../testing/fake-server.tsx'
import { RunMain } from './RunMain.tsx'

const job = sampleJob({ picture: squarePicture(20, 5) })
const finding: Finding = {
  id: 'edge',
  check: 'edge',
  severity: 'ask',
  message: 'The cut leaves the workpiece: 26.1 mm over its top edge',
  operation: 'cut',
  fixes: [],
} as unknown as Finding
const evaluated = { measured: job, measure: { findings: [finding], report: { operations: [], seconds: 60 } } }

// What is computed comes from elsewhere; the stage paints in a browser only.
vi.mock('../../workers/use-evaluation.ts', () => ({ useEvaluation: (pick: (state: unknown) => unknown) => pick(evaluated) }))
vi.mock('../compose/JobStage.tsx', () => ({ JobStage: () => <div data-testid="stage" /> }))
const partly = vi.hoisted(() => ({ asked: [] as unknown[], answer: undefined as unknown }))
vi.mock('../../workers/engine.ts', () => ({
  compareWithBurn: () => new Promise(() => {}),
  program: async () => [],
  partOf: async (run: unknown) => {
    partly.asked.push(run)
    return partly.answer
  },
}))

const run: RunLive = {
  id: 'r1',
  jobId: 'j',
  name: 'Sample',
  operator: 'Mara',
  phase: 'running',
  reason: '',
  instruction: null,
  place: { driven: 50, x: 12, y: 30, z: 3 },
  lines: 400,
  seconds: 66,
  estimateSeconds: 600,
  doneSeconds: 60,
  operation: 'engrave',
  only: null,
  startedAt: 0,
}
const ended = {
  ...run,
  phase: 'done',
  document: job,
  scope: {},
  operations: [],
  looks: {},
  closing: [] as string[],
  events: [],
  burn: { cellMm: 0.1, x: 0, y: 0 },
  parentId: null,
}
let asked: Asked[]
const orders = () => asked.filter(({ method }) => method !== 'GET').map(({ method, path }) => `${method} ${path}`)

beforeEach(() => {
  fillBrowser()
  store.dispatch(opened({ id: 'j', revision: 3, document: job, edits: [], unsent: [] }))
  store.dispatch(operatorNamed('Mara'))
  asked = fakeServer({
    'GET /runs/r1': ended,
    'POST /machines': undefined,
    'POST /runs': undefined,
    'PATCH /runs': {},
    'POST /machines/bench-60/runs': { id: 'r1' },
  })
})
afterEach(() => {
  cleanup()
  store.dispatch(closed())
  vi.unstubAllGlobals()
})

const show = (desk: Partial<DeskLive> = {}) => shown(<RunMain id="j" job={job} desk={{ ...restingDesk, ...desk }} />)
const press = (id: string) => fireEvent.click(screen.getByTestId(id))

describe('before the start', () => {
  it('ticks the routine together; what the check asks needs a press of its own; the focus is set by the start itself', async () => {
    show()
    expect(screen.getByTestId('preflight-count').textContent).toBe('Before this start, 0 of 10')
    expect(screen.getByTestId('start').textContent).toContain('go through the list first')
    press('preflight-all')
    expect(screen.getByTestId('start').textContent).toContain('answer what the check asks')
    expect((screen.getByTestId('start') as HTMLButtonElement).disabled).toBe(true)
    press('preflight-finding-edge')
    expect((screen.getByTestId('start') as HTMLButtonElement).disabled).toBe(false)
    // It is kept as meant for this version of the job.
    expect(store.getState().job.document!.meant).toEqual({ edge: finding.message })
    expect(screen.getByTestId('start').textContent).toContain('sets its focus, then the beam goes on')
    press('preflight-focus')
    expect(screen.getByTestId('start').textContent).toBe('Startthe beam goes on')
  })

  it('homes and sets the focus before it starts; nothing is started where it was stopped on its way', async () => {
    let answer: (made: undefined) => void = () => {}
    asked = fakeServer({
      'POST /machines/bench-60/ready': () => new Promise<undefined>((resolve) => (answer = resolve)),
      'POST /machines/bench-60/stop': undefined,
      'POST /machines/bench-60/runs': { id: 'r9' },
    })
    const posts = (path: string) => asked.filter((one) => one.path === `/machines/bench-60/${path}`)
    show({ report: { ...restingDesk.report!, state: 'alarm' } })
    press('preflight-all')
    press('preflight-finding-edge')
    store.dispatch(opened({ id: 'j', revision: 3, document: job, edits: [], unsent: [] }))
    expect(screen.getByTestId('start').textContent).toContain('homes, sets its focus, then the beam goes on')
    await act(async () => press('start'))
    await waitFor(() => expect(posts('ready')).toHaveLength(1))
    expect(posts('ready')[0].body).toEqual({ z: 3, speedMmS: 8 })
    // Stopped from here, though the answer that it is ready comes after that.
    await act(async () => {
      fireEvent.keyDown(window, { key: 'Escape', shiftKey: true })
      answer(undefined)
    })
    expect(await screen.findByText('It was stopped: nothing was started.')).toBeTruthy()
    expect(posts('runs')).toHaveLength(0)
    await act(async () => press('start'))
    await waitFor(() => expect(posts('ready')).toHaveLength(2))
    await act(async () => answer(undefined))
    await waitFor(() => expect(posts('runs')).toHaveLength(1))
    expect((posts('runs')[0].body as { answers: string[] }).answers).toContain('focus')
  })

  it('counts the focus as set only when the head got there', async () => {
    asked = fakeServer({ 'POST /machines/bench-60/go': { refuse: 409, message: 'The machine is framing: stop that first.' } })
    show()
    await act(async () => press('to-focus'))
    expect(await screen.findByText('The machine is framing: stop that first.')).toBeTruthy()
    expect(screen.getByTestId('preflight-focus').getAttribute('aria-checked')).toBe('false')
  })

  it('sends the head to the handle of what turns, and frames it slowly', async () => {
    const handle = { name: 'handle', outline: { kind: 'rect', widthMm: 60, heightMm: 20 }, pose: { xMm: 30, yMm: 10 } } as const
    const cup = withPiece(withRound(job, ROTARIES.rollers, 80, 120), { keepOuts: { handle } })
    shown(<RunMain id="j" job={cup} desk={restingDesk} />)
    await act(async () => press('to-rotary-start'))
    const [sent] = asked.filter(({ path }) => path.endsWith('/go'))
    const { x, y } = sent.body as { x: number; y: number }
    // The middle of the handle, 20 mm around from the seam; the controller counts from the front.
    expect(x).toBeCloseTo(mainPiece(cup).pose.xMm + 60, 3)
    expect(y).toBeCloseTo(80 * Math.PI - 20, 2)
    expect(screen.getByText('Ø 80 mm lies level in it and turns freely')).toBeTruthy()
    expect((screen.getByRole('textbox', { name: 'Speed' }) as HTMLInputElement).value).toBe('15')
  })

  it('starts with what was confirmed, and says why where it is refused', async () => {
    asked = fakeServer({
      'POST /machines/bench-60/runs': { refuse: 409, message: 'Tobin is at this machine: framing.', code: 'taken' },
    })
    show()
    for (const id of ['preflight-all', 'preflight-focus', 'preflight-finding-edge']) press(id)
    store.dispatch(opened({ id: 'j', revision: 3, document: job, edits: [], unsent: [] }))
    await act(async () => press('start'))
    expect(await screen.findByText('Tobin is at this machine: framing.')).toBeTruthy()
    const { body } = asked.find(({ path }) => path.endsWith('/runs'))!
    expect(body).toMatchObject({ jobId: 'j', revision: 3, armed: false, parentId: null })
    expect((body as { answers: string[] }).answers).toContain('finding-edge')
    // What was confirmed stays confirmed.
    expect(screen.getByTestId('preflight-people').getAttribute('aria-checked')).toBe('true')
  })

  it('asks only what speaks against the blocks that run', async () => {
    show()
    expect(screen.queryByTestId('preflight-finding-edge')).not.toBeNull()
    press('strip-cut')
    expect(screen.queryByTestId('preflight-finding-edge')).toBeNull()
  })

  it('runs a part with its own settings, typed in per cent, and asks what speaks against that', async () => {
    partly.answer = { report: { operations: [], seconds: 12 }, findings: [] }
    show()
    press('part-of-run')
    press('other-settings')
    const power = within(screen.getByTestId('this-run-cut')).getByTestId('change-power')
    fireEvent.change(power, { target: { value: '+20 %' } })
    fireEvent.blur(power)
    await waitFor(() => expect(screen.queryByTestId('preflight-finding-edge')).toBeNull())
    const run = partly.asked.at(-1) as JobDocument
    expect(run.operations.cut.power).toBeCloseTo(1.2 * job.operations.cut.power)
    for (const id of ['preflight-all', 'preflight-focus']) press(id)
    await act(async () => press('start'))
    const { body } = asked.find(({ path }) => path.endsWith('/runs'))!
    expect((body as { changes: { cut: { power: number } } }).changes.cut.power).toBeCloseTo(1.2 * job.operations.cut.power)
    expect(store.getState().job.document!.operations.cut.power).toBe(job.operations.cut.power)
    press('whole-run')
    expect(screen.queryByTestId('preflight-finding-edge')).not.toBeNull()
  })

  it('sends every order as JSON, with a name', async () => {
    show()
    await act(async () => press('frame'))
    const { headers } = asked.find(({ path }) => path === '/machines/bench-60/frame')!
    expect(headers['Content-Type']).toBe('application/json')
  })
})

describe('Stop', () => {
  it.each([
    ['framing', 'Stop framing'],
    ['pulsing', 'Stop the pulses'],
    ['preparing', 'nothing burns yet'],
    ['starting', 'its first lines go out'],
    ['stopping', 'until the machine says that it stands'],
    ['homing', 'the head looks for its corner'],
    ['jogging', 'the head moves'],
  ] as const)('is there while the machine is %s, and nothing else is', async (state, words) => {
    show({ state, holder: 'Tobin' })
    expect(screen.getByTestId('stop').textContent).toContain(words)
    expect(screen.queryByTestId('start')).toBeNull()
    await act(async () => press('stop'))
    expect(orders()).toEqual(['POST /machines/bench-60/stop'])
  })

  it('is there while somebody runs another job, and names both', async () => {
    show({ state: 'running', holder: 'Tobin', run: { ...run, jobId: 'other', name: 'Oar rack', operator: 'Tobin' } })
    expect(screen.getByTestId('stop').textContent).toContain('Tobin is running “Oar rack”')
    expect(screen.getByText('Oar rack')).toBeTruthy()
  })

  it('is pressed by Shift Escape too', async () => {
    show({ state: 'framing', holder: 'Mara' })
    await act(async () => void fireEvent.keyDown(document.body, { key: 'Escape', shiftKey: true }))
    expect(orders()).toEqual(['POST /machines/bench-60/stop'])
  })

  it('stays while the machine does not obey, and what it does is told', () => {
    show({
      state: 'stopping',
      holder: 'Mara',
      trouble: 'The machine goes on in spite of stop and reset: press its emergency stop now.',
      run: { ...run, phase: 'stopping', reason: 'The machine did not obey the stop: it is being reset.' },
    })
    expect(screen.getByTestId('machine-trouble').textContent).toContain('emergency stop now')
    expect(screen.getByTestId('run-reason').textContent).toContain('did not obey')
    expect(screen.getByTestId('stop')).toBeTruthy()
    expect(screen.queryByTestId('resume')).toBeNull()
    expect(screen.queryByTestId('hold')).toBeNull()
  })
})

describe('while it runs', () => {
  const active = (change: Partial<RunLive>, state: DeskLive['state'] = 'running') =>
    show({ state, holder: 'Mara', run: { ...run, ...change } })

  it('holds with a press or with Space, and goes on the same way', async () => {
    active({})
    await act(async () => press('hold'))
    await act(async () => void fireEvent.keyDown(document.body, { key: ' ' }))
    expect(orders()).toEqual(['POST /runs/r1/hold', 'POST /runs/r1/hold'])
    cleanup()
    asked.length = 0
    active({ phase: 'held' }, 'holding')
    await act(async () => press('resume'))
    await act(async () => void fireEvent.keyDown(document.body, { key: ' ' }))
    expect(orders()).toEqual(['POST /runs/r1/resume', 'POST /runs/r1/resume'])
  })

  it('shows a planned pause in letters that are read from the machine, not as trouble', () => {
    active({ phase: 'paused', instruction: 'Peel the mask off' }, 'holding')
    expect(screen.getByTestId('run-instruction').textContent).toContain('Peel the mask off')
    expect(screen.queryByRole('alert')).toBeNull()
    expect(screen.getByTestId('resume')).toBeTruthy()
  })

  it('says what is wrong, and cannot go on while the connection is lost', () => {
    active({ phase: 'away', reason: 'The connection to the machine is lost: it brakes and stands dark by itself.' }, 'looking')
    expect(screen.getByTestId('run-reason').textContent).toContain('connection')
    expect((screen.getByTestId('resume') as HTMLButtonElement).disabled).toBe(true)
    expect(screen.getByTestId('stop')).toBeTruthy()
  })

  it('says that the line is bad, and which server has the machine', () => {
    show({ noisy: true, server: 'http://127.0.0.1:4400' })
    expect(screen.getByTestId('machine-noisy').textContent).toContain('cable')
    expect(screen.getByTestId('machine-server').textContent).toContain('http://127.0.0.1:4400')
  })
})

describe('after the run', () => {
  const over = (change: Partial<RunLive> = {}) => show({ run: { ...run, phase: 'done', ...change } })

  it('writes down only what is new: one look, one tick', async () => {
    over()
    fireEvent.click(await screen.findByTestId('look-cut-yes'))
    fireEvent.click(screen.getByTestId('closing-bed'))
    await waitFor(() => expect(asked.filter(({ method }) => method === 'PATCH')).toHaveLength(2))
    expect(asked.filter(({ method }) => method === 'PATCH').map(({ body }) => body)).toEqual([
      { looks: { cut: { answer: 'yes' } } },
      { closing: { bed: true } },
    ])
  })

  it('runs what is missing again in the same place, with settings for this run only', async () => {
    over()
    fireEvent.click(await screen.findByTestId('look-cut-no'))
    await act(async () => press('run-again'))
    await waitFor(() => expect(orders()).toContain('POST /machines/bench-60/runs'))
    const { body } = asked.find(({ path, method }) => method === 'POST' && path.endsWith('/runs'))!
    expect(body).toMatchObject({ only: ['cut'], parentId: 'r1', answers: [], changes: { cut: { passes: 1 } } })
  })

  it('says what of the closing list is open before it is finished, and is pressed again', async () => {
    over()
    await screen.findByTestId('look-cut')
    expect(screen.getByTestId('finish').textContent).toContain('still open: exhaust, bed, machine off or watched')
    press('finish')
    expect(screen.getByTestId('finish').textContent).toContain('Finish all the same')
    await act(async () => press('finish'))
    expect(asked.find(({ method }) => method === 'PATCH')!.body).toEqual({ closing: { finished: true } })
    expect(await screen.findByTestId('start')).toBeTruthy()
  })

  it('tells why it ended early', () => {
    over({ phase: 'stopped', reason: 'Stopped by a reset: the machine did not obey the stop. Have it looked at.' })
    expect(screen.getByTestId('run-reason').textContent).toContain('Have it looked at')
  })
})

describe('a run that ended early', () => {
  it('offers to run what is left next, from the last line that was driven', async () => {
    asked = fakeServer({ 'GET /runs/r1': { ...ended, phase: 'stopped' }, 'PATCH /runs': {}, 'POST /machines': undefined })
    const stopped = { ...run, phase: 'stopped' as const, doneSeconds: 61.2345 }
    shown(<RunMain id="j" job={job} desk={{ ...restingDesk, run: stopped } as DeskLive} />)
    await screen.findByTestId('go-on-later')
    await act(async () => fireEvent.click(screen.getByTestId('later')))
    await waitFor(() => expect(orders()).toContain('PATCH /runs/r1'))
    // The next run is begun there; the list before it is gone through again.
    await waitFor(() => expect(screen.getByTestId('this-run').textContent).toContain('from 1:01'))
    expect(screen.queryByTestId('go-on-later')).toBeNull()
  })
})
