import type { AddressInfo, Server } from 'node:net'
import { encodePng, type JobDocument } from '@neotaxis/core'
import { onRectangle, sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { Bed, Machine, serveMachine, servePanel, TRUTHS } from '@neotaxis/stand-ins'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Run } from './models/runs.ts'
import { CONFIRMED_ON_PLY } from './testing/confirmed.ts'
import { openShop, type Shop } from './testing/shop.ts'

const pace = { times: 30 }
let shop: Shop
let ask: TestAgent
let machine: Machine
let served: Server[]
let reach: Map<string, { address: string; panel: number }>
let jobId: string
let job: JobDocument

const portOf = (server: Server): number => (server.address() as AddressInfo).port
const mara = { 'X-Operator': encodeURIComponent('Mara Voss') }
const tobin = { 'X-Operator': 'Tobin' }

beforeAll(async () => {
  const truth = TRUTHS['bench-60']
  machine = new Machine(truth, new Bed(truth.bed.x, truth.bed.y, 0.05, truth.spot))
  served = [await serveMachine(machine, { port: 0, pace }), await servePanel(machine, 0, pace)]
  reach = new Map([['bench-60', { address: `tcp://127.0.0.1:${portOf(served[0])}`, panel: portOf(served[1]) }]])
  shop = await openShop({ name: 'runs', simulated: reach })
  ask = shop.ask
  const picture = squarePicture(60, 10)
  const png = encodePng({ widthPx: 80, heightPx: 80, channels: 1, samples: picture.samples as Uint8Array, full: 255 })
  const { asset } = (
    await ask.post('/api/assets').set('Content-Type', 'application/octet-stream').send(Buffer.from(png)).expect(201)
  ).body
  const sample = sampleJob({ picture, widthMm: 16, xMm: 12, yMm: 10, engrave: { intervalMm: 0.2 } })
  const source = sample.nodes.source
  if (source.kind !== 'source') throw new Error()
  job = {
    ...onRectangle(sample, { widthMm: 44, heightMm: 40 }),
    nodes: { ...sample.nodes, source: { ...source, asset } },
  }
  jobId = (await ask.post('/api/jobs').send({ job }).expect(201)).body.id
})
afterAll(async () => {
  await shop.end()
  for (const server of served) server.close()
})

const live = async () =>
  (await ask.get('/api/live').expect(200)).body.machines.find(({ machine: id }: { machine: string }) => id === 'bench-60')
const linked = () => expect.poll(async () => (await live()).state).toBe('idle')
const phase = async (runId: string): Promise<string> => (await ask.get(`/api/runs/${runId}`).expect(200)).body.phase

const start = (change: object = {}, who: Record<string, string> = mara) =>
  ask
    .post('/api/machines/bench-60/runs')
    .set(who)
    .send({ jobId, revision: 0, armed: false, answers: CONFIRMED_ON_PLY, parentId: null, ...change })

describe('a machine', () => {
  it('is not run before its first connection was gone through', async () => {
    await linked()
    const { body } = await start().expect(409)
    expect(body.message).toContain('never checked')
    const { differences } = (await ask.get('/api/machines/bench-60/settings').expect(200)).body
    expect(differences).toEqual([])
    await ask.post('/api/machines/bench-60/check').set(mara).expect(204)
    expect((await live()).checked).toBe(true)
  })

  it('is moved by hand, no farther than its bed, and to the focus', async () => {
    pace.times = Infinity
    await ask.post('/api/machines/bench-60/home').set(mara).expect(204)
    await ask.post('/api/machines/bench-60/jog').set(mara).send({ dx: 30, dy: 20, dz: 0, speedMmS: 100 }).expect(204)
    await expect.poll(async () => (await live()).report.x).toBe(30)
    await ask.post('/api/machines/bench-60/go').set(mara).send({ z: 3, speedMmS: 10 }).expect(204)
    await ask.post('/api/machines/bench-60/jog').set(mara).send({ dx: -900, dy: 0, dz: 0, speedMmS: 100 }).expect(204)
    await expect.poll(async () => (await live()).report).toMatchObject({ x: 0, y: 20, z: 3 })
    await ask.post('/api/machines/bench-60/jog').set(mara).send({ dx: 'far', dy: 0, dz: 0, speedMmS: 100 }).expect(400)
    await ask.post('/api/machines/bench-60/jog').send({ dx: 1, dy: 0, dz: 0, speedMmS: 100 }).expect(400)
    pace.times = 30
  })

  it('touches the piece under the head, and says how thick it really is', async () => {
    pace.times = Infinity
    const { body } = await ask.post('/api/machines/bench-60/probe').set(mara).send({ jobId }).expect(200)
    // Said to be 3 mm: sheets are seldom as thick as it is written on them.
    expect(body.thicknessMm).toBeCloseTo(3.1, 2)
    await expect.poll(async () => (await live()).report.z).toBeCloseTo(3.1, 2)
    await ask.post('/api/machines/bench-60/probe').set(mara).send({ jobId: 'nothing' }).expect(404)
    await ask.post('/api/machines/bench-60/go').set(mara).send({ z: 3, speedMmS: 10 }).expect(204)
    await expect.poll(async () => (await live()).report.z).toBe(3)
    pace.times = 30
  })

  it('frames until it is stopped, dark, and takes nobody else meanwhile', async () => {
    await ask
      .post('/api/machines/bench-60/frame')
      .set(mara)
      .send({ jobId, shape: 'bounds', speedMmS: 80, power: 0, loop: true })
      .expect(204)
    await expect.poll(async () => (await live()).report.x).toBeGreaterThan(150)
    expect(await live()).toMatchObject({ state: 'framing', holder: 'Mara Voss' })
    const { body } = await start({}, tobin).expect(409)
    expect(body.message).toBe('Mara Voss is at this machine: framing.')
    // Whoever sees trouble stops it.
    await ask.post('/api/machines/bench-60/stop').set(tobin).expect(204)
    await expect.poll(async () => (await live()).state).toBe('idle')
    expect(machine.beamNow).toBe(0)
    await ask
      .post('/api/machines/bench-60/frame')
      .set(mara)
      .send({ jobId, shape: 'bounds', speedMmS: 80, power: 0.5, loop: true })
      .expect(400)
  })
})

describe('a run', () => {
  it('wants its list confirmed, the job as it is now, and a job that may run', async () => {
    expect((await start({ answers: ['people'] }).expect(409)).body.code).toBe('not-confirmed')
    expect((await start({ revision: 7 }).expect(409)).body.message).toContain('has changed meanwhile')
    const outside = onRectangle(job, { xMm: 590, yMm: 0 })
    const other = (await ask.post('/api/jobs').send({ job: outside }).expect(201)).body.id
    const { body } = await start({ jobId: other }).expect(409)
    expect(body.message).toMatch(/^It cannot run: The .* lies outside the bed/)
    expect(await Run.count()).toBe(0)
  })

  it('goes to its end: held, resumed, written down, with what it burned and how long it took', async () => {
    await ask.post('/api/machines/bench-60/go').set(mara).send({ x: 0, y: 0, z: 3, speedMmS: 300 }).expect(204)
    await expect.poll(async () => (await live()).report.state).toBe('idle')
    pace.times = 2
    const { id } = (await start().expect(201)).body
    expect(await live()).toMatchObject({ state: 'running', holder: 'Mara Voss', run: { id, name: 'Sample', phase: 'running' } })
    expect((await start({}, tobin).expect(409)).body.message).toBe('Mara Voss is at this machine: running “Sample”.')
    await expect.poll(async () => (await live()).run.doneSeconds).toBeGreaterThan(1)
    await ask.post(`/api/runs/${id}/hold`).set(tobin).expect(204)
    pace.times = 30
    await expect.poll(async () => (await live()).run.phase).toBe('held')
    await ask.post(`/api/runs/${id}/adjust`).set(mara).send({ speed: 1, power: 1 }).expect(204)
    await ask.post(`/api/runs/${id}/resume`).set(mara).expect(204)
    await expect.poll(() => phase(id), { timeout: 20_000 }).toBe('done')
    await expect.poll(async () => (await ask.get(`/api/runs/${id}`)).body.burn?.cellMm, { timeout: 15_000 }).toBe(0.05)
    const { body } = await ask.get(`/api/runs/${id}`).expect(200)
    expect(body.events.map((event: { phase: string }) => event.phase)).toEqual(['running', 'held', 'running', 'done'])
    // Held once: braking and starting again cost a little.
    expect(Math.abs(body.seconds / body.estimateSeconds - 1)).toBeLessThan(0.02)
    expect(body.interruptions).toBe(1)
    expect(body.document).toEqual(job)
    await ask.get(`/api/runs/${id}/burn.png`).expect(200).expect('Content-Type', 'image/png')
    expect((await live()).state).toBe('idle')

    // What was not through is run again: with more, for this run only, on the same piece.
    const again = await start({ only: ['cut'], changes: { cut: { passes: 2, power: 0.9 } }, parentId: id, answers: [] }).expect(
      201,
    )
    await expect.poll(() => phase(again.body.id), { timeout: 20_000 }).toBe('done')
    const second = (await ask.get(`/api/runs/${again.body.id}`).expect(200)).body
    expect(second).toMatchObject({ parentId: id, scope: { only: ['cut'], changes: { cut: { passes: 2, power: 0.9 } } } })
    expect(second.operations.map((op: { id: string }) => op.id)).toEqual(['cut'])

    // Found again, rated, searched.
    await ask
      .patch(`/api/runs/${id}`)
      .send({ rating: 4, note: 'A little pale near the rear.', looks: { cut: { answer: 'partly', depthMm: 2.4 } } })
      .expect(200)
    await ask.patch(`/api/runs/${id}`).send({ seconds: 5 }).expect(409)
    await ask.patch(`/api/runs/${id}`).send({ rating: 9 }).expect(400)
    const found = (await ask.get('/api/runs?search=pale').expect(200)).body.runs
    expect(found).toHaveLength(1)
    expect(found[0]).toMatchObject({ id, rating: 4, operator: 'Mara Voss', material: 'Birch ply' })
    expect((await ask.get('/api/runs?search=%25').expect(200)).body.runs).toHaveLength(0)
  })

  it('armed, waits for the button at the machine; the lid keeps its place', async () => {
    pace.times = 3
    const { id } = (await start({ armed: true, only: ['cut'] }).expect(201)).body
    await expect.poll(async () => (await live()).run.phase).toBe('armed')
    await ask.post('/api/machines/bench-60/panel').send({ do: 'press' }).expect(200)
    await expect.poll(async () => (await live()).run.phase).toBe('running')
    await ask.post('/api/machines/bench-60/panel').send({ do: 'lid', open: true }).expect(200)
    await expect.poll(async () => (await live()).run.phase).toBe('lid')
    expect((await ask.post(`/api/runs/${id}/resume`).set(mara).expect(409)).body.message).toBe('Close the lid first.')
    await ask.post('/api/machines/bench-60/panel').send({ do: 'lid', open: false }).expect(200)
    await ask.post(`/api/runs/${id}/resume`).set(mara).expect(204)
    await expect.poll(() => phase(id), { timeout: 20_000 }).toBe('done')
    await ask.post('/api/machines/bench-60/panel').send({ do: 'explode' }).expect(400)
  })

  it('is stopped by whoever presses, and says where', async () => {
    pace.times = 3
    const { id } = (await start().expect(201)).body
    await expect.poll(async () => (await live()).run.doneSeconds).toBeGreaterThan(0.5)
    await ask.post('/api/machines/bench-60/stop').set(tobin).expect(204)
    await expect.poll(() => phase(id)).toBe('stopped')
    const { body } = await ask.get(`/api/runs/${id}`).expect(200)
    expect(body.place.driven).toBeGreaterThan(5)
    await ask.post(`/api/runs/${id}/resume`).set(mara).expect(409)
  })

  it('whose server ends is found by the next one, held in its place, and goes on', async () => {
    pace.times = 2
    const { id } = (await start().expect(201)).body
    await expect.poll(async () => (await live()).run.doneSeconds).toBeGreaterThan(1)
    // As if it were killed: nobody tells the machine anything, the connection is simply gone.
    await shop.desks.close()
    expect(await phase(id)).toBe('running')
    await expect.poll(() => machine.state).toBe('hold')
    const seconds = machine.counts.seconds
    shop = await shop.restart()
    ask = shop.ask
    await expect.poll(async () => (await live()).run?.phase, { timeout: 5000 }).toBe('held')
    pace.times = 30
    expect(machine.counts.seconds - seconds).toBeLessThan(0.2)
    await ask.post(`/api/runs/${id}/resume`).set(mara).expect(204)
    await expect.poll(() => phase(id), { timeout: 20_000 }).toBe('done')
    const { body } = await ask.get(`/api/runs/${id}`).expect(200)
    expect(body.events.map((event: { phase: string }) => event.phase)).toContain('away')
  })

  it('is made ready in one turn: homed where it must, the lens at its height; a stop on the way ends that, and nothing is ready', async () => {
    const ready = (z: number) => ask.post('/api/machines/bench-60/ready').set(mara).send({ z, speedMmS: 8 })
    pace.times = Infinity
    machine.powerCycle()
    await expect.poll(async () => (await live()).report?.state).toBe('alarm')
    await ready(4).expect(204)
    await expect.poll(async () => (await live()).report).toMatchObject({ state: 'idle', z: 4 })
    // It knows its place: only the lens moves.
    await ask.post('/api/machines/bench-60/go').set(mara).send({ x: 50, y: 40, speedMmS: 200 }).expect(204)
    await ready(3).expect(204)
    await expect.poll(async () => (await live()).report).toMatchObject({ x: 50, y: 40, z: 3 })
    // Slowly down, and stopped.
    pace.times = 1
    const away = ready(30)
    const answered = away.then((response) => response)
    await expect.poll(async () => (await live()).state).toBe('homing')
    await ask.post('/api/machines/bench-60/stop').set(mara).expect(204)
    const refused = await answered
    expect([refused.status, refused.body.code]).toEqual([409, 'not-ready'])
    expect((await live()).report.z).toBeLessThan(29)
    pace.times = 30
    await expect.poll(async () => (await live()).state).not.toBe('stopping')
    await ask.post('/api/machines/bench-60/go').set(mara).send({ z: 3, speedMmS: 300 }).expect(204)
  })

  it('whose machine forgot it meanwhile is lost, and said to be', async () => {
    pace.times = 2
    const { id } = (await start().expect(201)).body
    await expect.poll(async () => (await live()).run.doneSeconds).toBeGreaterThan(0.5)
    await shop.desks.close()
    machine.powerCycle()
    shop = await shop.restart()
    ask = shop.ask
    await expect.poll(() => phase(id)).toBe('lost')
    expect((await start().expect(409)).body.message).toContain('home it first')
    await ask.post('/api/machines/bench-60/home').set(mara).expect(204)
  })

  it('waits before another set-up until the list of that one was gone through, by whoever is there', async () => {
    pace.times = 60
    await ask.post('/api/machines/bench-60/go').set(mara).send({ z: 3, speedMmS: 300 }).expect(204)
    await expect.poll(async () => (await live()).report.state).toBe('idle')
    const turned: JobDocument = {
      ...job,
      operations: { ...job.operations, cut: { ...job.operations.cut, prepared: 'wiped' } },
      steps: { ...job.steps, turn: { kind: 'set-up', name: 'Turn it over', poses: { piece: { xMm: 140, yMm: 90 } } } },
      order: ['engrave', 'turn', 'cut'],
    }
    const other = (await ask.post('/api/jobs').send({ job: turned }).expect(201)).body.id
    const { id } = (await start({ jobId: other, answers: [...CONFIRMED_ON_PLY, 'prepared'] }).expect(201)).body
    await expect.poll(async () => (await live()).run.phase, { timeout: 20_000 }).toBe('paused')
    const { setUp, instruction } = (await live()).run
    expect(instruction).toBe('Turn it over')
    const list = (setUp as { id: string; title: string; detail: string }[]).map((item) => item.id)
    expect(setUp.map(({ title }: { title: string }) => title)).toEqual(
      expect.arrayContaining(['Turn it over', 'The piece is prepared: wiped', 'In focus on 3 mm']),
    )
    expect(setUp.find(({ id: item }: { id: string }) => item === 'cut-workpiece').detail).toContain('140 mm from the left')
    for (const answers of [undefined, [], list.slice(1), CONFIRMED_ON_PLY])
      expect((await ask.post(`/api/runs/${id}/resume`).set(tobin).send({ answers }).expect(409)).body.code).toBe('not-confirmed')
    expect(machine.beamNow).toBe(0)
    expect((await live()).run.phase).toBe('paused')
    await ask.post(`/api/runs/${id}/resume`).set(tobin).send({ answers: list }).expect(204)
    await expect.poll(() => phase(id), { timeout: 20_000 }).toBe('done')
    expect((await live()).run?.setUp ?? null).toBeNull()
  })

  it('of a part burns only that, and is written down with what it was limited to', async () => {
    pace.times = 60
    const zone = { x0: 12, y0: 10, x1: 20, y1: 16 }
    const changes = { engrave: { power: 0.2 } }
    const { id } = (await start({ only: ['engrave'], zone, changes }).expect(201)).body
    expect((await live()).run.scope).toEqual({ only: ['engrave'], zone, changes })
    await expect.poll(() => phase(id), { timeout: 20_000 }).toBe('done')
    const { body } = await ask.get(`/api/runs/${id}`).expect(200)
    expect(body.scope).toEqual({ only: ['engrave'], zone, changes })
    const [x0, y0, x1, y1] = body.bounds ?? [0, 0, 0, 0]
    expect(x1 - x0).toBeLessThanOrEqual(8.01)
    expect(y1 - y0).toBeLessThanOrEqual(6.01)
    for (const wrong of [{ zone: { ...zone, x1: 3 } }, { pieces: [] }, { fromSeconds: -1 }]) await start(wrong).expect(400)
    const late = (await start({ fromSeconds: 1e6 }).expect(201)).body
    await expect.poll(() => phase(late.id), { timeout: 20_000 }).toBe('done')
  })

  it('that was carried to its machine is written down by hand', async () => {
    const { body } = await ask.post('/api/runs/carried').set(mara).send({ jobId, revision: 0 }).expect(201)
    expect(body).toMatchObject({ phase: 'carried', operator: 'Mara Voss' })
    expect((await ask.patch(`/api/runs/${body.id}`).send({ seconds: 95, rating: 3 }).expect(200)).body.seconds).toBe(95)
  })
})

describe('the field of a scan head', () => {
  const give = (table: object | null) => ask.put('/api/machines/bench-60/field').set(mara).send({ table })

  it('is no matter of a gantry; a table that is not whole, or bends too much, is refused', async () => {
    expect((await give(null).expect(409)).body.code).toBe('no-scan-head')
    await give({ points: 2, offsetsUm: [1, 2, 3, 4, 5, 6, 7] }).expect(400)
    await give({ points: 2, offsetsUm: [0, 0, 0, 0, 0, 0, 0, 9000] }).expect(400)
  })
})

describe('profiles', () => {
  it('are changed on what they were, duplicated, taken away, and exported', async () => {
    const { machines } = (await ask.get('/api/machines').expect(200)).body
    const bench = machines.find(({ id }: { id: string }) => id === 'bench-60')
    const changed = { ...bench, watts: 55 }
    const { body } = await ask.put('/api/machines/bench-60').send({ machine: changed, base: bench.version }).expect(200)
    expect(body.machine).toMatchObject({ watts: 55, version: bench.version + 1 })
    expect((await ask.put('/api/machines/bench-60').send({ machine: changed, base: bench.version }).expect(409)).body.code).toBe(
      'changed',
    )
    await ask
      .put('/api/machines/annex')
      .send({ machine: { ...bench, id: 'annex', name: 'Annex' }, base: null })
      .expect(200)
    expect((await ask.post('/api/machines/annex/connect').expect(409)).body.message).toContain('has no address')
    await ask
      .put('/api/machines/annex')
      .send({ machine: { ...bench, id: 'annex', watts: -3 }, base: 1 })
      .expect(400)
    await ask.delete('/api/machines/annex').expect(204)
    const file = (await ask.get('/api/catalogue').expect(200)).body
    expect(file.machines.map(({ id }: { id: string }) => id)).toContain('scan-20')
    expect(file.materials[0].recipes.length).toBeGreaterThan(0)
    const recipe = { ...file.materials[0].recipes[0], power: 0.5 }
    await ask.put(`/api/recipes/${recipe.id}`).send(recipe).expect(200)
    await ask
      .put('/api/recipes/none')
      .send({ ...recipe, id: 'none' })
      .expect(404)
  })
})
