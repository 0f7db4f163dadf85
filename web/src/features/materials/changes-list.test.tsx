// @vitest-environment happy-dom
// What was changed of a material is listed; how it was before comes back by one press, where that is kept.
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, expect, it, vi } from 'vitest'
import { fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { ChangesList } from './ChangesList.tsx'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

it('brings back what was before a change, and offers it only where there was something', async () => {
  fillBrowser()
  const change = { at: '2026-11-20T09:00:00Z', by: 'Mara', recipe: null }
  const asked = fakeServer({
    'GET /materials/lid/history': {
      changes: [
        { ...change, number: 2, what: 'changed', goesBack: true },
        { ...change, number: 1, what: 'put into the shop', goesBack: false },
      ],
    },
    'GET /materials': { materials: [] },
    'POST /materials/lid/before': { material: {} },
  })
  shown(<ChangesList id="lid" />)
  expect(await screen.findByText('put into the shop')).toBeTruthy()
  expect(screen.queryByTestId('before-1')).toBeNull()
  fireEvent.click(screen.getByRole('button', { name: 'As it was before: changed' }))
  await waitFor(() => expect(asked.some(({ method }) => method === 'POST')).toBe(true))
  expect(asked.find(({ method }) => method === 'POST')!.body).toEqual({ number: 2 })
})
