// @vitest-environment happy-dom
// What artwork can be: offers that arrive late, one press, changed in place, put aside and used again.
import { burnOrder, type JobDocument, type ProcessName, putAside } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import type { ReactNode } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { closed, edited, opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { comparing, selected } from '../../store/view-slice.ts'
import { fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { isWorkedOut } from '../../workers/use-evaluation.ts'
import { canRun, runCommand } from '../bar/commands.ts'
import { FillCards } from '../compare/FillCards.tsx'
import { openMenu, StageMenu } from '../compose/StageMenu.tsx'
import { useArtworkActions } from '../compose/use-artwork-actions.tsx'
import { Details } from '../details/Details.tsx'
import { Becomes } from './Becomes.tsx'

const { engine } = vi.hoisted(() => {
  const answers: Record<string, (value: unknown) => void> = {}
  const asks = (what: string) => () =>
    new Promise((resolve) => {
      answers[what] = resolve
    })
  const offered: { nodes: readonly string[]; process: string; answer: (offer: unknown) => void; fail: (cause: Error) => void }[] =
    []
  const filled: { name: string; answer: (view: unknown) => void }[] = []
  const offerOf = (_job: unknown, nodes: readonly string[], process: string) =>
    new Promise((answer, fail) => offered.push({ nodes, process, answer, fail }))
  const fillOf = (_job: unknown, _id: string, name: string) => new Promise((answer) => filled.push({ name, answer }))
  const quiet = { cancelWork: () => {}, progressNow: () => 0, onWorkerDeath: () => () => {}, onForecast: () => () => {} }
  return {
    engine: {
      answers,
      offered,
      filled,
      offerOf,
      fillOf,
      draw: asks('draw'),
      forecast: asks('forecast'),
      measure: asks('measure'),
      ...quiet,
    },
  }
})
vi.mock('../../workers/engine.ts', () => engine)

const document = sampleJob({ picture: squarePicture(20, 5) })
const now = (): JobDocument => store.getState().job.document!
const processes = (): ProcessName[] => burnOrder(now()).map((id) => now().operations[id].process)
const WithJob = ({ children }: { readonly children: (job: JobDocument) => ReactNode }) => {
  const job = useSelector((state) => state.job.document)
  return job && children(job)
}
const Actions = ({ job }: { readonly job: JobDocument }) => {
  useArtworkActions(job)
  return null
}

beforeEach(() => {
  fillBrowser()
  engine.offered.length = engine.filled.length = 0
  fakeServer({ 'GET /materials': { materials: [] }, 'GET /machines': { machines: [] } })
  store.dispatch(opened({ id: `j${Math.random()}`, revision: 0, document, edits: [], unsent: [] }))
})
afterEach(() => {
  cleanup()
  act(() => {
    store.dispatch(closed())
    store.dispatch(comparing(false))
  })
  vi.unstubAllGlobals()
})

/** Everything about the job as it is now is worked out. */
const workedOut = async (): Promise<void> => {
  const pending = () => (['draw', 'forecast', 'measure'] as const).find((what) => engine.answers[what])
  // What was asked for by an earlier test is answered first.
  for (let i = 0; i < 12 && !isWorkedOut(now()); i++) {
    await waitFor(() => expect(pending()).toBeDefined(), { timeout: 3000 })
    const what = pending()!
    const answer = engine.answers[what]
    delete engine.answers[what]
    const operations = burnOrder(now()).map((id) => ({ id, seconds: 61, burnMm: 1, travelMm: 1 }))
    const values = {
      draw: { versions: {}, outlines: {}, bounds: {} },
      forecast: true,
      measure: {
        report: { operations, seconds: 61, returnSeconds: 0, travelMm: 0 },
        findings: [],
        outlines: {},
        loose: [],
        places: {},
      },
    }
    await act(async () => answer(values[what]))
  }
  if (pending()) await act(async () => engine.answers[pending()!](undefined))
}

describe('what artwork can be', () => {
  const show = () =>
    shown(
      <WithJob>
        {(job) => (
          <>
            <Actions job={job} />
            <Becomes job={job} />
          </>
        )}
      </WithJob>,
    )

  it('is offered with times as they come, and one that cannot be says why; one press makes it so', async () => {
    store.dispatch(selected({ kind: 'node', id: 'edge' }))
    show()
    const user = userEvent.setup()
    expect(screen.getByTestId('become-area').textContent).toContain('…')
    await workedOut()
    await waitFor(() => expect(engine.offered.map(({ process }) => process)).toContain('area'), { timeout: 2000 })
    const offer = (process: string) => engine.offered.find((each) => each.process === process)!
    await act(async () => offer('area').answer({ seconds: 125 }))
    expect(screen.getByTestId('become-area').textContent).toContain('2:05')
    await act(async () => offer('score').fail(new Error('There is no line left to score.')))
    expect((screen.getByTestId('become-score') as HTMLButtonElement).disabled).toBe(true)
    await user.click(screen.getByTestId('become-area'))
    expect(processes()).toEqual(['picture', 'area', 'cut'])
    const made = burnOrder(now())[1]
    expect(store.getState().view.selection).toEqual({ kind: 'operation', id: made })
    // It is; and is taken off as quickly.
    expect(screen.getByTestId('become-area').textContent).toContain('now')
    await user.click(screen.getByTestId('take-off-area'))
    expect(processes()).toEqual(['picture', 'cut'])
  })

  it('is nothing where nothing is selected, and for several pieces at once', async () => {
    store.dispatch(selected(null))
    show()
    expect(screen.queryByTestId('becomes')).toBeNull()
    expect(canRun('give-area')).toBe(false)
    act(() => void store.dispatch(selected({ kind: 'node', id: 'source' })))
    expect(screen.getByText('This can be')).toBeTruthy()
    act(() => runCommand('give-area'))
    expect(processes()).toContain('area')
  })
})

describe('a block', () => {
  it('changes its process in place by the menu and by the details, is burned once more, and takes settings along', async () => {
    store.dispatch(selected({ kind: 'operation', id: 'cut' }))
    shown(
      <WithJob>
        {(job) => (
          <>
            <Actions job={job} />
            <StageMenu />
            <Details job={job} />
          </>
        )}
      </WithJob>,
    )
    const user = userEvent.setup()
    act(() => openMenu(10, 10, 'block'))
    expect(screen.getByText('Change it to')).toBeTruthy()
    await user.click(screen.getByTestId('menu-change-score'))
    expect(processes()).toEqual(['picture', 'score'])
    await user.click(within(screen.getByTestId('process-choice')).getByRole('combobox'))
    await user.click(screen.getByRole('option', { name: 'filled' }))
    expect(processes()).toEqual(['picture', 'area'])
    act(() => runCommand('operation-again'))
    expect(processes()).toEqual(['picture', 'area', 'area'])
    const [, first, second] = burnOrder(now())
    act(() => void store.dispatch(selected({ kind: 'operation', id: first })))
    act(() => runCommand('copy-settings'))
    expect(canRun('paste-settings')).toBe(false)
    act(() => void store.dispatch(selected({ kind: 'operation', id: 'engrave' })))
    act(() => runCommand('paste-settings'))
    expect(now().operations.engrave.power).toBe(now().operations[first].power)
    act(() => void store.dispatch(selected({ kind: 'operation', id: second })))
    act(() => void store.dispatch(edited('switch it off', putAside(now(), second))))
    expect(processes()).toEqual(['picture', 'area'])
    act(() => void store.dispatch(selected(null)))
    await user.click(within(screen.getByTestId(`aside-${second}`)).getByText('Use again'))
    expect(processes()).toEqual(['picture', 'area', 'area'])
  })
})

describe('the ways to fill an area', () => {
  it('stand side by side with their numbers, and one press takes another', async () => {
    store.dispatch(selected({ kind: 'node', id: 'edge' }))
    shown(
      <WithJob>
        {(job) => (
          <>
            <Actions job={job} />
            <FillCards job={job} />
          </>
        )}
      </WithJob>,
    )
    act(() => runCommand('give-area'))
    expect(screen.queryByTestId('fill-cards')).toBeNull()
    act(() => void store.dispatch(comparing(true)))
    expect(screen.getByTestId('fill-sweep').getAttribute('aria-pressed')).toBe('true')
    await workedOut()
    await waitFor(() => expect(engine.filled.length).toBe(4))
    const facts = { seconds: 83, travelMm: 2400, burnMm: 100, hot: 0.31 }
    await act(async () => engine.filled.find(({ name }) => name === 'rings')!.answer({ name: 'rings', ...facts }))
    const card = screen.getByTestId('fill-rings')
    for (const words of ['1:23', 'travel 2.4 m', 'heat gathers in 31 %']) expect(card.textContent).toContain(words)
    await userEvent.setup().click(card)
    const [id] = burnOrder(now()).filter((each) => now().operations[each].process === 'area')
    expect(now().operations[id]).toMatchObject({ strategy: 'rings' })
    await userEvent.setup().click(screen.getByLabelText('Close the comparison'))
    expect(screen.queryByTestId('fill-cards')).toBeNull()
  })
})
