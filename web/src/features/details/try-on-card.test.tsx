// @vitest-environment happy-dom
// From an operation to a card of trials: a job of its own, or a sentence; the job that it came from stays as it is.
import { type JobDocument, trialCard } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { cleanup, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type Asked, fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { TryOnCard } from './TryOnCard.tsx'

const { cardOfTrials, stripOfTrials } = vi.hoisted(() => ({ cardOfTrials: vi.fn(), stripOfTrials: vi.fn() }))
vi.mock('../../workers/engine.ts', () => ({ cardOfTrials, stripOfTrials }))

const job: JobDocument = sampleJob({ picture: squarePicture(20, 5) })
const [operation] = Object.keys(job.operations)
const made = trialCard(
  { process: 'area', across: { setting: 'power', values: [0.2, 0.4] } },
  { workpiece: { widthMm: 90, heightMm: 90, thicknessMm: 3 }, material: Object.values(job.materials)[0], machine: job.machine },
)
let asked: Asked[]

beforeEach(() => {
  fillBrowser()
  cardOfTrials.mockReset()
  stripOfTrials.mockReset()
  asked = fakeServer({
    'POST /assets': { asset: 'a'.repeat(64), widthPx: 1, heightPx: 1, hasAlpha: false },
    'POST /jobs': { id: 'card', name: 'Trial' },
    'GET /stock': { stock: [] },
  })
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('an operation that is tried on a card', () => {
  it('brings its drawings in, then becomes a job of its own', async () => {
    cardOfTrials.mockResolvedValue({ job: made.job, files: ['<svg/>', '<svg/>'] })
    shown(<TryOnCard job={job} id={operation} />)
    await userEvent.click(screen.getByTestId('try-on-card'))
    await waitFor(() => expect(asked.some(({ method, path }) => method === 'POST' && path === '/jobs')).toBe(true))
    expect(cardOfTrials).toHaveBeenCalledWith(job, operation, 'power-speed')
    expect(asked.filter(({ path }) => path.startsWith('/assets'))).toHaveLength(2)
    const { body } = asked.find(({ path }) => path === '/jobs')!
    expect(Object.keys((body as { job: JobDocument }).job.trial!.cells)).toHaveLength(2)
  })

  it('is tried otherwise by a choice: a strip of the artwork itself, or a wedge', async () => {
    stripOfTrials.mockResolvedValue({ job: made.job, files: [] })
    shown(<TryOnCard job={job} id={operation} />)
    await userEvent.click(screen.getByTestId('try-what'))
    expect(screen.queryByTestId('try-pulses')).toBeNull()
    expect(screen.getByTestId('try-wedge').textContent).toContain('ten powers')
    await userEvent.click(screen.getByTestId('try-strip'))
    await waitFor(() => expect(stripOfTrials).toHaveBeenCalledWith(job, operation))
    await waitFor(() => expect(asked.some(({ method, path }) => method === 'POST' && path === '/jobs')).toBe(true))
    expect(cardOfTrials).not.toHaveBeenCalled()
  })

  it('tries chosen settings against each other, as they are typed, on scrap of another material', async () => {
    stripOfTrials.mockResolvedValue({ job: made.job, files: [] })
    shown(<TryOnCard job={job} id={operation} />)
    await userEvent.click(screen.getByTestId('try-what'))
    await userEvent.click(screen.getByTestId('try-chosen'))
    const typed = async (i: number, text: string): Promise<void> => {
      const field = screen.getByTestId(`trial-values-${i}`)
      await userEvent.clear(field)
      await userEvent.type(field, `${text}{Enter}`)
    }
    await typed(1, '20; 30 45,5')
    await userEvent.click(within(screen.getByTestId('trial-axis-3')).getByRole('combobox'))
    // What stands across and down already is not offered again.
    expect(screen.queryByRole('option', { name: 'speed' })).toBeNull()
    await userEvent.click(screen.getByRole('option', { name: 'interval' }))
    await typed(3, '0.1 0.2')
    await typed(2, 'fast')
    expect(screen.getByText(/“fast” is no number/)).toBeTruthy()
    await userEvent.keyboard('{Escape}')
    await userEvent.click(screen.getByTestId('begin-trial'))
    await waitFor(() => expect(stripOfTrials).toHaveBeenCalled())
    const [, , axes, on] = stripOfTrials.mock.calls[0]
    expect(axes.across).toEqual({ setting: 'power', values: [0.2, 0.3, 0.455] })
    expect(axes.down.setting).toBe('speedMmS')
    expect(axes.again).toEqual({ setting: 'intervalMm', values: [0.1, 0.2] })
    expect(on).toBeUndefined()
  })

  it('lies on the smallest offcut of its material that has room', async () => {
    const offcut = (id: string, side: number, material = made.job.workpieces.piece.material) => ({
      id,
      code: `C${id}`,
      kind: 'offcut',
      name: `offcut ${id}`,
      material,
      thicknessMm: 3,
      outline: { kind: 'rect', widthMm: side, heightMm: side },
      keepOuts: {},
      marks: {},
      count: 1,
      shelf: '',
      note: '',
      photo: null,
      recipe: null,
      jig: null,
      cents: 0,
      areaMm2: side * side,
      updatedAt: '2026-11-27T08:00:00.000Z',
    })
    asked = fakeServer({
      'POST /assets': { asset: 'a'.repeat(64), widthPx: 1, heightPx: 1, hasAlpha: false },
      'POST /jobs': { id: 'card', name: 'Trial' },
      'GET /stock': { stock: [offcut('s', 60), offcut('l', 300), offcut('m', 120), offcut('o', 95, 'slate-5')] },
    })
    cardOfTrials.mockResolvedValue({ job: made.job, files: [] })
    shown(<TryOnCard job={job} id={operation} />)
    await waitFor(() => expect(asked.some(({ path }) => path === '/stock')).toBe(true))
    await userEvent.click(screen.getByTestId('try-on-card'))
    expect(await screen.findByText('The card lies on “offcut m” from stock.')).toBeTruthy()
    const { body } = asked.find(({ path }) => path === '/jobs')!
    expect((body as { job: JobDocument }).job.workpieces.piece.stock).toMatchObject({ id: 'm' })
  })

  it('that cannot be says why, and can be asked for again', async () => {
    cardOfTrials.mockRejectedValue(new Error('This material takes no such mark.'))
    shown(<TryOnCard job={job} id={operation} />)
    await userEvent.click(screen.getByTestId('try-on-card'))
    expect(await screen.findByText('This material takes no such mark.')).toBeTruthy()
    expect(screen.getByTestId('try-on-card')).toHaveProperty('disabled', false)
  })
})
