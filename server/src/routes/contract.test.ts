// The server keeps what the contract promises; that its answers do is looked at in every test that has a shop.
import { PATHS, type PathName } from '@neotaxis/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openShop, type Shop } from '../testing/shop.ts'

let shop: Shop
beforeAll(async () => {
  shop = await openShop({ name: 'contract' })
})
afterAll(() => shop.end())

describe('the contract', () => {
  it.each(Object.keys(PATHS) as PathName[])('%s is served', async (name) => {
    const { method, path } = PATHS[name]
    const at = `/api${path.replace(':sha256', '0'.repeat(64)).replace(/:\w+/g, 'nothing-here')}`
    const { body, headers } = await shop.ask[method.toLowerCase() as 'get'](at)
    expect(body?.code).not.toBe('no-route')
    expect(headers['content-type'] ?? '').not.toContain('html')
  })

  it('is told to whoever asks', async () => {
    const { body } = await shop.ask.get('/api/openapi.json').expect(200)
    expect(body.openapi).toBe('3.1.0')
    expect(body.paths['/machines/{id}/stop'].post.operationId).toBe('stopMachine')
  })

  it('refuses what is not asked for so, with one sentence', async () => {
    const { body } = await shop.ask.get('/api/runs?phase=asleep').expect(400)
    expect(body).toEqual({ code: 'bad-request', message: expect.stringMatching(/^"phase" must be one of .*\.$/) })
    await shop.ask.get('/api/runs?from=yesterday').expect(400)
    expect((await shop.ask.get('/api/runs?from=2026-01-01T00:00:00Z&until=2026-02-01T00:00:00Z').expect(200)).body).toEqual({
      runs: [],
    })
  })
})
