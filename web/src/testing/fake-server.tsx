// The page on a server that is played by a test: requests are answered by what the test says, and kept to be looked at.

import { ThemeProvider } from '@mui/material'
import type { DeskLive } from '@neotaxis/contract'
import { act, render } from '@testing-library/react'
import { SnackbarProvider } from 'notistack'
import type { ReactNode } from 'react'
import { Provider } from 'react-redux'
import { MemoryRouter } from 'react-router'
import { vi } from 'vitest'
import { shop } from '../api/shop.ts'
import { store } from '../store/store.ts'
import { makeTheme } from '../theme/theme.ts'

/** What is answered to a request: a value is JSON, nothing is 204, a number alone is a refusal with that status. */
export type Answer = object | undefined | { readonly refuse: number; readonly message: string; readonly code?: string }
type Handler = Answer | ((body: unknown, path: string) => Answer | Promise<Answer>)

export interface Asked {
  readonly method: string
  readonly path: string
  readonly body: unknown
  readonly headers: Readonly<Record<string, string>>
}

/** Answers `fetch` from a table of `METHOD /path`, the longest that fits; of the server before nothing is known. @returns what was asked, in order */
export function fakeServer(answers: Record<string, Handler>): Asked[] {
  const asked: Asked[] = []
  forgetShop()
  vi.stubGlobal('fetch', async (url: string, init: RequestInit = {}) => {
    const path = url.replace(/^\/api/, '')
    const method = init.method ?? 'GET'
    const body = typeof init.body === 'string' ? JSON.parse(init.body) : init.body
    asked.push({ method, path, body, headers: (init.headers ?? {}) as Record<string, string> })
    const key = Object.keys(answers)
      .filter((one) => `${method} ${path}`.startsWith(one))
      .sort((a, b) => b.length - a.length)[0]
    if (key === undefined) throw new TypeError(`Nobody answers ${method} ${path}.`)
    const handler = answers[key]
    const answer = typeof handler === 'function' ? await handler(body, path) : handler
    if (answer === undefined) return new Response(null, { status: 204 })
    if ('refuse' in answer)
      return Response.json({ code: answer.code ?? 'refused', message: answer.message }, { status: answer.refuse as number })
    return Response.json(answer)
  })
  return asked
}

const theme = makeTheme('light')

/** Something of the page at an address, with all that it stands on. */
export const wrapped = (element: ReactNode, at: string | { readonly state: object } = '/') => (
  <Provider store={store}>
    <ThemeProvider theme={theme}>
      <SnackbarProvider>
        <MemoryRouter initialEntries={[at]}>{element}</MemoryRouter>
      </SnackbarProvider>
    </ThemeProvider>
  </Provider>
)

/** Shows something of the page at an address. */
export const shown = (element: ReactNode, at: string | { readonly state: object } = '/') => render(wrapped(element, at))

/** How a machine stands that is connected, checked and at rest. */
export const restingDesk: DeskLive = {
  machine: 'bench-60',
  state: 'idle',
  trouble: '',
  address: 'tcp://127.0.0.1:1',
  simulated: false,
  checked: true,
  report: {
    state: 'idle',
    driven: 0,
    x: 12,
    y: 30,
    z: 3,
    speedMmS: 0,
    beam: 0,
    speedShare: 100,
    powerShare: 100,
    lidOpen: false,
    air: false,
  },
  silent: false,
  noisy: false,
  holder: null,
  run: null,
  server: null,
}

/** A connection over which nothing comes. */
class SilentSocket {
  close(): void {}
}

/** The server tells how machines stand. */
export function tellDesks(...machines: readonly DeskLive[]): void {
  vi.stubGlobal('WebSocket', SilentSocket)
  const value = { machines, fresh: true }
  act(() => {
    store.dispatch(shop.util.upsertQueryEntries([{ endpointName: 'live', arg: null, value }]))
    // What is told is shown with the next frame; another action shows it now.
    store.dispatch({ type: 'testing/shown' })
  })
}

/** What was told to the page before is not known any more. */
export const forgetShop = (): void => act(() => void store.dispatch(shop.util.resetApiState()))

/** What a browser has and happy-dom has not. */
export function fillBrowser(): void {
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  )
}
