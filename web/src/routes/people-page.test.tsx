// @vitest-environment happy-dom
import { fireEvent, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { SignInFirst } from '../features/people/SignInFirst.tsx'
import { askWhoIsIn } from '../store/session.ts'
import { sessionTold, signedOut } from '../store/session-slice.ts'
import { store } from '../store/store.ts'
import { atShop } from '../testing/at-shop.ts'
import { type Answer, shown } from '../testing/fake-server.tsx'
import { BoardPage } from './BoardPage.tsx'
import PeoplePage from './PeoplePage.tsx'

// Nothing is computed here, nor painted.
vi.mock('../workers/engine.ts', () => ({ compareWithBurn: () => new Promise(() => {}), onWorkerDeath: () => () => {} }))

const { serve, sent } = atShop()
const nobody = { signsIn: false, person: null, names: [], isNew: false }

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
