// @vitest-environment happy-dom
import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { atShop } from '../testing/at-shop.ts'
import { shown } from '../testing/fake-server.tsx'
import { BoardPage } from './BoardPage.tsx'

// Nothing is computed here, nor painted.
vi.mock('../workers/engine.ts', () => ({ compareWithBurn: () => new Promise(() => {}), onWorkerDeath: () => () => {} }))

const { serve, sent } = atShop()

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
