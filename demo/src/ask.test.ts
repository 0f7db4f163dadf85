import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterEach, describe, expect, it } from 'vitest'
import { asking } from './ask.ts'

/** A server that drops a connection as soon as a second request comes on it, as one does that has closed it meanwhile. */
async function impatient(): Promise<{ readonly address: string; close(): void }> {
  const used = new WeakSet<object>()
  const server = createServer((request, response) => {
    if (used.has(request.socket)) return request.socket.destroy()
    used.add(request.socket)
    let bytes = 0
    request.on('data', (chunk) => {
      bytes += chunk.length
    })
    request.on('end', () => {
      response.statusCode = request.url === '/api/full' ? 507 : 200
      response.end(JSON.stringify({ bytes, url: request.url, type: request.headers['content-type'] }))
    })
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  return { address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`, close: () => server.close() }
}

let close: (() => void) | undefined
afterEach(() => close?.())

describe('asking the server', () => {
  it('never uses a connection twice, with large bodies and small ones, at once and one after the other', async () => {
    const server = await impatient()
    ;({ close } = server)
    const call = asking(server.address)
    const body = Buffer.alloc(3_000_000, 7)
    const send = (): Promise<unknown> => call('/assets', { method: 'POST', headers: { 'Content-Type': 'image/png' }, body })
    const answer = { bytes: body.length, url: '/api/assets', type: 'image/png' }
    for (let round = 0; round < 5; round++) {
      expect(await Promise.all([send(), send(), call('/jobs')])).toMatchObject([answer, answer, { bytes: 0, url: '/api/jobs' }])
      expect(await send()).toEqual(answer)
    }
  })

  it('says what the server answered where it refuses', async () => {
    const server = await impatient()
    ;({ close } = server)
    await expect(asking(server.address)('/full')).rejects.toThrow(/^\/full: 507 .*bytes/)
  })
})
