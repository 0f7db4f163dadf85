// What lies between preparing and running, between two pages, and between two servers: each of these once went wrong.
import { existsSync, readdirSync } from 'node:fs'
import type { AddressInfo, Server } from 'node:net'
import type { DeskLive } from '@neotaxis/contract'
import {
  askedFor,
  encodePng,
  type JobDocument,
  type Material,
  mainPiece,
  type Recipe,
  type Standing,
  sameSettings,
  standingOf,
  withOperation,
} from '@neotaxis/core'
import { onRectangle, sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { LinkError, MachineLink } from '@neotaxis/link'
import { Bed, Machine, serveMachine, servePanel, TRUTHS } from '@neotaxis/stand-ins'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { Leases } from './machines/leases.ts'
import { Run } from './models/runs.ts'
import { CONFIRMED_ON_PLY } from './testing/confirmed.ts'
import { openShop, type Shop, serverOn } from './testing/shop.ts'
import { runFolder } from './work/work.ts'

const pace = { times: 20 }
let shop: Shop
let ask: TestAgent
let machine: Machine
let served: Server[]
let reach: Map<string, { address: string; panel: number }>
let job: JobDocument
let jobId: string

const portOf = (server: Server): number => (server.address() as AddressInfo).port
const mara = { 'X-Operator': 'Mara' }
const tobin = { 'X-Operator': 'Tobin' }
const machineId = 'bench-60'

beforeAll(async () => {
  const truth = TRUTHS[machineId]
  machine = new Machine(truth, new Bed(truth.bed.x, truth.bed.y, 0.1, truth.spot))
  served = [await serveMachine(machine, { port: 0, pace }), await servePanel(machine, 0, pace)]
  reach = new Map([[machineId, { address: `tcp://127.0.0.1:${portOf(served[0])}`, panel: portOf(served[1]) }]])
  shop = await openShop({ name: 'seams', simulated: reach })
  ask = shop.ask
  const picture = squarePicture(60, 10)
  const png = encodePng({ widthPx: 80, heightPx: 80, channels: 1, samples: picture.samples as Uint8Array, full: 255 })
  const { asset } = (
    await ask.post('/api/assets').set('Content-Type', 'application/octet-stream').send(Buffer.from(png)).expect(201)
  ).body
  const sample = sampleJob({ picture, widthMm: 16, xMm: 12, yMm: 10, engrave: { intervalMm: 0.2 } })
  job = {
    ...onRectangle(sample, { widthMm: 44, heightMm: 40 }),
    nodes: { ...sample.nodes, source: { ...sample.nodes.source, asset } as never },
  }
  jobId = await addJob(job)
  await vi.waitFor(async () => {
    if ((await live()).state !== 'idle') throw new Error('The machine is not there yet.')
  })
  await ask.post(`/api/machines/${machineId}/check`).set(mara).expect(204)
})
afterAll(async () => {
  await shop.end()
  for (const server of served) server.close()
})
beforeEach(() => {
  pace.times = 20
})

const addJob = async (document: JobDocument): Promise<string> =>
  (await ask.post('/api/jobs').send({ job: document }).expect(201)).body.id
const live = async (at = ask): Promise<DeskLive> =>
  (await at.get('/api/live').expect(200)).body.machines.find((desk: DeskLive) => desk.machine === machineId)
const start = (change: object = {}, who = mara, at = ask) =>
  at
    .post(`/api/machines/${machineId}/runs`)
    .set(who)
    .send({ jobId, revision: 0, armed: false, answers: CONFIRMED_ON_PLY, parentId: null, ...change })
const stop = (who = tobin, at = ask) => at.post(`/api/machines/${machineId}/stop`).set(who).expect(204)
const idle = () => expect.poll(async () => (await live()).state, { timeout: 20_000 }).toBe('idle')
const phaseOf = async (id: string): Promise<string> => (await ask.get(`/api/runs/${id}`).expect(200)).body.phase
const ended = (id: string) => expect.poll(() => phaseOf(id), { timeout: 30_000 }).toMatch(/^(done|stopped)$/)

describe('a stop', () => {
  it('while the program is made ends the start: nothing runs, nothing is in the journal, the machine is free', async () => {
    for (const delay of [0, 5, 20, 60, 120]) {
      const before = await Run.count()
      const starting = start().then(({ status, body }) => ({ status, body }))
      await new Promise((resolve) => setTimeout(resolve, delay))
      const { state } = await live()
      await stop()
      const { status, body } = await starting
      if (status === 201) {
        // It had begun: then it is a run that was stopped.
        await ended(body.id)
        expect(await phaseOf(body.id), `after ${delay} ms`).toBe('stopped')
      } else {
        expect(body.message, `after ${delay} ms, ${state}`).toMatch(/stopped before it began|whole list/)
        expect(await Run.count()).toBe(before)
      }
      await idle()
      expect(machine.beamNow).toBe(0)
      expect((await live()).holder).toBeNull()
    }
  })

  it('is answered at once, and what becomes of it is told', async () => {
    pace.times = 1
    const { id } = (await start().expect(201)).body
    await expect.poll(() => machine.beamNow, { interval: 10 }).toBeGreaterThan(0)
    const before = performance.now()
    await stop()
    expect(performance.now() - before).toBeLessThan(100)
    await ended(id)
    expect((await ask.get(`/api/runs/${id}`)).body.events.map((event: { phase: string }) => event.phase)).toEqual([
      'running',
      'stopping',
      'stopped',
    ])
    await idle()
  })
})

describe('one thing at a time', () => {
  it('of two starts at once, of two operators and two jobs, one runs, owned and shown; the other is told who is there', async () => {
    const other = await addJob({ ...job, name: 'Other' })
    for (let round = 0; round < 4; round++) {
      const answers = await Promise.all([start({}, mara), start({ jobId: other }, tobin), start({}, mara)])
      const won = answers.filter(({ status }) => status === 201)
      expect(won).toHaveLength(1)
      for (const { body } of answers.filter(({ status }) => status !== 201))
        expect(body.message).toMatch(/is at this machine: |A run is under way/)
      const { run, holder, state } = await live()
      expect(run!.id).toBe(won[0].body.id)
      expect([run!.operator, holder]).toEqual([holder, run!.operator])
      expect(['running', 'starting']).toContain(state)
      expect(await Run.count({ where: { phase: ['starting', 'running'] } })).toBeLessThanOrEqual(1)
      await stop()
      await idle()
    }
  })

  it('a second frame, pulse, home or start of the same operator is refused, with what goes on', async () => {
    const post = (what: string, body: object = {}) => ask.post(`/api/machines/${machineId}/${what}`).set(mara).send(body)
    const frame = { jobId, shape: 'bounds', speedMmS: 80, power: 0, loop: true }
    await post('frame', frame).expect(204)
    for (const [what, body] of [
      ['frame', frame],
      ['pulse', { power: 0.02, count: 3 }],
      ['home', {}],
      ['jog', { dx: 1, dy: 0, dz: 0, speedMmS: 20 }],
    ] as const)
      expect((await post(what, body).expect(409)).body.message, what).toBe('The machine is framing: stop that first.')
    expect((await start().expect(409)).body.message).toBe('The machine is framing: stop that first.')
    // Nor is it left alone: whoever wants to disconnect it must stop it.
    expect((await post('disconnect').expect(409)).body.message).toContain('stop it first')
    await stop()
    await idle()
  })
})

describe('the list before the start', () => {
  it('is asked for whole after anything but a run of the same job in the same place, that ended there last', async () => {
    const { id: first } = (await start({ only: ['cut'] }).expect(201)).body
    await ended(first)
    await idle()
    const again = (change: object) => start({ only: ['cut'], answers: [], ...change })
    const refused = async (change: object, why: string): Promise<void> => {
      const { body } = await again(change).expect(409)
      expect(body).toMatchObject({ code: 'not-confirmed', message: expect.stringContaining(why) })
      await idle()
    }
    await refused({ parentId: 'made-up' }, 'not in the journal')
    await refused({ parentId: null }, 'Go through the list')
    const elsewhere = await addJob(job)
    await refused({ parentId: first, jobId: elsewhere }, 'was another job')
    const { id: second } = (await again({ parentId: first }).expect(201)).body
    await ended(second)
    await idle()
    // The piece lies elsewhere now.
    const moved = {
      id: 'moved',
      name: 'move',
      kind: 'edit',
      patches: [{ path: ['workpieces', 'piece', 'pose', 'xMm'], value: mainPiece(job).pose.xMm + 5 }],
    }
    await ask
      .post(`/api/jobs/${jobId}/edits`)
      .send({ base: 0, edits: [moved] })
      .expect(200)
    await refused({ parentId: first, revision: 1 }, 'lies elsewhere')
    const back = {
      ...moved,
      id: 'back',
      patches: [{ path: ['workpieces', 'piece', 'pose', 'xMm'], value: mainPiece(job).pose.xMm }],
    }
    await ask
      .post(`/api/jobs/${jobId}/edits`)
      .send({ base: 1, edits: [back] })
      .expect(200)
    // Somebody lifted it.
    await ask
      .patch(`/api/runs/${first}`)
      .send({ closing: { finished: true } })
      .expect(200)
    await refused({ parentId: first, revision: 2 }, 'was lifted')
    await ask
      .patch(`/api/runs/${first}`)
      .send({ closing: { finished: false } })
      .expect(200)
    // Another job ran there meanwhile.
    const { id: other } = (await start({ jobId: elsewhere, only: ['cut'] }).expect(201)).body
    await ended(other)
    await idle()
    await refused({ parentId: first, revision: 2 }, 'Something else ran')
  })

  it('is asked for again when the machine changed: another address or profile takes its check away, and its connection', async () => {
    const profiles = async () => (await ask.get('/api/machines')).body.machines
    const bench = (await profiles()).find(({ id }: { id: string }) => id === machineId)
    const put = (change: object, base: number) =>
      ask.put(`/api/machines/${machineId}`).send({ machine: { ...bench, ...change }, base })
    const renamed = (await put({ name: 'Bench by the window' }, bench.version).expect(200)).body.machine
    expect((await live()).checked).toBe(true)
    const changed = (await put({ watts: bench.watts + 5 }, renamed.version).expect(200)).body.machine
    expect((await live()).checked).toBe(false)
    expect((await start({ revision: 2 }).expect(409)).body.code).toMatch(/not-checked|not-connected/)
    await idle()
    // While it runs nobody changes it.
    await ask.post(`/api/machines/${machineId}/check`).set(mara).expect(204)
    pace.times = 1
    await start({ revision: 2 }).expect(201)
    expect((await put({ watts: bench.watts + 9 }, changed.version).expect(409)).body.message).toContain('when it stands')
    await stop()
    await idle()
    await put({ name: bench.name, watts: bench.watts }, changed.version).expect(200)
    await idle()
    await ask.post(`/api/machines/${machineId}/check`).set(mara).expect(204)
  })

  it('is kept once: of changes of one version that come at once, one is taken, and the others are told', async () => {
    const bench = async () => (await ask.get('/api/machines')).body.machines.find(({ id }: { id: string }) => id === machineId)
    const before = await bench()
    const names = ['Bench one', 'Bench two', 'Bench three']
    const answers = await Promise.all(
      names.map((name) => ask.put(`/api/machines/${machineId}`).send({ machine: { ...before, name }, base: before.version })),
    )
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409])
    expect((await bench()).name).toBe(names[answers.findIndex(({ status }) => status === 200)])
    const fresh = { ...before, id: 'annex-2', name: 'Annex', address: '' }
    const made = await Promise.all([1, 2].map(() => ask.put('/api/machines/annex-2').send({ machine: fresh, base: null })))
    expect(made.map(({ status }) => status).sort()).toEqual([200, 409])
    await ask.delete('/api/machines/annex-2').expect(204)
    await ask
      .put(`/api/machines/${machineId}`)
      .send({ machine: before, base: before.version + 1 })
      .expect(200)
  })
})

describe('a planned pause', () => {
  it('tells what is to be done, stands in the journal, and is no interruption', async () => {
    const waits = askedFor(job, 'cut', { kind: 'pause', text: 'Peel the mask off' })
    const id = await addJob(waits)
    const run = (await start({ jobId: id }).expect(201)).body.id
    await expect.poll(async () => (await live()).run?.phase, { timeout: 20_000 }).toBe('paused')
    expect((await live()).run!.instruction).toBe('Peel the mask off')
    await ask.post(`/api/runs/${run}/resume`).set(mara).expect(204)
    await ended(run)
    const { body } = await ask.get(`/api/runs/${run}`)
    expect(body.events.filter((event: { phase: string }) => event.phase === 'paused')).toMatchObject([
      { text: 'Peel the mask off' },
    ])
    expect(body.interruptions).toBe(0)
    await idle()
  })
})

describe('programs of runs', () => {
  it('are deleted when their run is over', async () => {
    const { id } = (await start({ only: ['cut'], revision: 2 }).expect(201)).body
    await ended(id)
    await expect
      .poll(() =>
        (existsSync(runFolder(process.pid)) ? readdirSync(runFolder(process.pid)) : []).filter((name) => name.startsWith(id)),
      )
      .toEqual([])
    await idle()
  })
})

describe('looks and closing lists', () => {
  it('of two pages at once lose nothing: each changes what it names', async () => {
    const { id } = (await start({ only: ['cut'], revision: 2 }).expect(201)).body
    await ended(id)
    await idle()
    await ask
      .patch(`/api/runs/${id}`)
      .send({ looks: { cut: { answer: 'yes' } } })
      .expect(200)
    await Promise.all([
      ...['exhaust', 'bed', 'off'].map((item) => ask.patch(`/api/runs/${id}`).send({ closing: { [item]: true } })),
      ask.patch(`/api/runs/${id}`).send({ looks: { cut: { depthMm: 2.5 } } }),
      ask.patch(`/api/runs/${id}`).send({ looks: { cut: { note: 'dark edge' }, engrave: { answer: 'light' } } }),
    ])
    const { looks, closing } = (await ask.get(`/api/runs/${id}`)).body
    expect(looks).toEqual({ cut: { answer: 'yes', depthMm: 2.5, note: 'dark edge' }, engrave: { answer: 'light' } })
    expect([...closing].sort()).toEqual(['bed', 'exhaust', 'off'])
    const { body } = await ask
      .patch(`/api/runs/${id}`)
      .send({ closing: { bed: false } })
      .expect(200)
    expect(body.closing).not.toContain('bed')
  })
})

describe('what operators say at “look before lifting”', { timeout: 60_000 }, () => {
  const recipeId = 'birch-ply-3-cut'
  const recipe = async (): Promise<Recipe> =>
    (await ask.get('/api/materials')).body.materials
      .flatMap(({ recipes }: Material) => recipes)
      .find(({ id }: Recipe) => id === recipeId)
  const told = async () => (await recipe()).evidence.filter((one) => one.kind === 'run')
  const say = (id: string, cut: object) => ask.patch(`/api/runs/${id}`).send({ looks: { cut } }).expect(200)
  let followed: string

  it('is evidence for the recipe, with the settings that were really used; told again it is one thing', async () => {
    followed = await addJob(withOperation(job, 'cut', { recipe: recipeId }))
    const before = await recipe()
    const { id } = (await start({ jobId: followed, only: ['cut'] }).expect(201)).body
    await ended(id)
    await idle()
    await say(id, { depthMm: 2.9 })
    expect(await told()).toEqual([])
    await say(id, { answer: 'partly' })
    await say(id, { answer: 'yes', note: 'clean' })
    const { power, speedMmS, passes, air } = job.operations.cut
    const set = { power, speedMmS, passes, air }
    const date = expect.stringMatching(/^20\d\d-\d\d-\d\d$/)
    const run = { kind: 'run', run: id, operation: 'cut', date, set, answer: 'yes', depthMm: 2.9, note: 'clean' }
    expect(await told()).toEqual([run])
    const times = ({ kind, ...standing }: Standing) => ('times' in standing ? standing.times : kind)
    const asRecipe = sameSettings(set, before)
    expect(times(standingOf(await recipe()))).toBe(Number(times(standingOf(before))) + (asRecipe ? 1 : 0))

    // What a page sends that has not heard of it adds to it.
    const { body } = await ask
      .put(`/api/recipes/${recipeId}`)
      .send({ ...before, name: 'ply, cut' })
      .expect(200)
    expect(body.recipe.evidence).toHaveLength(before.evidence.length + 1)
    expect(await recipe()).toMatchObject({ name: 'ply, cut' })

    // With more for one run only, on the same piece: that is what was used, and it proves nothing alone.
    const again = await start({
      jobId: followed,
      only: ['cut'],
      changes: { cut: { power: 0.9, passes: 2 } },
      parentId: id,
      answers: [],
    })
    await ended(again.body.id)
    await idle()
    await Promise.all([say(again.body.id, { answer: 'yes' }), say(id, { answer: 'partly' })])
    const [first, second] = await told()
    expect(first).toMatchObject({ run: id, answer: 'partly' })
    // A page that still has what was said before takes nothing back.
    const stale = { ...before, name: 'ply, cut', evidence: [...before.evidence, run] }
    await ask
      .put(`/api/recipes/${recipeId}`)
      .send({ ...stale, evidence: stale.evidence.map((one) => (one === run ? { ...run, date: '2026-11-01' } : one)) })
      .expect(200)
    expect((await told()).map(({ answer }) => answer)).toEqual(['partly', 'yes'])
    expect(second).toMatchObject({ run: again.body.id, after: id, set: { ...set, power: 0.9, passes: 2 }, answer: 'yes' })
  })

  it('says so where speed or power was shifted at the machine meanwhile', async () => {
    pace.times = 2
    const { id } = (await start({ jobId: followed, only: ['cut'] }).expect(201)).body
    await ask.post(`/api/runs/${id}/adjust`).set(mara).send({ speed: 0.8, power: 1 }).expect(204)
    pace.times = 20
    await ended(id)
    await idle()
    await say(id, { answer: 'yes' })
    expect((await told()).find((one) => one.run === id)).toMatchObject({ shifted: 'speed 80 %, power 100 %' })
    const { events } = (await ask.get(`/api/runs/${id}`)).body
    expect(events.map(({ phase }: { phase: string }) => phase)).toContain('shifted')
  })
})

describe('two servers on one database', { timeout: 60_000 }, () => {
  /** The first one is reached where it listens; the second asks it. */
  async function two(): Promise<{ first: Server; own: Shop; second: Shop }> {
    const first = shop.app.listen(0, '127.0.0.1')
    await new Promise((resolve) => first.once('listening', resolve))
    await shop.desks.close()
    const setting = { name: 'seams', simulated: reach }
    const own = await serverOn(setting, shop.sequelize, shop.work, `http://127.0.0.1:${portOf(first)}`)
    first.removeAllListeners('request')
    first.on('request', own.app)
    await expect.poll(async () => (await live(own.ask)).state).toBe('idle')
    const second = await serverOn(setting, shop.sequelize, shop.work)
    await expect.poll(async () => (await live(second.ask))?.server, { timeout: 5000 }).toContain('http://127.0.0.1:')
    return { first, own, second }
  }

  /** Nobody is told that the first ends: as if it were killed. Its lease runs out, and the second finds the run in its place. */
  async function takenOver({ first, own, second }: Awaited<ReturnType<typeof two>>, id: string): Promise<void> {
    own.desks.abandon()
    await expect.poll(() => machine.state).toBe('hold')
    await expect.poll(async () => (await live(second.ask)).run?.phase, { timeout: 30_000 }).toBe('held')
    expect((await live(second.ask)).server).toBeNull()
    await stop(mara, second.ask)
    await expect.poll(() => phaseOf(id), { timeout: 20_000 }).toBe('stopped')
    await second.desks.close()
    first.close()
    shop = await serverOn({ name: 'seams', simulated: reach }, shop.sequelize, shop.work)
    ask = shop.ask
    await idle()
  }

  it('one has the machine; the other says so and passes orders on; when the first dies, the second takes it over', async () => {
    const servers = await two()
    const { own, second } = servers
    expect((await live(second.ask)).state).toBe('idle')
    pace.times = 1
    const { id } = (await start({ revision: 2 }, tobin, second.ask).expect(201)).body
    expect((await live(own.ask)).run).toMatchObject({ id, operator: 'Tobin' })
    await expect.poll(async () => (await live(second.ask)).run?.id).toBe(id)
    await second.ask.post(`/api/runs/${id}/hold`).set(mara).expect(204)
    await expect.poll(async () => (await live(own.ask)).run?.phase).toBe('held')
    expect((await start({ revision: 2 }, mara, second.ask).expect(409)).body.message).toBe(
      'Tobin is at this machine: running “Sample”.',
    )
    await second.ask.post(`/api/runs/${id}/resume`).set(mara).expect(204)
    await takenOver(servers, id)
  })

  it('the second takes it once, however slow the database is, and again where the machine did not answer at first', async () => {
    const servers = await two()
    pace.times = 1
    const { id } = (await start({ revision: 2 }, tobin, servers.second.ask).expect(201)).body
    await expect.poll(() => phaseOf(id)).toBe('running')
    // Longer than from one heartbeat to the next.
    const take = Leases.prototype.take
    const slow = vi.spyOn(Leases.prototype, 'take').mockImplementation(async function (this: Leases, machine) {
      await new Promise((resolve) => setTimeout(resolve, 2700))
      return take.call(this, machine)
    })
    const deaf = vi.spyOn(MachineLink.prototype, 'settings').mockRejectedValueOnce(new LinkError('It does not answer.'))
    try {
      await takenOver(servers, id)
      expect(deaf.mock.calls.length).toBeGreaterThan(1)
    } finally {
      slow.mockRestore()
      deaf.mockRestore()
    }
  })
})
