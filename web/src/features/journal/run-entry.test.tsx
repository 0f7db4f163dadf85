// @vitest-environment happy-dom
// A run in the journal: what is written about it goes to the server bit by bit, so that two who write lose nothing.
import type { RunFull } from '@neotaxis/contract'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type Asked, fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { RunEntry } from './RunEntry.tsx'

vi.mock('../../workers/engine.ts', () => ({ compareWithBurn: vi.fn(), cancelWork: () => {} }))
vi.mock('../run/BurnCard.tsx', () => ({ BurnCard: () => null }))

const document = sampleJob({ picture: squarePicture(20, 5) })
const run: RunFull = {
  id: 'r1',
  jobId: 'j1',
  jobRevision: 7,
  parentId: null,
  name: 'Ferry tokens',
  operator: 'Mara Voss',
  phase: 'done',
  reason: '',
  machineId: 'bench-60',
  machine: 'Bench 60',
  material: 'Birch ply 3 mm',
  workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 },
  only: null,
  lines: 12_345,
  estimateSeconds: 100,
  seconds: 108,
  interruptions: 0,
  rating: null,
  note: '',
  photo: null,
  startedAt: '2026-11-20T09:00:00Z',
  endedAt: '2026-11-20T09:02:00Z',
  document,
  scope: {} as RunFull['scope'],
  operations: [],
  looks: {},
  closing: [],
  place: null,
  events: [],
  burn: null,
  photographed: null,
}

let asked: Asked[]
const changed = vi.fn()
/** Shows the run as the server has it; what is written there is read back. */
const show = async (values: Partial<RunFull> = {}, refuse?: { refuse: number; message: string }): Promise<void> => {
  let kept: RunFull = { ...run, ...values }
  asked = fakeServer({
    'GET /runs/r1': () => kept,
    'PATCH /runs/r1': (body) => {
      if (refuse) return refuse
      const { looks, ...rest } = body as Partial<RunFull>
      const merged = Object.fromEntries(Object.entries(looks ?? {}).map(([op, look]) => [op, { ...kept.looks[op], ...look }]))
      kept = { ...kept, ...rest, looks: { ...kept.looks, ...merged } }
      return undefined
    },
    'POST /assets': { asset: 'e'.repeat(64), widthPx: 4, heightPx: 4, hasAlpha: false },
  })
  shown(<RunEntry id="r1" onChanged={changed} />)
  await screen.findByTestId('run-entry')
}
const written = (): unknown[] => asked.filter(({ method }) => method === 'PATCH').map(({ body }) => body)

beforeEach(() => {
  fillBrowser()
  changed.mockReset()
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('a run in the journal', () => {
  it('says what was run, on what, how it ended, and with which settings', async () => {
    await show({ phase: 'stopped', reason: 'Mara Voss pressed Stop.' })
    const text = screen.getByTestId('run-entry').textContent!
    expect(text).toContain('stopped: Mara Voss pressed Stop. · job version 7 · 300 × 200 mm Birch ply 3 mm · 12,345 lines')
    expect(text).toContain('32 % · 300 mm/s · 1 pass')
    expect(text).toContain('68 % · 12 mm/s')
  })

  it('shows only what was run, with the changes that were for this run only', async () => {
    await show({ scope: { only: ['cut'], changes: { cut: { power: 0.8, passes: 2 } } } as unknown as RunFull['scope'] })
    const text = screen.getByTestId('run-entry').textContent!
    expect(text).toContain('80 % · 12 mm/s · 2 passes (for this run only)')
    expect(text).not.toContain('300 mm/s')
  })

  it('leads to its job, and nowhere where the job is gone', async () => {
    await show()
    expect(screen.getByTestId('start-again').getAttribute('href')).toBe('/jobs/j1/run')
    cleanup()
    await show({ jobId: null })
    expect(screen.queryByTestId('start-again')).toBeNull()
  })

  it('that cannot be read says why', async () => {
    fakeServer({ 'GET /runs/r1': { refuse: 404, message: 'There is no such run.' } })
    shown(<RunEntry id="r1" onChanged={changed} />)
    expect(await screen.findByText('There is no such run.')).toBeTruthy()
  })

  it('tells what happened, with the line of the program where there is one', async () => {
    const at = '2026-11-20T09:01:00Z'
    await show({
      events: [
        { number: 1, phase: 'held', text: 'Mara Voss', line: 412, seconds: 31, at },
        { number: 2, phase: 'running', text: '', line: 0, seconds: 40, at },
      ],
    })
    const text = screen.getByTestId('run-entry').textContent!
    expect(text).toContain('What happened, 2 entries')
    expect(text).toContain('held: Mara Voss (line 412)')
    expect(text).not.toContain('(line 0)')
  })
})

describe('what is written about it', () => {
  it('is the one value that was measured: what others saw of the same block stays', async () => {
    await show({ looks: { engrave: { answer: 'light', tone: 0.4 } } })
    const [depth] = screen.getAllByLabelText('depth')
    await userEvent.type(depth, '0,35{Enter}')
    await waitFor(() => expect(written()).toEqual([{ looks: { engrave: { depthMm: 0.35 } } }]))
    expect(screen.getByTestId('run-entry').textContent).toContain('too light')
  })

  it('begins a look where nobody has looked yet, and an empty field takes a value away', async () => {
    await show({ looks: { cut: { answer: 'partly', warpMm: 0.2 } } })
    const [first, second] = screen.getAllByLabelText('warp')
    await userEvent.type(first, '0.1')
    await userEvent.tab()
    await userEvent.clear(second)
    await userEvent.tab()
    await waitFor(() =>
      expect(written()).toEqual([{ looks: { engrave: { answer: 'yes', warpMm: 0.1 } } }, { looks: { cut: { warpMm: null } } }]),
    )
  })

  it('is not sent where nothing was changed, or what was typed is no number', async () => {
    await show({ note: 'clean' })
    const [depth] = screen.getAllByLabelText('depth')
    await userEvent.type(depth, 'deep{Enter}')
    await userEvent.click(screen.getByTestId('run-note'))
    await userEvent.tab()
    expect(written()).toEqual([])
  })

  it('goes as a note when it is left, and the list is told', async () => {
    await show()
    await userEvent.type(screen.getByTestId('run-note'), 'Peel the mask warm.')
    expect(written()).toEqual([])
    await userEvent.tab()
    await waitFor(() => expect(changed).toHaveBeenCalledOnce())
    expect(written()).toEqual([{ note: 'Peel the mask warm.' }])
  })

  it('that the server refuses is told in its sentence, and the list is not told that it changed', async () => {
    await show({}, { refuse: 403, message: 'Only who composes may write about a run.' })
    fireEvent.click(screen.getByRole('radio', { name: '4 of 5' }))
    expect(await screen.findByText('Only who composes may write about a run.')).toBeTruthy()
    expect(written()).toEqual([{ rating: 4 }])
    expect(changed).not.toHaveBeenCalled()
  })

  it('may be a photo, which is kept first and named then', async () => {
    await show()
    const file = new File([new Uint8Array([1, 2, 3])], 'piece.jpg', { type: 'image/jpeg' })
    await userEvent.upload(screen.getByLabelText('Photo of the piece'), file)
    await waitFor(() => expect(written()).toEqual([{ photo: 'e'.repeat(64) }]))
    expect((await screen.findByAltText('The piece after the run')).getAttribute('src')).toBe(`/api/assets/${'e'.repeat(64)}`)
    expect(screen.getByText('Another photo')).toBeTruthy()
  })
})

describe('a program that was carried to its machine', () => {
  const cases: readonly (readonly [string, number])[] = [
    ['12:41', 761],
    ['95', 95],
    ['1:02:03', 3723],
  ]
  it.each(cases)('took %s, which is %i s', async (text, seconds) => {
    await show({ phase: 'carried', seconds: 0 })
    await userEvent.type(screen.getByTestId('carried-time'), `${text}{Enter}`)
    await waitFor(() => expect(written()).toEqual([{ seconds }]))
  })

  it.each(['long', '1:2:3:4', '-5'])('did not take “%s”, and the field says how it is written', async (text) => {
    await show({ phase: 'carried', seconds: 0 })
    await userEvent.click(screen.getByTestId('carried-time'))
    await userEvent.keyboard(`${text}{Enter}`)
    expect(screen.getByText('Write it as 12:41, or in seconds.')).toBeTruthy()
    expect(written()).toEqual([])
  })
})
