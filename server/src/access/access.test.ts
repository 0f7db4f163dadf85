import express from 'express'
import pino from 'pino'
import request from 'supertest'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { relayTarget } from '../machines/relay.ts'
import { openShop, type Shop } from '../testing/shop.ts'
import { allowedHosts, strangeRequest } from './guard.ts'
import { hashPin, isPin } from './pin.ts'
import { requestLog } from './request-log.ts'
import { needOf, refusalOf } from './rights.ts'
import { waitAfter } from './sessions.ts'
import { accessSettings } from './settings.ts'

const KEY = 'the key under the third float'
let open: Shop
let shop: Shop
beforeAll(async () => {
  open = await openShop({ name: 'open' })
  shop = await openShop({ name: 'locked', access: { shopKey: KEY, hosts: ['shop.saltmere.test'] } })
})
afterAll(async () => {
  await open.end()
  await shop.end()
})

describe('requests from elsewhere', () => {
  const hosts = allowedHosts(['shop.saltmere.test'])
  const of = (headers: Record<string, string>, method = 'POST') => strangeRequest({ method, headers }, hosts)

  it('are told by the name they call, the page they come from, and what the browser says of them', () => {
    expect(of({ host: '127.0.0.1:4310' })).toBeUndefined()
    expect(of({ host: 'Localhost:4310', origin: 'http://localhost:4310' })).toBeUndefined()
    expect(of({ host: 'shop.saltmere.test', origin: 'https://shop.saltmere.test' })).toBeUndefined()
    expect(of({ host: '127.0.0.1:4310', 'sec-fetch-site': 'none' })).toBeUndefined()
    // A page that made its own name point here calls by that name, for reading too.
    expect(of({ host: 'evil.test:4310' }, 'GET')).toContain('evil.test')
    expect(of({}, 'GET')).toBeDefined()
    for (const origin of ['http://evil.test', 'http://127.0.0.1:9999', 'null', 'not an address'])
      expect(of({ host: '127.0.0.1:4310', origin }), origin).toBe('Another site asked for this.')
    for (const site of ['cross-site', 'same-site'])
      expect(of({ host: '127.0.0.1:4310', 'sec-fetch-site': site }), site).toBe('Another site asked for this.')
  })

  it('change nothing: a machine is neither homed nor disconnected by another page, and no form is taken', async () => {
    const { app } = open
    const post = (path: string) => request(app).post(`/api${path}`)
    await post('/machines/bench-60/disconnect')
      .set('Content-Type', 'application/json')
      .set('Origin', 'http://evil.test')
      .expect(403)
    await post('/machines/bench-60/home').set('Content-Type', 'application/json').set('Host', 'evil.test').expect(403)
    await request(app).get('/api/machines').set('Host', 'evil.test').expect(403)
    // What a page may send anywhere without being asked first: nothing, a form, plain text.
    await post('/machines/bench-60/disconnect').expect(415)
    for (const type of ['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data; boundary=x'])
      await post('/machines/bench-60/stop').set('Content-Type', type).send('{}').expect(415)
    await post('/machines/bench-60/stop').set('Content-Type', 'application/json').expect(204)
  })
})

describe('what a server writes down', () => {
  it('is what was asked and answered, and never a session', async () => {
    const lines: string[] = []
    const app = express()
    app.use(requestLog(pino({ level: 'info' }, { write: (line: string) => void lines.push(line) })))
    app.post('/api/session', (_request, response) => void response.cookie('neotaxis_session', 'told-in-answer').status(201).end())
    app.get('/api/health', (_request, response) => void response.end())
    await request(app).post('/api/session').set('Cookie', 'neotaxis_session=told-in-request').expect(201)
    await request(app).get('/api/health').expect(200)
    expect(lines).toHaveLength(1)
    expect(JSON.parse(lines[0])).toMatchObject({ req: { method: 'POST', url: '/api/session' }, res: { statusCode: 201 } })
    expect(lines[0]).not.toMatch(/told-in|cookie/i)
  })
})

describe('a server on a network', () => {
  it('does not start without a key, and says what to do', () => {
    expect(() => accessSettings({ NEOTAXIS_HOST: '0.0.0.0' })).toThrow(
      /whoever reaches it could switch a beam on.*NEOTAXIS_SHOP_KEY/,
    )
    expect(() => accessSettings({ NEOTAXIS_HOST: '192.168.7.2', NEOTAXIS_SHOP_KEY: 'short' })).toThrow('too short')
    expect(() => accessSettings({ NEOTAXIS_TLS_KEY: 'key.pem' })).toThrow('both')
    expect(
      accessSettings({ NEOTAXIS_HOST: '192.168.7.2', NEOTAXIS_SHOP_KEY: KEY, NEOTAXIS_HOSTS: 'shop.test, laser' }),
    ).toMatchObject({
      host: '192.168.7.2',
      hosts: ['192.168.7.2', 'shop.test', 'laser'],
      secure: false,
    })
    expect(accessSettings({})).toMatchObject({ host: '127.0.0.1', shopKey: undefined })
  })
})

describe('a PIN', () => {
  it('is kept as something it cannot be read from, twice differently', async () => {
    const [a, b] = await Promise.all([hashPin('4711'), hashPin('4711')])
    expect(a).not.toBe(b)
    expect(a).not.toContain('4711')
    expect(await isPin('4711', a)).toBe(true)
    expect(await isPin('4712', a)).toBe(false)
    expect(await isPin('4711', 'nonsense')).toBe(false)
  })

  it('may be tried a few times; then each try waits longer', () => {
    expect([0, 3, 4, 5, 8, 40].map(waitAfter)).toEqual([0, 0, 15, 30, 240, 900])
  })
})

describe('what somebody may do', () => {
  const person = (change: object) => ({ name: 'x', composes: false, keeps: false, machines: new Set<string>(), ...change })
  const why = (who: object, method: string, path: string) =>
    refusalOf(person(who), needOf(method, path), (run) => (run === 'r1' ? 'bench-60' : undefined))

  it('is to look and to stop, for everybody', () => {
    for (const [method, path] of [
      ['GET', '/jobs'],
      ['GET', '/runs/r1'],
      ['POST', '/machines/bench-60/stop'],
      ['POST', '/machines/bench-60/jog-end'],
      ['POST', '/runs/r1/hold'],
      ['POST', '/runs/r1/stop'],
      ['DELETE', '/session'],
    ])
      expect(why({}, method, path), path).toBeUndefined()
  })

  it('is to run a machine for whoever is certified for it, and no other', () => {
    const certified = { machines: new Set(['bench-60']) }
    for (const path of ['/machines/bench-60/runs', '/machines/bench-60/home', '/machines/bench-60/connect', '/runs/r1/resume']) {
      expect(why({}, 'POST', path), path).toContain('not certified')
      expect(why({ keeps: true }, 'POST', path), path).toContain('not certified')
      expect(why(certified, 'POST', path), path).toBeUndefined()
    }
    expect(why(certified, 'POST', '/machines/scan-20/frame')).toContain('not certified')
  })

  it('is to change jobs for who composes, and the shop for who keeps it', () => {
    for (const [method, path] of [
      ['POST', '/jobs'],
      ['POST', '/jobs/j/edits'],
      ['POST', '/assets'],
      ['PATCH', '/runs/r1'],
    ]) {
      expect(why({}, method, path), path).toBeDefined()
      expect(why({ composes: true }, method, path), path).toBeUndefined()
    }
    for (const [method, path] of [
      ['PUT', '/machines/bench-60'],
      ['DELETE', '/machines/bench-60'],
      ['PUT', '/recipes/x'],
      ['PUT', '/import-rules'],
      ['GET', '/people'],
      ['POST', '/people'],
    ]) {
      expect(why({ composes: true }, method, path), path).toContain('keeps the shop')
      expect(why({ keeps: true }, method, path), path).toBeUndefined()
    }
  })

  it('is the same however its path is written: capitals, slashes and encoded letters open nothing', () => {
    const composes = { composes: true }
    for (const path of [
      '/Machines/bench-60/runs',
      '/MACHINES/bench-60/HOME',
      '/machines/bench-60/runs/',
      '//machines/bench-60/runs',
      '/%6dachines/bench-60/runs',
      '/machines/bench-60/r%75ns',
      '/machines/bench%2D60/runs',
      '/runs/r1/Resume',
      '/Runs/r1/resume/',
      '/runs/r%31/resume',
    ])
      expect(why(composes, 'POST', path), path).toContain('not certified')
    for (const [method, path] of [
      ['PUT', '/machines/bench-60/'],
      ['PUT', '/Machines/bench-60'],
      ['DELETE', '/machines//bench-60'],
      ['GET', '/People'],
      ['POST', '/people/'],
      ['PATCH', '/PEOPLE/x'],
      ['PUT', '/Recipes/x'],
    ])
      expect(why({ ...composes, machines: new Set(['bench-60']) }, method, path), path).toContain('keeps the shop')
    expect(why({}, 'POST', '/machines/bench-60/stop/')).toBeUndefined()
    expect(why({}, 'POST', '/Runs/r1/HOLD')).toBeUndefined()
  })

  it('is looked at where it is said: what is passed on to another server goes nowhere else there', () => {
    const to = (path: string) => relayTarget({ url: 'http://127.0.0.1:4400' }, path)?.href
    expect(to('/api/machines/bench-60/home')).toBe('http://127.0.0.1:4400/api/machines/bench-60/home')
    expect(to('/api/runs/r1/stop?x=1')).toBe('http://127.0.0.1:4400/api/runs/r1/stop?x=1')
    for (const path of [
      '/api/machines/bench-60/../../people',
      '/api/machines/bench-60/%2e%2e/%2E%2e/people',
      '/api/machines/bench-60/./home',
      '@evil.test/api/machines/bench-60/home',
      '/api\\people',
    ])
      expect(to(path), path).toBeUndefined()
  })
})

describe('signing in', { timeout: 60_000 }, () => {
  const asked = (cookie: string) => request.agent(shop.app).set({ 'Content-Type': 'application/json', Cookie: cookie })
  const cookieOf = (response: request.Response): string => response.headers['set-cookie'][0].split(';')[0]
  const signIn = async (name: string, pin: string) => shop.ask.post('/api/session').send({ name, pin })
  let keeper: string

  it('is asked for: nothing is told and nothing done without it, but for whether the server is well', async () => {
    const { ask } = shop
    await ask.get('/api/health').expect(200)
    for (const path of ['/api/jobs', '/api/live', '/api/machines', '/api/assets/x', '/api/people'])
      await ask.get(path).expect(401)
    await ask.post('/api/machines/bench-60/stop').expect(401)
    // A name in a header says nothing here.
    await ask.post('/api/machines/bench-60/home').set('X-Operator', 'Mara').expect(401)
    expect((await ask.get('/api/session').expect(200)).body).toEqual({ signsIn: true, person: null, names: [], isNew: true })
  })

  it('begins with whoever knows the key of the shop, once', async () => {
    const { ask } = shop
    await ask.post('/api/session/first').send({ key: 'guessed', name: 'Mara Voss', pin: '4711' }).expect(401)
    const first = await ask.post('/api/session/first').send({ key: KEY, name: 'Mara Voss', pin: '4711' }).expect(201)
    keeper = cookieOf(first)
    expect(first.headers['set-cookie'][0]).toMatch(/HttpOnly; SameSite=Strict/)
    await ask.post('/api/session/first').send({ key: KEY, name: 'Tobin', pin: '0815' }).expect(409)
    const { body } = await asked(keeper).get('/api/session')
    expect(body).toMatchObject({ person: { name: 'Mara Voss', keeps: true, machines: [] }, names: ['Mara Voss'], isNew: false })
  })

  it('gives each their rights: certified for a machine, until a day, or not any more', async () => {
    const mara = asked(keeper)
    const { id } = (
      await mara.post('/api/people').send({ name: 'Tobin', pin: '0815', composes: false, keeps: false }).expect(201)
    ).body
    await mara.post('/api/people').send({ name: 'Tobin', pin: '1234', composes: true, keeps: false }).expect(409)
    await mara.post('/api/people').send({ name: 'Ebba', pin: '12', composes: true, keeps: false }).expect(400)
    const tobin = asked(cookieOf(await signIn('Tobin', '0815')))
    await tobin.get('/api/jobs').expect(200)
    expect((await tobin.post('/api/machines/bench-60/home').expect(403)).body.message).toContain('Stop is open to you')
    await tobin.post('/api/machines/bench-60/stop').expect(204)
    await tobin.get('/api/people').expect(403)
    const certify = (until: string | null) => mara.put(`/api/people/${id}/certificates/bench-60`).send({ until }).expect(204)
    await certify(new Date(Date.now() - 1000).toISOString())
    await tobin.post('/api/machines/bench-60/home').expect(403)
    await certify(new Date(Date.now() + 86_400_000).toISOString())
    // He may; that nothing is connected is another matter.
    expect((await tobin.post('/api/machines/bench-60/home').expect(409)).body.code).toBe('not-connected')
    await tobin.post('/api/machines/scan-20/home').expect(403)
    const { people } = (await mara.get('/api/people').expect(200)).body
    expect(people.find(({ name }: { name: string }) => name === 'Tobin').certificates).toEqual([
      { machineId: 'bench-60', certifiedBy: 'Mara Voss', untilAt: expect.any(String) },
    ])
    // Another PIN ends what was signed in with the old one; taken away, nobody is left.
    await mara.patch(`/api/people/${id}`).send({ pin: '9999' }).expect(204)
    await tobin.get('/api/jobs').expect(401)
    await mara.delete(`/api/people/${id}`).expect(204)
    expect((await signIn('Tobin', '9999')).status).toBe(401)
    const { people: left } = (await mara.get('/api/people')).body
    expect(left).toHaveLength(1)
    expect((await mara.delete(`/api/people/${left[0].id}`).expect(409)).body.code).toBe('last')
  })

  it('leaves somebody who keeps the shop, though all give it up at once', async () => {
    const mara = asked(keeper)
    for (const name of ['Ebba', 'Jory'])
      await mara.post('/api/people').send({ name, pin: '2468', composes: true, keeps: true }).expect(201)
    const { people } = (await mara.get('/api/people')).body as { people: { id: string; name: string }[] }
    const gives = await Promise.all(
      people.map(({ id, name }) =>
        name === 'Jory' ? mara.delete(`/api/people/${id}`) : mara.patch(`/api/people/${id}`).send({ keeps: false }),
      ),
    )
    // Whoever comes after all have given it up may not do that any more, or is told to keep it: one keeps it in the end.
    expect(gives.filter(({ status }) => status === 204)).toHaveLength(2)
    const [row] = await shop.sequelize.query('SELECT COUNT(*) AS n FROM people WHERE keeps = 1 AND deletedAt IS NULL')
    expect(Number((row[0] as { n: number }).n)).toBe(1)
    // As it was.
    await shop.sequelize.query("UPDATE people SET keeps = (name = 'Mara Voss')")
  })

  it('lets no more in by trying many PINs at the same moment', async () => {
    const many = await Promise.all(Array.from({ length: 40 }, (_, i) => signIn('Ebba', String(1000 + i))))
    const looked = many.filter(({ status }) => status === 401).length
    expect(looked).toBeLessThanOrEqual(5)
    expect(many.filter(({ status }) => status === 429)).toHaveLength(40 - looked)
    await shop.sequelize.query('DELETE FROM sign_in_tries')
  })

  it('is slowed down by wrong PINs, for the name and for where they come from, and ends when it is signed out', async () => {
    const statuses: number[] = []
    for (let i = 0; i < 8; i++) statuses.push((await signIn('Mara Voss', '0000')).status)
    expect(statuses).toContain(429)
    expect((await signIn('Mara Voss', '4711')).status).toBe(429)
    const { body } = await signIn('Nobody', '0000')
    expect(body.message).toMatch(/wait \d+ s/)
    await asked(keeper).delete('/api/session').expect(204)
    await asked(keeper).get('/api/jobs').expect(401)
  })
})
