// @vitest-environment happy-dom
// The line of a job: several blocks at once, steps between them, groups, what is switched off, hidden, and put in order.
import { burnOrder, type JobDocument } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { closed, opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { selected } from '../../store/view-slice.ts'
import { fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { runCommand } from '../bar/commands.ts'
import { Details } from '../details/Details.tsx'
import { RunLine } from './RunLine.tsx'

const { engine } = vi.hoisted(() => {
  const never = () => new Promise(() => {})
  const forecasts: (readonly string[])[] = []
  return {
    engine: {
      forecasts,
      draw: async () => ({ versions: {}, outlines: {}, bounds: {} }),
      forecast: async (_job: unknown, _beside: unknown, hidden: readonly string[]) => {
        forecasts.push(hidden)
        return true
      },
      measure: async () => ({
        report: { operations: [], seconds: 0, travelMm: 0, returnSeconds: 0 },
        findings: [],
        outlines: {},
        loose: [],
        places: {},
      }),
      goodOrderOf: async (job: JobDocument) => ({ steps: job.steps, order: [...job.order].reverse() }),
      offerOf: never,
      track: never,
      cancelWork: () => {},
      progressNow: () => 0,
      onWorkerDeath: () => () => {},
      onForecast: () => () => {},
    },
  }
})
vi.mock('../../workers/engine.ts', () => engine)

const document = sampleJob({ picture: squarePicture(20, 5) })
const now = (): JobDocument => store.getState().job.document!
const Line = () => {
  const job = useSelector((state) => state.job.document)
  return (
    job && (
      <>
        <RunLine job={job} />
        <Details job={job} />
      </>
    )
  )
}

beforeEach(() => {
  fillBrowser()
  fakeServer({})
  engine.forecasts.length = 0
  store.dispatch(opened({ id: `j${Math.random()}`, revision: 0, document, edits: [], unsent: [] }))
  shown(<Line />)
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
})

const run = (id: string): void => act(() => runCommand(id))

describe('the line', () => {
  it('takes steps between its blocks, which are worded, moved by keys and deleted by themselves', async () => {
    const user = userEvent.setup()
    await user.click(screen.getByTestId('block-cut'))
    run('add-by-hand')
    const id = now().order[1]
    expect(now().steps[id]).toEqual({ kind: 'by-hand', text: 'Clean the piece', minutes: 5 })
    expect(screen.getByTestId(`stop-${id}`).textContent).toBe('5 min')
    const words = screen.getByDisplayValue('Clean the piece')
    await user.clear(words)
    await user.type(words, 'Wipe the soot off')
    await user.tab()
    expect(now().steps[id]).toMatchObject({ text: 'Wipe the soot off' })
    run('earlier')
    expect(now().order).toEqual([id, 'engrave', 'cut'])
    run('earlier')
    expect(now().order).toEqual([id, 'engrave', 'cut'])
    run('later')
    run('delete-operation')
    expect(now().order).toEqual(['engrave', 'cut'])
  })

  it('switches a block off where it stands, and on again', async () => {
    const user = userEvent.setup()
    await user.click(screen.getByTestId('block-engrave'))
    run('put-aside')
    expect(burnOrder(now())).toEqual(['cut'])
    expect(now().order).toEqual(['engrave', 'cut'])
    expect(screen.getByTestId('block-engrave').textContent).toContain('off')
    run('put-aside')
    expect(burnOrder(now())).toEqual(['engrave', 'cut'])
  })

  it('changes several blocks at once, each by what it has of it, and makes them the same', async () => {
    const user = userEvent.setup()
    await user.click(screen.getByTestId('block-engrave'))
    await user.keyboard('{Control>}')
    await user.click(screen.getByTestId('block-cut'))
    await user.keyboard('{/Control}')
    expect(screen.getByTestId('several').textContent).toContain('2 operations')
    const field = screen.getByRole('textbox', { name: 'Power' })
    await user.clear(field)
    await user.type(field, '50{Enter}')
    expect([now().operations.engrave.power, now().operations.cut.power]).toEqual([0.5, 0.5])
    expect(now().operations.engrave).not.toHaveProperty('kerfMm')
    await user.click(screen.getByTestId('make-same'))
    expect(now().operations.cut.speedMmS).toBe(now().operations.engrave.speedMmS)
    expect(screen.getByTestId('several').textContent).toContain('set alike')
  })

  it('makes groups that fold to one block, and takes them apart', async () => {
    const user = userEvent.setup()
    await user.click(screen.getByTestId('block-engrave'))
    await user.keyboard('{Shift>}')
    await user.click(screen.getByTestId('block-cut'))
    await user.keyboard('{/Shift}')
    run('group-steps')
    expect(Object.values(now().steps).map(({ group }) => group)).toEqual(['Group', 'Group'])
    await user.click(screen.getByTestId('fold-Group'))
    const block = screen.getByTestId('group-Group')
    expect(within(block).getByText('2 steps')).toBeTruthy()
    expect(screen.queryByTestId('block-cut')).toBeNull()
    await user.dblClick(block)
    expect(screen.getByTestId('block-cut')).toBeTruthy()
    run('ungroup-steps')
    expect(Object.values(now().steps).map(({ group }) => group)).toEqual([undefined, undefined])
  })

  it('hides what somebody wants to look under, and shows only what is meant', async () => {
    const user = userEvent.setup()
    await user.click(screen.getByTestId('block-cut'))
    run('only-operation')
    await waitFor(() => expect(engine.forecasts.at(-1)).toEqual(['engrave']))
    expect(burnOrder(now())).toEqual(['engrave', 'cut'])
    run('hide-operation')
    await waitFor(() => expect(engine.forecasts.at(-1)).toEqual(['engrave', 'cut']))
    await user.click(screen.getByTestId('show-operations'))
    await waitFor(() => expect(engine.forecasts.at(-1)).toEqual([]))
  })

  it('is put in a good order by one edit', async () => {
    const user = userEvent.setup()
    await user.click(screen.getByTestId('good-order'))
    await waitFor(() => expect(now().order).toEqual(['cut', 'engrave']))
    expect(await screen.findByText(/each block says why/)).toBeTruthy()
  })

  it('leaves the operation of a step that is selected alone', () => {
    act(() => void store.dispatch(selected({ kind: 'step', id: 'cut' })))
    expect(screen.getByRole('heading', { name: /whole job/i })).toBeTruthy()
  })
})
