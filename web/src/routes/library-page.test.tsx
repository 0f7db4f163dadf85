// @vitest-environment happy-dom
import { act, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { atShop } from '../testing/at-shop.ts'
import { shown } from '../testing/fake-server.tsx'
import LibraryPage from './LibraryPage.tsx'

// Nothing is computed here, nor painted.
vi.mock('../workers/engine.ts', () => ({ compareWithBurn: () => new Promise(() => {}), onWorkerDeath: () => () => {} }))

const { serve, sent } = atShop()

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
