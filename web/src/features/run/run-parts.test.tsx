// @vitest-environment happy-dom

import { ThemeProvider } from '@mui/material'
import type { DeskLive, RunFull, RunLive } from '@neotaxis/contract'
import { materialOf, preflight, type Recipe, standingOf, withOperation } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { SnackbarProvider } from 'notistack'
import type { ReactElement } from 'react'
import { Provider } from 'react-redux'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { closed, opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { makeTheme } from '../../theme/theme.ts'
import { deskSays } from '../live/desk-words.ts'
import { timeScale } from '../run-line/time-scale.ts'
import { Countdown } from './Countdown.tsx'
import { LookList } from './LookList.tsx'
import { PreflightList } from './PreflightList.tsx'
import { RunStrip } from './RunStrip.tsx'

beforeEach(() =>
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      disconnect() {}
    },
  ),
)
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const job = sampleJob({ picture: squarePicture(20, 5) })
const shown = (element: ReactElement) =>
  render(
    <Provider store={store}>
      <ThemeProvider theme={makeTheme('light')}>
        <SnackbarProvider>{element}</SnackbarProvider>
      </ThemeProvider>
    </Provider>,
  )
const desk: DeskLive = {
  machine: 'bench-60',
  state: 'running',
  trouble: '',
  address: 'tcp://127.0.0.1:1',
  simulated: true,
  checked: true,
  report: {
    state: 'run',
    driven: 5,
    x: 12,
    y: 30,
    z: 3,
    speedMmS: 120,
    beam: 32,
    speedShare: 100,
    powerShare: 100,
    lidOpen: false,
    air: true,
  },
  silent: false,
  noisy: false,
  holder: 'Mara',
  run: null,
  server: null,
}
const run: RunLive = {
  id: 'r',
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

describe('time on the run line', () => {
  it('goes from time to place and back, inside every block', () => {
    const scale = timeScale([100, 10], [0, 505], [500, 100])
    expect(scale.toX(50)).toBe(250)
    expect(scale.toX(105)).toBe(555)
    for (const time of [0, 12, 99, 101, 109]) expect(scale.toTime(scale.toX(time))).toBeCloseTo(time, 9)
    expect(scale.toTime(-20)).toBe(0)
    expect(scale.toTime(9999)).toBe(110)
  })
})

describe('what a machine does, in a word', () => {
  it.each([
    [{}, 'beam on', true],
    [{ report: { ...desk.report!, beam: 0 } }, 'moving', true],
    [{ state: 'framing' as const }, 'framing', true],
    [{ state: 'stopping' as const }, 'stopping', true],
    [{ state: 'preparing' as const }, 'preparing', false],
    [{ silent: true }, 'does not answer', true],
    [{ state: 'lost' as const }, 'not connected', false],
    [{ state: 'off' as const, address: '' }, 'no connection', false],
    [{ report: { ...desk.report!, state: 'alarm' } }, 'home it', false],
    [{ report: { ...desk.report!, state: 'armed' } }, 'armed', true],
  ])('%j: %s', (change, text, hot) => {
    expect(deskSays({ ...desk, ...change })).toEqual({ text, hot })
  })
})

describe('the countdown', () => {
  it('shows what is left at the pace it has, and where the head is', () => {
    shown(<Countdown job={job} desk={desk} run={run} />)
    // 540 s are left of the estimate, and it is 10 % slower than that.
    expect(screen.getByTestId('countdown').textContent).toBe('9:54')
    expect(screen.getByText(/10.0 % slower/)).toBeTruthy()
    expect(screen.getByText('32 %')).toBeTruthy()
    expect(screen.getByText(/line 50 of 400/)).toBeTruthy()
  })
})

describe('the list before the start', () => {
  it('is ticked one by one or all at once, and shows what stops it', () => {
    const onAnswer = vi.fn()
    const onAll = vi.fn()
    shown(
      <PreflightList
        items={preflight(job, [])}
        answers={new Set(['people'])}
        stops={['It lies outside.']}
        onAnswer={onAnswer}
        onAll={onAll}
      />,
    )
    expect(screen.getByTestId('preflight-count').textContent).toBe('Before this start, 1 of 9')
    expect(screen.getByRole('alert').textContent).toContain('It lies outside.')
    fireEvent.click(screen.getByTestId('preflight-focus'))
    expect(onAnswer).toHaveBeenCalledWith('focus', true)
    fireEvent.click(screen.getByTestId('preflight-people'))
    expect(onAnswer).toHaveBeenCalledWith('people', false)
    fireEvent.click(screen.getByTestId('preflight-all'))
    expect(onAll).toHaveBeenCalled()
  })
})

describe('the blocks that run', () => {
  it('are left out with a press, or run from one on', () => {
    const onChosen = vi.fn()
    shown(
      <RunStrip
        job={job}
        seconds={{ engrave: 60, cut: 30 }}
        chosen={['engrave', 'cut']}
        live={false}
        onChosen={onChosen}
        right={{ title: '', detail: '' }}
        foot=""
      />,
    )
    fireEvent.click(screen.getByTestId('strip-engrave'))
    expect(onChosen).toHaveBeenLastCalledWith(['cut'])
    fireEvent.click(screen.getByTestId('strip-cut'), { shiftKey: true })
    expect(onChosen).toHaveBeenLastCalledWith(['cut'])
  })
})

describe('looking before lifting', () => {
  const full = {
    ...run,
    looks: {},
    scope: {},
    operations: [],
    closing: [],
    events: [],
    burn: null,
    photographed: null,
  } as unknown as RunFull
  it('asks each cut whether it is through and each picture whether it is as expected, and offers to run what is missing', () => {
    const onLook = vi.fn()
    const onAgain = vi.fn()
    shown(<LookList job={job} run={full} again={{}} onLook={onLook} onAgain={onAgain} />)
    fireEvent.click(screen.getByTestId('look-cut-no'))
    expect(onLook).toHaveBeenCalledWith('cut', { answer: 'no' })
    expect(onAgain).toHaveBeenLastCalledWith({ cut: { passes: 1, power: 0.68, speedMmS: 12 } })
    fireEvent.click(screen.getByTestId('look-engrave-light'))
    expect(onAgain.mock.lastCall![0].engrave.power).toBeCloseTo(0.1, 2)
    fireEvent.click(screen.getByTestId('look-engrave-dark'))
    expect(onAgain).toHaveBeenLastCalledWith({})
  })

  it('changes settings for this run only', () => {
    const onAgain = vi.fn()
    shown(
      <LookList
        job={job}
        run={full}
        again={{ cut: { passes: 1, power: 0.68, speedMmS: 12 } }}
        onLook={() => {}}
        onAgain={onAgain}
      />,
    )
    fireEvent.click(screen.getByRole('button', { name: 'More power' }))
    expect(onAgain.mock.lastCall![0].cut.power).toBeCloseTo(0.73, 9)
    fireEvent.click(screen.getByRole('button', { name: 'More passes' }))
    expect(onAgain.mock.lastCall![0].cut.passes).toBe(2)
  })

  describe('settings that counted for one run only', () => {
    const recipe = materialOf(job).recipes.find(({ id }) => id === 'birch-ply-3-cut')
    const byRecipe = withOperation(job, 'cut', { recipe: recipe?.id })
    const changes = { cut: { passes: 1, power: 0.8, speedMmS: 9 } }
    const again = {
      ...full,
      startedAt: '2026-11-04T09:00:00Z',
      scope: { only: ['cut'], changes },
      looks: { cut: { answer: 'yes' } },
    } as unknown as RunFull
    const seen = (run: RunFull) => shown(<LookList job={byRecipe} run={run} again={{}} onLook={() => {}} onAgain={() => {}} />)

    it('prove nothing for the recipe as it stands: taken over they are new settings, which nobody has burned yet', async () => {
      expect(standingOf(recipe!)).toMatchObject({ kind: 'proven', times: 14 })
      const sent: { path: string; body: Record<string, unknown> }[] = []
      vi.stubGlobal('fetch', async (path: string, init: RequestInit) => {
        sent.push({ path, body: JSON.parse(String(init.body)) as Record<string, unknown> })
        return Response.json({})
      })
      store.dispatch(opened({ id: 'j', revision: 0, document: byRecipe, edits: [], unsent: [] }))
      seen(again)
      fireEvent.click(screen.getByRole('button', { name: 'Into job and recipe' }))
      await vi.waitFor(() => expect(sent).toHaveLength(1))
      expect(sent[0].path).toBe(`/api/recipes/${recipe!.id}`)
      // Two runs of it: the first as it was, and what was added.
      expect(sent[0].body).toMatchObject({
        power: 0.8,
        speedMmS: 9,
        passes: job.operations.cut.passes + 1,
      })
      expect(standingOf(sent[0].body as unknown as Recipe)).toEqual({ kind: 'guessed' })
      expect(store.getState().job.document!.operations.cut).toMatchObject({ power: 0.8, speedMmS: 9 })
      store.dispatch(closed())
    })

    it('that added passes only are what the piece got: proven once', async () => {
      const sent: Recipe[] = []
      vi.stubGlobal('fetch', async (_path: string, init: RequestInit) => {
        sent.push(JSON.parse(String(init.body)) as Recipe)
        return Response.json({})
      })
      const { power, speedMmS } = job.operations.cut
      store.dispatch(opened({ id: 'j', revision: 0, document: byRecipe, edits: [], unsent: [] }))
      seen({ ...again, scope: { only: ['cut'], changes: { cut: { passes: 1, power, speedMmS } } } } as unknown as RunFull)
      fireEvent.click(screen.getByRole('button', { name: 'Into job and recipe' }))
      await vi.waitFor(() => expect(sent).toHaveLength(1))
      expect(standingOf(sent[0])).toEqual({ kind: 'proven', times: 1, failed: 0, last: '2026-11-04' })
      store.dispatch(closed())
    })

    it('are offered only where they did it', () => {
      seen({ ...again, looks: { cut: { answer: 'no' } } } as unknown as RunFull)
      expect(screen.queryByTestId('take-over-cut')).toBeNull()
      cleanup()
      seen({ ...again, scope: { only: ['cut'] } } as unknown as RunFull)
      expect(screen.queryByTestId('take-over-cut')).toBeNull()
    })
  })
})
