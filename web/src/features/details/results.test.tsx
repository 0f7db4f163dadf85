// @vitest-environment happy-dom
// Details as results arrive: what is computed comes later than the job, and shows when it is there.
import { type Drawn, type JobDocument, stepsBefore, withNode, withOperation } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import type { ReactNode } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { closed, edited, opened, undone } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { selected } from '../../store/view-slice.ts'
import { type Asked, fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import type { Measure } from '../../workers/shared.ts'
import DrawnDetails from '../draw/DrawnDetails.tsx'
import { Details } from './Details.tsx'

const { engine } = vi.hoisted(() => {
  const answers: Record<string, (value: unknown) => void> = {}
  const drawn: { drawn: Drawn; answer: (file: unknown) => void; fail: (cause: Error) => void }[] = []
  const asks = (what: string) => () =>
    new Promise((resolve) => {
      answers[what] = resolve
    })
  const drawnFile = (wish: Drawn) => new Promise((answer, fail) => drawn.push({ drawn: wish, answer, fail }))
  const quiet = { cancelWork: () => {}, progressNow: () => 0, onWorkerDeath: () => () => {} }
  const engine = { answers, drawn, draw: asks('draw'), forecast: asks('forecast'), measure: asks('measure'), drawnFile, ...quiet }
  return { engine }
})
vi.mock('../../workers/engine.ts', () => engine)

const document = sampleJob({ picture: squarePicture(20, 5) })
const now = (): JobDocument => store.getState().job.document!
const WithJob = ({ children }: { readonly children: (job: JobDocument) => ReactNode }) => {
  const job = useSelector((state) => state.job.document)
  return job && children(job)
}
let asked: Asked[]

beforeEach(() => {
  fillBrowser()
  engine.drawn.length = 0
  asked = fakeServer({
    'POST /assets': {
      asset: 'd'.repeat(64),
      widthPx: 300,
      heightPx: 200,
      hasAlpha: true,
      drawing: { widthMm: 30, heightMm: 20, shapes: 1, notices: [] },
    },
    'GET /fonts': { fonts: [] },
    'GET /materials': { materials: [] },
    'GET /machines': { machines: [] },
  })
  store.dispatch(opened({ id: `j${Math.random()}`, revision: 0, document, edits: [], unsent: [] }))
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  vi.unstubAllGlobals()
})

const arrive = async (measure: Partial<Measure>): Promise<void> => {
  const box = { x0: 10, y0: 10, x1: 50, y1: 50 }
  const bounds = Object.fromEntries(Object.keys(now().nodes).map((id) => [id, box]))
  await act(async () => engine.answers.draw({ versions: {}, outlines: {}, bounds }))
  await waitFor(() => expect(engine.answers.forecast).toBeDefined())
  await act(async () => engine.answers.forecast(true))
  await waitFor(() => expect(engine.answers.measure).toBeDefined(), { timeout: 2000 })
  await act(async () =>
    engine.answers.measure({
      report: { operations: [], seconds: 0 },
      findings: [],
      outlines: {},
      loose: [],
      places: {},
      ...measure,
    }),
  )
}

describe('the whole job', () => {
  it('shows dots where times are not known yet, and the times when they are', async () => {
    store.dispatch(selected(null))
    shown(<WithJob>{(job) => <Details job={job} />}</WithJob>)
    expect(screen.getAllByText('…')).toHaveLength(2)
    const operations = [
      { id: 'engrave', seconds: 61 },
      { id: 'cut', seconds: 5 },
    ]
    await arrive({ report: { operations, seconds: 66 } as never })
    expect(await screen.findByText('1:01')).toBeTruthy()
    expect(screen.getByText('0:05')).toBeTruthy()
    expect(screen.queryByText('…')).toBeNull()
  })
})

describe('a pause before an operation', () => {
  const asked = () => stepsBefore(now(), 'cut').map((id) => now().steps[id])

  it('has words, which are taken when they are left, and goes away again', async () => {
    store.dispatch(selected({ kind: 'operation', id: 'cut' }))
    shown(<WithJob>{(job) => <Details job={job} />}</WithJob>)
    const user = userEvent.setup()
    await user.click(screen.getByLabelText('Pause before it'))
    expect(asked()).toEqual([{ kind: 'pause', text: 'Wipe the piece clean' }])
    const words = screen.getByDisplayValue('Wipe the piece clean')
    await user.clear(words)
    await user.type(words, 'Peel the mask off')
    await user.tab()
    expect(asked()).toEqual([{ kind: 'pause', text: 'Peel the mask off' }])
    await user.click(within(screen.getByTestId('stop-kind')).getByRole('combobox'))
    await user.click(await screen.findByRole('option', { name: 'another set-up' }))
    expect(asked()).toEqual([{ kind: 'set-up', name: 'Peel the mask off' }])
    await user.click(screen.getByLabelText('Pause before it'))
    expect(asked()).toEqual([])
  })
})

describe('settings of an operation', () => {
  it('follow the job when somebody else changes it, and an undo', async () => {
    store.dispatch(selected({ kind: 'operation', id: 'cut' }))
    shown(<WithJob>{(job) => <Details job={job} />}</WithJob>)
    const power = () => (screen.getByRole('textbox', { name: 'Power' }) as HTMLInputElement).value
    expect(power()).toBe('68')
    act(() => void store.dispatch(edited('power', withOperation(now(), 'cut', { power: 0.31 }))))
    expect(power()).toBe('31')
    act(() => void store.dispatch(undone()))
    expect(power()).toBe('68')
  })

  it('are refused out of range with what the range is, and Escape brings the value back', async () => {
    store.dispatch(selected({ kind: 'operation', id: 'engrave' }))
    shown(<WithJob>{(job) => <Details job={job} />}</WithJob>)
    const user = userEvent.setup()
    const field = screen.getByRole('textbox', { name: 'Interval' })
    await user.clear(field)
    await user.type(field, '900{Enter}')
    expect(screen.getByRole('alert').textContent).toContain('Interval goes from')
    await user.keyboard('{Escape}')
    expect(screen.queryByRole('alert')).toBeNull()
    expect(now()).toBe(document)
  })
})

describe('a shape that is drawn by numbers', () => {
  const rectangle = { kind: 'rectangle', widthMm: 30, heightMm: 20, radiusMm: 0 } as unknown as Drawn
  const node = { kind: 'drawing' as const, name: 'plate', asset: 'd'.repeat(64), widthMm: 30, heightMm: 20, drawn: rectangle }
  const drawnNow = () => (now().nodes.plate as typeof node).drawn as unknown as Record<string, number>
  const file = { svg: '<svg/>', looks: [], box: { x0: 0, y0: 0, x1: 30, y1: 20 }, notices: [] }

  beforeEach(() => {
    const withPlate = {
      ...withNode(document, 'edge', {}),
      nodes: { ...document.nodes, plate: node },
      placements: { ...document.placements, plate: { of: 'plate', on: 'piece', xMm: 0, yMm: 0, widthMm: 30, heightMm: 20 } },
    } as JobDocument
    store.dispatch(opened({ id: `p${Math.random()}`, revision: 0, document: withPlate, edits: [], unsent: [] }))
  })
  const show = () => shown(<WithJob>{(job) => <DrawnDetails job={job} id="plate" node={job.nodes.plate as never} />}</WithJob>)
  const type = async (label: string, text: string): Promise<void> => {
    const user = userEvent.setup()
    const field = screen.getByRole('textbox', { name: label })
    await user.clear(field)
    await user.type(field, `${text}{Enter}`)
  }
  const answer = async (index: number): Promise<void> => {
    await waitFor(() => expect(engine.drawn.length).toBeGreaterThan(index))
    await act(async () => engine.drawn[index].answer(file))
    await waitFor(() => expect(asked.filter(({ path }) => path === '/assets').length).toBeGreaterThan(index))
    await act(async () => {})
  }

  it('takes all numbers that are typed while it is drawn, and shows them meanwhile', async () => {
    show()
    await type('Shape width', '50')
    await type('Shape height', '40')
    await type('Corner radius', '5')
    // One drawing is under way; the others wait in one.
    expect(engine.drawn).toHaveLength(1)
    expect((screen.getByRole('textbox', { name: 'Shape width' }) as HTMLInputElement).value).toBe('50.00')
    await answer(0)
    expect(drawnNow()).toMatchObject({ widthMm: 50, heightMm: 20 })
    await answer(1)
    expect(engine.drawn).toHaveLength(2)
    expect(drawnNow()).toMatchObject({ widthMm: 50, heightMm: 40, radiusMm: 5 })
  })

  it('goes back to what the job has where its numbers make nothing, and says why', async () => {
    show()
    await type('Corner radius', '19')
    await act(async () => engine.drawn[0].fail(new Error('The corners are larger than the shape.')))
    expect(await screen.findByText('The corners are larger than the shape.')).toBeTruthy()
    expect((screen.getByRole('textbox', { name: 'Corner radius' }) as HTMLInputElement).value).toBe('0.00')
    expect(drawnNow().radiusMm).toBe(0)
    // The next one is drawn all the same.
    await type('Shape width', '60')
    await waitFor(() => expect(engine.drawn).toHaveLength(2))
    await act(async () => engine.drawn[1].answer(file))
    await waitFor(() => expect(drawnNow().widthMm).toBe(60))
    expect(drawnNow()).toMatchObject({ widthMm: 60, radiusMm: 0 })
    expect(within(screen.getByTestId('drawn-details')).queryByRole('alert')).toBeNull()
  })
})
