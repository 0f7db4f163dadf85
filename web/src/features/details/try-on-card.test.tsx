// @vitest-environment happy-dom
// From an operation to a card of trials: a job of its own, or a sentence; the job that it came from stays as it is.
import { type JobDocument, trialCard } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type Asked, fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { TryOnCard } from './TryOnCard.tsx'

const { cardOfTrials } = vi.hoisted(() => ({ cardOfTrials: vi.fn() }))
vi.mock('../../workers/engine.ts', () => ({ cardOfTrials }))

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

  it('that cannot be says why, and can be asked for again', async () => {
    cardOfTrials.mockRejectedValue(new Error('This material takes no such mark.'))
    shown(<TryOnCard job={job} id={operation} />)
    await userEvent.click(screen.getByTestId('try-on-card'))
    expect(await screen.findByText('This material takes no such mark.')).toBeTruthy()
    expect(screen.getByTestId('try-on-card')).toHaveProperty('disabled', false)
  })
})
