// @vitest-environment happy-dom
// What the page makes of a server that is late, answers twice, out of order or in another shape, and of a connection that goes and comes.
import { act, cleanup, render, screen, waitFor } from '@testing-library/react'
import { useCallback } from 'react'
import { Provider } from 'react-redux'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { AwayNote } from '../features/live/AwayNote.tsx'
import { store } from '../store/store.ts'
import { type Answer, fakeServer, restingDesk, shown } from '../testing/fake-server.tsx'
import { ask, OtherShape } from './ask.ts'
import { liveSocket } from './live-socket.ts'
import { jobOrders, libraryOrders } from './orders.ts'
import { useJobsQuery, useLibraryQuery } from './shop.ts'
import { useAnswer } from './use-answer.ts'
import { useKept } from './use-kept.ts'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

describe('an answer of another shape', () => {
  it('is not taken: what is missing is told, and that the page is of another version', async () => {
    fakeServer({ 'GET /jobs': { jobs: 'many' }, 'GET /runs/r1': { id: 'r1', document: {}, operations: [] } })
    await expect(ask('jobs', { query: { search: '' } })).rejects.toThrow(OtherShape)
    await expect(ask('run', { params: { id: 'r1' } })).rejects.toThrow('“events” is missing')
  })

  it('that is no JSON is not taken either', async () => {
    vi.stubGlobal('fetch', async () => new Response('<html>a proxy says hello</html>'))
    await expect(ask('machines')).rejects.toThrow('does not understand')
  })
})

describe('a question', () => {
  const asked: { readonly question: string; answer(value: string | undefined): void; fail(cause: Error): void }[] = []
  beforeEach(() => {
    asked.length = 0
  })
  function Shown({ question }: { readonly question: string | undefined }) {
    const make = useCallback(
      (signal: AbortSignal) =>
        new Promise<string | undefined>((answer, fail) => {
          asked.push({ question: question!, answer, fail })
          signal.addEventListener('abort', () => asked.push({ question: `${question} is not wanted`, answer, fail }))
        }),
      [question],
    )
    const { value, isCurrent, error } = useAnswer(question === undefined ? undefined : make)
    return <p data-testid="told">{`${value ?? 'nothing'}${isCurrent ? '' : ' (old)'}${error ? `: ${error}` : ''}`}</p>
  }
  const told = (): string => screen.getByTestId('told').textContent!

  it('has the answer to the newest, in whatever order they come; what was called off is told so', async () => {
    const { rerender } = render(<Shown question="a" />)
    rerender(<Shown question="b" />)
    expect(asked.map(({ question }) => question)).toEqual(['a', 'a is not wanted', 'b'])
    await act(async () => asked[2].answer('answer to b'))
    expect(told()).toBe('answer to b')
    await act(async () => asked[0].answer('answer to a'))
    expect(told()).toBe('answer to b')
    rerender(<Shown question="c" />)
    expect(told()).toBe('answer to b (old)')
    await act(async () => asked.at(-1)!.fail(new Error('The picture is missing.')))
    expect(told()).toBe('answer to b: The picture is missing.')
  })

  it('that is not asked has no answer, and one that gives nothing keeps the one before', async () => {
    const { rerender } = render(<Shown question={undefined} />)
    expect(told()).toBe('nothing (old)')
    rerender(<Shown question="a" />)
    await act(async () => asked[0].answer('answer to a'))
    rerender(<Shown question="b" />)
    await act(async () => asked.at(-1)!.answer(undefined))
    expect(told()).toBe('answer to a (old)')
  })
})

describe('what is held of the server', () => {
  function Board({ search = '' }: { readonly search?: string }) {
    const { data, trouble, at } = useKept(useJobsQuery, search)
    return (
      <>
        <AwayNote trouble={trouble} at={at} />
        <ul>
          {data?.map(({ id, name }) => (
            <li key={id}>{name}</li>
          ))}
        </ul>
      </>
    )
  }
  const job = (id: string, name: string) => ({ id, name })
  const names = (): string[] => screen.queryAllByRole('listitem').map((item) => item.textContent!)

  it('stays while the server is away, says from when it is, and is renewed when it comes back', async () => {
    let answer: Answer = { jobs: [job('a', 'Oar rack')] }
    fakeServer({ 'GET /jobs': () => answer, 'DELETE /jobs/a': undefined })
    shown(<Board />)
    await waitFor(() => expect(names()).toEqual(['Oar rack']))
    answer = { refuse: 503, message: '', code: 'database-away' }
    await act(async () => jobOrders.remove('a'))
    expect((await screen.findByRole('status')).textContent).toMatch(/not answering\. What you see is from .*\d/)
    expect(names()).toEqual(['Oar rack'])
    answer = { jobs: [job('b', 'Net float')] }
    await waitFor(() => expect(names()).toEqual(['Net float']), { timeout: 6000 })
    expect(screen.queryByRole('status')).toBeNull()
  })

  it('is the answer to what is looked for now, though an earlier one comes later', async () => {
    const late: (() => void)[] = []
    fakeServer({
      'GET /jobs?search=o': () => new Promise((resolve) => late.push(() => resolve({ jobs: [job('o', 'Oar rack')] }))),
      'GET /jobs?search=net': { jobs: [job('n', 'Net float')] },
    })
    const page = (search: string) => (
      <Provider store={store}>
        <Board search={search} />
      </Provider>
    )
    const { rerender } = render(page('o'))
    rerender(page('net'))
    await waitFor(() => expect(names()).toEqual(['Net float']))
    await act(async () => {
      for (const answer of late) answer()
    })
    expect(names()).toEqual(['Net float'])
  })

  it('shows a change at once, and the server’s word where it refuses it', async () => {
    function Library() {
      return <p data-testid="name">{useKept(useLibraryQuery, null).data?.[0]?.name}</p>
    }
    fakeServer({
      'GET /library': { artwork: [{ id: 'a', name: 'net float' }] },
      'PATCH /library/a': { refuse: 409, message: 'Jon Hale changed it since.' },
    })
    shown(<Library />)
    await waitFor(() => expect(screen.getByTestId('name').textContent).toBe('net float'))
    let refused: Promise<unknown> | undefined
    act(() => {
      refused = libraryOrders.change('a', { name: 'cork float' }).catch((cause: Error) => cause.message)
      store.dispatch({ type: 'testing/shown' })
    })
    expect(screen.getByTestId('name').textContent).toBe('cork float')
    expect(await act(async () => refused)).toBe('Jon Hale changed it since.')
    await waitFor(() => expect(screen.getByTestId('name').textContent).toBe('net float'))
  })
})

describe('the live connection', () => {
  class Socket {
    static all: Socket[] = []
    onmessage: ((event: { data: string }) => void) | undefined
    onclose: (() => void) | undefined
    closed = false
    constructor() {
      Socket.all.push(this)
    }
    close(): void {
      this.closed = true
    }
    tell(value: unknown): void {
      this.onmessage?.({ data: typeof value === 'string' ? value : JSON.stringify(value) })
    }
  }
  const words: string[] = []
  const listen = () =>
    liveSocket({
      told: ({ machines }) => words.push(machines.map(({ state }) => state).join(' ')),
      silent: () => words.push('silent'),
    })
  beforeEach(() => {
    vi.useFakeTimers()
    Socket.all = []
    words.length = 0
    vi.stubGlobal('WebSocket', Socket)
  })

  it('goes and comes: what is told meanwhile is old, and an old connection has nothing more to say', () => {
    const end = listen()
    const [first] = Socket.all
    first.tell({ machines: [restingDesk] })
    first.onclose?.()
    expect(words).toEqual(['idle', 'silent'])
    vi.advanceTimersByTime(1100)
    expect(Socket.all).toHaveLength(2)
    Socket.all[1].tell({ machines: [{ ...restingDesk, state: 'framing' }] })
    first.tell({ machines: [restingDesk] })
    first.onclose?.()
    expect(words).toEqual(['idle', 'silent', 'framing'])
    end()
    expect(Socket.all[1].closed).toBe(true)
    Socket.all[1].onclose?.()
    vi.advanceTimersByTime(5000)
    expect(Socket.all).toHaveLength(2)
  })

  it.each([['no JSON'], [{ machines: 'none' }], [[]], [null]])('that says %j says nothing: what is shown is old', (what) => {
    listen()
    Socket.all[0].tell(what)
    expect(words).toEqual(['silent'])
  })
})
