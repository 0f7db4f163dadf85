import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { WebSocket } from 'ws'
import { allowedHosts } from '../access/guard.ts'
import { addPerson, signIn, signOut } from '../access/sessions.ts'
import { openShop, type Shop } from '../testing/shop.ts'
import { serveLive } from './live.ts'

let shop: Shop
let open: Server
let locked: Server
const hosts = allowedHosts(['laser.saltmere.test'])

beforeAll(async () => {
  shop = await openShop({ name: 'live' })
  const served = async (shopKey: string | undefined): Promise<Server> => {
    const server = createServer(shop.app)
    serveLive(server, shop.desks, { hosts, shopKey, lookAgainMs: 40 })
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
    return server
  }
  locked = await served('the key under the third float')
  // Desks tell one server: the one that is served last.
  open = await served(undefined)
})
afterAll(async () => {
  open.close()
  locked.close()
  await shop.end()
})

/** The first thing that is told; undefined where nobody may listen. */
function listen(
  server: Server,
  headers: Record<string, string> = {},
  path = '/api/live',
): Promise<{ machines: object[] } | undefined> {
  const { port } = server.address() as AddressInfo
  const socket = new WebSocket(`ws://127.0.0.1:${port}${path}`, { headers })
  return new Promise((resolve) => {
    socket.once('message', (data) => {
      resolve(JSON.parse(String(data)) as { machines: object[] })
      socket.close()
    })
    socket.once('error', () => resolve(undefined))
    socket.once('close', () => resolve(undefined))
  })
}

describe('who may listen to the machines', () => {
  it('is this server’s own page, and programs', async () => {
    const { port } = open.address() as AddressInfo
    expect((await listen(open))!.machines.length).toBeGreaterThan(0)
    expect(await listen(open, { Origin: `http://127.0.0.1:${port}` })).toBeDefined()
    expect(await listen(open, { Host: 'laser.saltmere.test', Origin: 'http://laser.saltmere.test' })).toBeDefined()
  })

  it('is no other page, under no other name, and at no other address', async () => {
    const strange: Record<string, string>[] = [
      { Origin: 'http://evil.test' },
      { Origin: 'http://localhost:9999' },
      { Origin: 'null' },
      { Host: 'evil.test' },
      { Host: 'evil.test', Origin: 'http://evil.test' },
      { 'Sec-Fetch-Site': 'cross-site' },
    ]
    for (const headers of strange) expect(await listen(open, headers), JSON.stringify(headers)).toBeUndefined()
    expect(await listen(open, {}, '/api/other')).toBeUndefined()
  })

  it('is nobody who is not signed in, where people sign in', async () => {
    expect(await listen(locked)).toBeUndefined()
    expect(await listen(locked, { Cookie: `neotaxis_session=${'x'.repeat(43)}` })).toBeUndefined()
    await addPerson('Mara', '4711', { composes: false, keeps: false })
    const token = await signIn('Mara', '4711', '127.0.0.1')
    expect(await listen(locked, { Cookie: `neotaxis_session=${token}` })).toBeDefined()
    // A name alone says nothing.
    expect(await listen(locked, { 'X-Operator': 'Mara' })).toBeUndefined()
    // Whoever is signed out hears no more.
    const { port } = locked.address() as AddressInfo
    const socket = new WebSocket(`ws://127.0.0.1:${port}/api/live`, { headers: { Cookie: `neotaxis_session=${token}` } })
    let heard = 0
    let ended = false
    socket.on('message', () => heard++)
    socket.on('close', () => {
      ended = true
    })
    await expect.poll(() => heard).toBe(1)
    await new Promise((resolve) => setTimeout(resolve, 150))
    expect(ended).toBe(false)
    await signOut(token)
    await expect.poll(() => ended).toBe(true)
  })
})

describe('what is told', () => {
  it('is new only: a machine at rest says the same again and again, and nobody is told', async () => {
    const { port } = open.address() as AddressInfo
    const socket = new WebSocket(`ws://127.0.0.1:${port}/api/live`)
    const told: string[] = []
    socket.on('message', (data) => told.push(String(data)))
    await expect.poll(() => told.length).toBe(1)
    const [desk] = shop.desks.all()
    shop.desks.desk(desk.machine).checked = true
    for (let i = 0; i < 20; i++) shop.desks.onChange()
    await expect.poll(() => told.length).toBe(2)
    for (let i = 0; i < 20; i++) shop.desks.onChange()
    await new Promise((resolve) => setTimeout(resolve, 300))
    expect(told).toHaveLength(2)
    socket.close()
  })
})
