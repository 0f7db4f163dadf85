// @vitest-environment happy-dom
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { atShop } from '../testing/at-shop.ts'
import { shown } from '../testing/fake-server.tsx'
import JournalPage from './JournalPage.tsx'

// Nothing is computed here, nor painted.
vi.mock('../workers/engine.ts', () => ({ compareWithBurn: () => new Promise(() => {}), onWorkerDeath: () => () => {} }))
vi.mock('../features/journal/EstimateChart.tsx', () => ({ EstimateChart: () => <div data-testid="chart" /> }))

const { serve, sent } = atShop()

describe('the journal', () => {
  const job = sampleJob({ picture: squarePicture(20, 5) })
  const brief = {
    id: 'r1',
    jobId: 'j',
    jobRevision: 3,
    parentId: null,
    name: 'Oar rack',
    operator: 'Mara',
    phase: 'done',
    reason: '',
    machineId: 'bench-60',
    machine: 'Bench laser 60 W',
    material: 'Birch ply',
    workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 },
    only: null,
    lines: 400,
    estimateSeconds: 600,
    seconds: 612,
    interruptions: 0,
    rating: null,
    note: '',
    photo: null,
    startedAt: '2026-11-27T08:00:00.000Z',
    endedAt: '2026-11-27T08:10:12.000Z',
  }
  const full = {
    ...brief,
    document: job,
    scope: {},
    operations: [],
    looks: { cut: { answer: 'partly', note: 'left corner' } },
    closing: [],
    place: null,
    events: [
      { number: 1, phase: 'running', text: '', line: 0, seconds: 0, at: brief.startedAt },
      { number: 2, phase: 'paused', text: 'Peel the mask off', line: 200, seconds: 300, at: brief.startedAt },
    ],
    burn: null,
    photographed: null,
  }

  it('lists runs, asks the server for what is looked for, and says that nothing is like that', async () => {
    serve({
      'GET /runs': { runs: [brief, { ...brief, id: 'r2', parentId: 'r1', only: ['cut'], interruptions: 2 }] },
      'GET /runs?search=nothing': { runs: [] },
    })
    shown(<JournalPage />)
    const list = await screen.findByTestId('journal')
    await waitFor(() => expect(within(list).getAllByRole('listitem')).toHaveLength(2))
    expect(list.textContent).toContain('↳ again: Oar rack (1 block)')
    expect(list.textContent).toContain('2 interruptions')
    const user = userEvent.setup()
    await user.type(screen.getByLabelText('Find a run'), 'nothing')
    expect(await screen.findByText('No run is like that')).toBeTruthy()
    await user.click(screen.getByRole('button', { name: 'Show all' }))
    await waitFor(() => expect(within(list).getAllByRole('listitem')).toHaveLength(2))
  })

  it('opens a run with what happened, pauses with their words; what is measured is written down by itself', async () => {
    serve({ 'GET /runs': { runs: [brief] }, 'GET /runs/r1': full, 'PATCH /runs/r1': {} })
    shown(<JournalPage />, '/journal?run=r1')
    const entry = await screen.findByTestId('run-entry')
    expect(entry.textContent).toContain('planned pause: Peel the mask off (line 200)')
    const user = userEvent.setup()
    const [, depth] = within(entry).getAllByLabelText('depth')
    await user.type(depth, '2.4{Enter}')
    await waitFor(() => expect(sent()).toHaveLength(1))
    // The answer and the note, which somebody else may have written, are not sent again.
    expect(sent()[0].body).toEqual({ looks: { cut: { depthMm: 2.4 } } })
    await user.type(screen.getByTestId('run-note'), 'Pale near the rear')
    await user.tab()
    await waitFor(() => expect(sent().at(-1)!.body).toEqual({ note: 'Pale near the rear' }))
  })

  it('says that the server is away', async () => {
    serve({})
    shown(<JournalPage />)
    expect(await screen.findByText(/It comes back by itself/)).toBeTruthy()
  })
})
