// @vitest-environment happy-dom
import { MACHINES, MATERIALS } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { SignInFirst } from '../features/people/SignInFirst.tsx'
import { askWhoIsIn } from '../store/session.ts'
import { sessionTold, signedOut } from '../store/session-slice.ts'
import { store } from '../store/store.ts'
import { operatorNamed } from '../store/view-slice.ts'
import {
  type Answer,
  type Asked,
  fakeServer,
  fillBrowser,
  forgetShop,
  restingDesk,
  shown,
  tellDesks,
} from '../testing/fake-server.tsx'
import { BoardPage } from './BoardPage.tsx'
import JournalPage from './JournalPage.tsx'
import LibraryPage from './LibraryPage.tsx'
import MachinesPage from './MachinesPage.tsx'
import PeoplePage from './PeoplePage.tsx'

// Nothing is computed here, nor painted.
vi.mock('../workers/engine.ts', () => ({ compareWithBurn: () => new Promise(() => {}), onWorkerDeath: () => () => {} }))
vi.mock('../features/journal/EstimateChart.tsx', () => ({ EstimateChart: () => <div data-testid="chart" /> }))

let asked: Asked[]
const sent = () => asked.filter(({ method }) => method !== 'GET')
const catalogue = { 'GET /materials': { materials: MATERIALS }, 'GET /machines': { machines: MACHINES } }
/** A server with the catalogue, and what the test adds. */
const serve = (answers: Parameters<typeof fakeServer>[0]): void => {
  asked = fakeServer({ ...catalogue, ...answers })
}
const nobody = { signsIn: false, person: null, names: [], isNew: false }

beforeEach(() => {
  fillBrowser()
  forgetShop()
  store.dispatch(sessionTold(nobody))
  store.dispatch(operatorNamed(''))
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

describe('the board', () => {
  const brief = (id: string, name: string) => ({
    id,
    name,
    revision: 1,
    branchOf: null,
    updatedAt: '2026-11-27T08:00:00.000Z',
    workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 },
    material: 'Birch ply',
    machine: 'Bench laser 60 W',
  })
  const card = (change: object = {}) => ({ content: 'c'.repeat(64), seconds: 606, stop: 0, ask: 0, note: 0, ...change })

  it('shows each job with its time and what is open, as the cards come', async () => {
    serve({
      'GET /jobs?search=': { jobs: [brief('a', 'Oar rack'), brief('b', 'Net float'), brief('c', 'Buoy sign')] },
      'GET /jobs/a/card': card(),
      'GET /jobs/b/card': card({ ask: 2 }),
      'GET /jobs/c/card': card({ stop: 1 }),
    })
    shown(<BoardPage />)
    const text = (id: string) => screen.getByTestId(`card-${id}`).textContent
    await waitFor(() => expect(text('a')).toContain('ready'))
    expect(text('a')).toContain('10:06')
    await waitFor(() => expect(text('b')).toContain('2 open questions'))
    await waitFor(() => expect(text('c')).toContain('cannot run yet'))
  })

  it('says that the server is away, and comes back by itself', async () => {
    const page: { jobs: object[] } | undefined = { jobs: [brief('a', 'Oar rack')] }
    let away = true
    serve({
      'GET /jobs?search=': () => (away ? { refuse: 503, message: '', code: 'database-away' } : page),
      'GET /jobs/a/card': card(),
    })
    shown(<BoardPage />)
    expect(await screen.findByText(/The server is not answering/)).toBeTruthy()
    away = false
    expect(await screen.findByText('Oar rack', undefined, { timeout: 6000 })).toBeTruthy()
    expect(screen.queryByText(/The server is not answering/)).toBeNull()
  })

  it('puts a job away and brings it back, with orders that no other site can send', async () => {
    serve({
      'GET /jobs?search=': { jobs: [brief('a', 'Oar rack')] },
      'GET /jobs/a/card': card(),
      'DELETE /jobs/a': undefined,
      'POST /jobs/a/restore': undefined,
    })
    shown(<BoardPage />)
    const user = userEvent.setup()
    await user.click(within(await screen.findByTestId('card-a')).getByRole('button', { name: /away/i }))
    await user.click(await screen.findByRole('button', { name: 'Bring it back' }))
    await waitFor(() =>
      expect(sent().map(({ method, path }) => `${method} ${path}`)).toEqual(['DELETE /jobs/a', 'POST /jobs/a/restore']),
    )
    for (const { headers } of sent()) expect(headers['Content-Type']).toBe('application/json')
  })
})

describe('signing in', () => {
  const shop = { signsIn: true, person: null, names: ['Ebba', 'Mara'], isNew: false }
  const mara = { name: 'Mara', composes: true, keeps: true, machines: ['bench-60'] }

  it('is one name and one PIN; a wrong one is said, and the field is empty again', async () => {
    let answer: Answer = { refuse: 401, message: 'That is not the PIN of this name.', code: 'wrong-pin' }
    serve({ 'POST /session': () => answer, 'GET /session': () => ({ ...shop, person: answer === undefined ? mara : null }) })
    store.dispatch(sessionTold(shop))
    shown(<SignInFirst />)
    const user = userEvent.setup()
    expect(((await screen.findByTestId('pin')) as HTMLInputElement).disabled).toBe(true)
    await user.click(screen.getByRole('radio', { name: 'Mara' }))
    await user.type(screen.getByTestId('pin'), '0000{Enter}')
    expect(await screen.findByText('That is not the PIN of this name.')).toBeTruthy()
    expect((screen.getByTestId('pin') as HTMLInputElement).value).toBe('')
    answer = undefined
    await user.type(screen.getByTestId('pin'), '4711{Enter}')
    await waitFor(() => expect(store.getState().session.person).toEqual(mara))
    expect(sent().at(-1)!.body).toEqual({ name: 'Mara', pin: '4711' })
    // Runs say who it is, without being asked.
    expect(store.getState().view.operator).toBe('Mara')
    await waitFor(() => expect(screen.queryByTestId('pin')).toBeNull())
  })

  it('begins with whoever knows the key of the shop', async () => {
    serve({ 'POST /session/first': undefined, 'GET /session': { ...shop, person: mara } })
    store.dispatch(sessionTold({ ...shop, names: [], isNew: true }))
    shown(<SignInFirst />)
    const user = userEvent.setup()
    await user.type(await screen.findByLabelText('Key of the shop'), 'the key')
    await user.type(screen.getByLabelText('Your name'), 'Mara')
    await user.type(screen.getByTestId('pin'), '4711')
    await user.click(screen.getByRole('button', { name: 'Keep this shop' }))
    await waitFor(() => expect(store.getState().session.person?.name).toBe('Mara'))
    expect(sent()[0].body).toEqual({ key: 'the key', name: 'Mara', pin: '4711' })
  })

  it('is asked for again where the server knows nobody any more; what is on the page stays under it', async () => {
    serve({ 'GET /jobs?search=': { refuse: 401, message: 'Sign in first.', code: 'signed-out' }, 'GET /session': shop })
    store.dispatch(sessionTold({ ...shop, person: mara }))
    shown(
      <>
        <BoardPage />
        <SignInFirst />
      </>,
    )
    expect(await screen.findByText('Who works here?')).toBeTruthy()
    expect(screen.getByTestId('board')).toBeTruthy()
  })

  it('is not asked for where nobody signs in, and waits for a server that does not answer', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
    let there = false
    serve({ 'GET /session': () => (there ? nobody : { refuse: 503, message: '' }) })
    store.dispatch(signedOut())
    await askWhoIsIn()
    expect(store.getState().session.signsIn).toBe(true)
    there = true
    await vi.advanceTimersByTimeAsync(2100)
    expect(store.getState().session.signsIn).toBe(false)
    shown(<SignInFirst />)
    expect(screen.queryByText('Who works here?')).toBeNull()
  })
})

describe('people', () => {
  const people = [
    { id: 'm', name: 'Mara', composes: true, keeps: true, certificates: [] },
    {
      id: 't',
      name: 'Tobin',
      composes: false,
      keeps: false,
      certificates: [{ machineId: 'bench-60', certifiedBy: 'Mara', untilAt: '2020-01-01T00:00:00.000Z' }],
    },
  ]

  it('are certified for machines, until a day; one that is over is told', async () => {
    serve({ 'GET /people': { people }, 'PUT /people': undefined, 'DELETE /people': undefined, 'PATCH /people': undefined })
    shown(<PeoplePage />)
    const user = userEvent.setup()
    const row = within(await screen.findByTestId('person-Tobin'))
    expect(await row.findByText('not any more')).toBeTruthy()
    await user.click(await row.findByLabelText('runs Scan head 20 W'))
    fireEvent.change(row.getByLabelText('until'), { target: { value: '2027-03-01' } })
    await user.click(row.getByLabelText('runs Bench laser 60 W'))
    await user.click(row.getByLabelText('composes jobs'))
    await waitFor(() => expect(sent()).toHaveLength(4))
    expect(sent().map(({ method, path, body }) => [method, path, body])).toEqual([
      ['PUT', '/people/t/certificates/scan-20', { until: null }],
      ['PUT', '/people/t/certificates/bench-60', { until: '2027-03-01T23:59:59Z' }],
      ['DELETE', '/people/t/certificates/bench-60', undefined],
      ['PATCH', '/people/t', { composes: true }],
    ])
  })

  it('are added with a PIN of digits, get another one, and are taken away in two presses', async () => {
    serve({
      'GET /people': { people },
      'POST /people': { id: 'e' },
      'PATCH /people': undefined,
      'DELETE /people': { refuse: 409, message: 'Somebody must keep the shop: give that to somebody else first.' },
    })
    shown(<PeoplePage />)
    const user = userEvent.setup()
    await screen.findByTestId('person-Mara')
    await user.type(screen.getByLabelText('Name'), 'Ebba')
    await user.type(screen.getByLabelText('PIN, 4 to 12 digits'), 'abcd')
    expect((screen.getByTestId('add-person') as HTMLButtonElement).disabled).toBe(true)
    await user.clear(screen.getByLabelText('PIN, 4 to 12 digits'))
    await user.type(screen.getByLabelText('PIN, 4 to 12 digits'), '2468')
    await user.click(screen.getByTestId('add-person'))
    const row = within(screen.getByTestId('person-Mara'))
    await user.type(row.getByLabelText('New PIN'), '9999{Enter}')
    await user.click(row.getByRole('button', { name: 'Take away' }))
    await user.click(row.getByRole('button', { name: 'Really take away' }))
    expect(await screen.findByText(/Somebody must keep the shop/)).toBeTruthy()
    expect(sent().map(({ method, body }) => [method, body])).toEqual([
      ['POST', { name: 'Ebba', pin: '2468', composes: true, keeps: false }],
      ['PATCH', { pin: '9999' }],
      ['DELETE', undefined],
    ])
  })
})

describe('machines', () => {
  it('show how they stand, are connected and disconnected, and say why not', async () => {
    serve({
      'POST /machines/bench-60/connect': {
        refuse: 502,
        message: 'Nothing answers at tcp://127.0.0.1:1. Is the machine switched on?',
      },
      'POST /machines/bench-60/disconnect': undefined,
    })
    tellDesks({ ...restingDesk, state: 'lost', trouble: 'The connection to the machine was lost.' })
    shown(<MachinesPage />)
    const user = userEvent.setup()
    expect((await screen.findByTestId('machine-bench-60')).textContent).toContain('not connected')
    await user.click(screen.getByRole('button', { name: 'Connect' }))
    expect(await screen.findByText(/Is the machine switched on/)).toBeTruthy()
    tellDesks(restingDesk)
    expect(screen.getByTestId('machine-bench-60').textContent).toContain('ready')
    await user.click(screen.getByRole('button', { name: 'Disconnect' }))
    await waitFor(() =>
      expect(sent().map(({ path }) => path)).toEqual(['/machines/bench-60/connect', '/machines/bench-60/disconnect']),
    )
  })

  it('are changed on the version that is shown, and say so where somebody else was quicker', async () => {
    let answer: Answer = { machine: MACHINES[0] }
    serve({ 'PUT /machines/bench-60': () => answer })
    tellDesks(restingDesk)
    shown(<MachinesPage />)
    const user = userEvent.setup()
    const name = (await screen.findByLabelText('Name')) as HTMLInputElement
    await user.clear(name)
    await user.type(name, 'Bench by the window{Enter}')
    await waitFor(() => expect(sent()).toHaveLength(1))
    expect(sent()[0].body).toMatchObject({ machine: { id: 'bench-60', name: 'Bench by the window' }, base: MACHINES[0].version })
    answer = { refuse: 409, message: 'Something is done with this machine now: change its profile when it stands.' }
    const address = screen.getByLabelText('Address')
    await user.type(address, 'tcp://10.0.0.9:4400{Enter}')
    expect(await screen.findByText(/change its profile when it stands/)).toBeTruthy()
  })

  it('are taken away in two presses, duplicated without their address, and brought in from a file', async () => {
    serve({ 'PUT /machines': { machine: MACHINES[0] }, 'DELETE /machines': undefined })
    tellDesks(restingDesk)
    shown(<MachinesPage />)
    const user = userEvent.setup()
    await user.click(await screen.findByTestId('duplicate'))
    await waitFor(() => expect(sent()).toHaveLength(1))
    expect(sent()[0]).toMatchObject({
      path: '/machines/bench-60-2',
      body: { base: null, machine: { address: '', name: 'Bench laser 60 W (copy)' } },
    })
    const file = new File([JSON.stringify({ ...MACHINES[0], id: 'annex', name: 'Annex' })], 'annex.machine.json')
    fireEvent.change(screen.getByLabelText('Machine profile'), { target: { files: [file] } })
    await waitFor(() => expect(sent()).toHaveLength(2))
    expect(sent()[1].path).toBe('/machines/annex')
    fireEvent.change(screen.getByLabelText('Machine profile'), { target: { files: [new File(['{'], 'broken.json')] } })
    expect(await screen.findByText('broken.json is no machine profile.')).toBeTruthy()
    fireEvent.click(screen.getByTestId('machine-corner-20'))
    await user.click(await screen.findByRole('button', { name: 'Take away' }))
    await user.click(screen.getByRole('button', { name: 'Really take it away' }))
    await waitFor(() => expect(sent().at(-1)).toMatchObject({ method: 'DELETE', path: '/machines/corner-20' }))
  })
})

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

describe('the library', () => {
  const artwork = {
    id: 'a',
    name: 'net float',
    asset: 'a'.repeat(64),
    facts: { asset: 'a'.repeat(64), widthPx: 400, heightPx: 300, hasAlpha: false },
    tags: ['float'],
    origin: '',
    licence: { name: 'own work', sell: true, change: true, credit: '' },
    createdAt: '2026-11-27T08:00:00.000Z',
  }

  it('takes words that are typed one after the other: each is added to those before it', async () => {
    const later: (() => void)[] = []
    let kept = artwork
    serve({
      'GET /library': () => ({ artwork: [kept] }),
      'GET /library/a/jobs': { jobs: [{ id: 'j', name: 'Net sign' }] },
      // Answers that are late, and tell what was known when they were asked.
      'PATCH /library/a': (body) =>
        new Promise((resolve) =>
          later.push(() => {
            kept = { ...kept, ...(body as object) }
            resolve(kept)
          }),
        ),
    })
    shown(<LibraryPage />, '/library?artwork=a')
    const user = userEvent.setup()
    await user.type(await screen.findByLabelText('Licence'), ' of the shop{Enter}')
    await user.type(screen.getByLabelText('Credit to'), 'Net loft{Enter}')
    expect(sent().map(({ body }) => body)).toEqual([
      { licence: { ...artwork.licence, name: 'own work of the shop' } },
      { licence: { ...artwork.licence, name: 'own work of the shop', credit: 'Net loft' } },
    ])
    expect((await screen.findByTestId('used-in')).textContent).toContain('In 1 job')
    const credit = () => (screen.getByLabelText('Credit to') as HTMLInputElement).value
    // The first is done, the second is not yet: what is shown of it stays.
    await act(async () => later[0]())
    expect(credit()).toBe('Net loft')
    await act(async () => later[1]())
    expect(credit()).toBe('Net loft')
  })

  it('puts artwork away and brings it back; is empty with a word of what to do', async () => {
    let there = true
    serve({
      'GET /library': () => ({ artwork: there ? [artwork] : [] }),
      'GET /library/a/jobs': { jobs: [] },
      'DELETE /library/a': () => {
        there = false
        return undefined
      },
      'POST /library/a/restore': () => {
        there = true
        return undefined
      },
    })
    shown(<LibraryPage />, '/library?artwork=a')
    const user = userEvent.setup()
    await user.click(await screen.findByRole('button', { name: 'Put it away' }))
    expect(await screen.findByText('Nothing is kept yet')).toBeTruthy()
    await user.click(screen.getByRole('button', { name: 'Bring it back' }))
    expect(await screen.findByTestId('artwork-net float')).toBeTruthy()
  })
})
