// What the page makes of the server's answers: away is tried again, a refusal is told, a lost session is noticed.
import { afterEach, describe, expect, it, vi } from 'vitest'
import { call, json, listenSignedOut, read, ServerAway, ServerRefusal, send, sendAs } from './call.ts'

const answer = (status: number, body?: unknown): void =>
  void vi.stubGlobal(
    'fetch',
    vi.fn(async () => (body === undefined ? new Response('<html>', { status }) : Response.json(body, { status }))),
  )
const sent = (): { url: string; init: RequestInit } => {
  const [[url, init]] = vi.mocked(fetch).mock.calls as [[string, RequestInit]]
  return { url, init }
}
const wrong = (work: Promise<unknown>): Promise<Error> =>
  work.then(
    () => {
      throw new Error('It was answered.')
    },
    (cause: Error) => cause,
  )

afterEach(() => {
  vi.unstubAllGlobals()
  sendAs('')
  listenSignedOut(() => {})
})

describe('an answer', () => {
  it('is read where it is one', async () => {
    answer(200, { jobs: [1] })
    expect(await read(call('/jobs'))).toEqual({ jobs: [1] })
    expect(sent().url).toBe('/api/jobs')
  })

  it('that is a refusal keeps its sentence and its code', async () => {
    answer(409, { code: 'conflict', message: 'Tobin Rask changed it since.' })
    const cause = await wrong(call('/machines/a'))
    expect(cause).toBeInstanceOf(ServerRefusal)
    expect(cause).toMatchObject({ status: 409, code: 'conflict', message: 'Tobin Rask changed it since.' })
  })

  it('without a code of ours is a proxy without its server: it is tried again', async () => {
    for (const [status, body] of [[502], [504, {}], [500, { message: 'nginx' }], [413]] as const) {
      answer(status, body)
      expect(await wrong(call('/jobs')), String(status)).toBeInstanceOf(ServerAway)
    }
  })

  it('that a disk is full or the server busy comes with its own sentence; that the database is away with ours', async () => {
    answer(507, { code: 'disk-full', message: 'The disk of the server is full: make room.' })
    expect(await wrong(call('/jobs'))).toMatchObject({ message: 'The disk of the server is full: make room.' })
    answer(503, { code: 'busy', message: 'Too much is read at once.' })
    expect(await wrong(call('/jobs'))).toMatchObject({ message: 'Too much is read at once.' })
    answer(503, { code: 'database-away', message: 'ECONNREFUSED 127.0.0.1:3306' })
    const away = await wrong(call('/jobs'))
    expect(away).toBeInstanceOf(ServerAway)
    expect(away.message).not.toContain('ECONN')
  })

  it('of a machine that is not there is a refusal: nothing is tried again behind the operator', async () => {
    answer(502, { code: 'machine-away', message: 'Bench laser 60 W does not answer.' })
    expect(await wrong(send('/machines/a/connect'))).toBeInstanceOf(ServerRefusal)
  })

  it('that never comes is the server away', async () => {
    vi.stubGlobal('fetch', async () => {
      throw new TypeError('Failed to fetch')
    })
    expect(await wrong(call('/jobs'))).toBeInstanceOf(ServerAway)
  })

  it('that nobody is signed in is told to who listens; another 401 is not', async () => {
    const heard = vi.fn()
    listenSignedOut(heard)
    answer(401, { code: 'wrong-pin', message: 'That is not the PIN of this name.' })
    await wrong(call('/session'))
    expect(heard).not.toHaveBeenCalled()
    answer(401, { code: 'signed-out', message: 'Sign in first.' })
    await wrong(call('/jobs'))
    expect(heard).toHaveBeenCalledOnce()
  })
})

describe('a request', () => {
  it('that changes something is JSON, even without a body, so that no other site can send it', async () => {
    for (const method of ['POST', 'PUT', 'PATCH', 'DELETE']) {
      answer(204, undefined)
      vi.stubGlobal(
        'fetch',
        vi.fn(async () => new Response(null, { status: 204 })),
      )
      await send('/runs/1/stop', undefined, method)
      expect(sent().init).toMatchObject({ method, headers: { 'Content-Type': 'application/json' } })
    }
  })

  it('of bytes keeps its own kind', async () => {
    answer(201, {})
    await call('/jobs/file', { method: 'POST', headers: { 'Content-Type': 'application/zip' }, body: 'x' })
    expect(sent().init.headers).toMatchObject({ 'Content-Type': 'application/zip' })
  })

  it('says who works here, whatever letters the name has', async () => {
    sendAs('Jón Ærø')
    answer(200, {})
    await call('/jobs', json({ a: 1 }))
    expect(sent().init).toMatchObject({ body: '{"a":1}', headers: { 'X-Operator': 'J%C3%B3n%20%C3%86r%C3%B8' } })
  })
})
