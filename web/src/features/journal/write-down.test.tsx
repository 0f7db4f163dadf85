// @vitest-environment happy-dom
// A run at a machine without a cable is written down at any time: which job, by whom; its time comes beside it.
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { store } from '../../store/store.ts'
import { operatorNamed } from '../../store/view-slice.ts'
import { type Asked, fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { WriteDown } from './WriteDown.tsx'

let asked: Asked[]
beforeEach(() => {
  fillBrowser()
  asked = fakeServer({
    'GET /jobs': { jobs: [{ id: 'j1', name: 'Ferry tokens', revision: 7, updatedAt: '2026-11-20T09:00:00Z' }] },
    'POST /runs/carried': { id: 'r9' },
  })
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

it('is chosen by some letters of its name, and written down by whoever says who they are', async () => {
  store.dispatch(operatorNamed(''))
  shown(<WriteDown />)
  fireEvent.click(screen.getByTestId('write-down'))
  expect(screen.getByText(/Say who you are first/)).toBeTruthy()
  await userEvent.type(screen.getByLabelText('Which job ran'), 'ferry')
  await userEvent.click(await screen.findByRole('option', { name: 'Ferry tokens' }))
  expect((screen.getByTestId('write-down-do') as HTMLButtonElement).disabled).toBe(true)
  store.dispatch(operatorNamed('Mara'))
  await waitFor(() => expect((screen.getByTestId('write-down-do') as HTMLButtonElement).disabled).toBe(false))
  fireEvent.click(screen.getByTestId('write-down-do'))
  await waitFor(() => expect(asked.some(({ method }) => method === 'POST')).toBe(true))
  expect(asked.find(({ method }) => method === 'POST')!.body).toEqual({ jobId: 'j1', revision: 7 })
})
