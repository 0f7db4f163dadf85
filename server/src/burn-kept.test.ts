// A run that is begun right after another one: what the first burned is still there to be looked at.
import type { AddressInfo, Server } from 'node:net'
import type { DeskLive } from '@neotaxis/contract'
import { decodePng, encodePng } from '@neotaxis/core'
import { onRectangle, sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { Bed, Machine, serveMachine, servePanel, TRUTHS } from '@neotaxis/stand-ins'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, expect, it, vi } from 'vitest'
import { CONFIRMED_ON_PLY } from './testing/confirmed.ts'
import { openShop, type Shop } from './testing/shop.ts'

const machineId = 'bench-60'
const mara = { 'X-Operator': 'Mara' }
let shop: Shop
let ask: TestAgent
let served: Server[]
let jobId: string

const portOf = (server: Server): number => (server.address() as AddressInfo).port

beforeAll(async () => {
  const truth = TRUTHS[machineId]
  const pace = { times: Number.POSITIVE_INFINITY }
  const machine = new Machine(truth, new Bed(truth.bed.x, truth.bed.y, 0.1, truth.spot))
  served = [await serveMachine(machine, { port: 0, pace }), await servePanel(machine, 0, pace)]
  const reach = { address: `tcp://127.0.0.1:${portOf(served[0])}`, panel: portOf(served[1]) }
  shop = await openShop({ name: 'burn-kept', simulated: new Map([[machineId, reach]]) })
  ask = shop.ask
  const picture = squarePicture(60, 10)
  const png = encodePng({ widthPx: 80, heightPx: 80, channels: 1, samples: picture.samples as Uint8Array, full: 255 })
  const { body } = await ask
    .post('/api/assets')
    .set('Content-Type', 'application/octet-stream')
    .send(Buffer.from(png))
    .expect(201)
  const sample = sampleJob({ picture, widthMm: 180, xMm: 5, yMm: 4, engrave: { intervalMm: 0.5 } })
  const source = { ...sample.nodes.source, asset: body.asset } as never
  const job = { ...onRectangle(sample, { widthMm: 200, heightMm: 200 }), nodes: { ...sample.nodes, source } }
  jobId = (await ask.post('/api/jobs').send({ job }).expect(201)).body.id
  await vi.waitFor(async () => {
    const { machines } = (await ask.get('/api/live').expect(200)).body
    expect(machines.find((desk: DeskLive) => desk.machine === machineId).state).toBe('idle')
  })
  await ask.post(`/api/machines/${machineId}/check`).set(mara).expect(204)
})
afterAll(async () => {
  await shop.end()
  for (const server of served) server.close()
})

it('three runs, each begun as soon as the machine is free: each keeps the picture of what it burned', async () => {
  const ids: string[] = []
  for (let i = 0; i < 3; i++) {
    const wish = { jobId, revision: 0, armed: false, answers: CONFIRMED_ON_PLY, parentId: null }
    await vi.waitFor(
      async () => {
        const { status, body } = await ask.post(`/api/machines/${machineId}/runs`).set(mara).send(wish)
        expect(status, body.message).toBe(201)
        ids.push(body.id)
      },
      { timeout: 20_000, interval: 10 },
    )
  }
  const dark: number[] = []
  for (const id of ids) {
    const burned = async () => (await ask.get(`/api/runs/${id}/burn.png`).buffer(true)).body
    await expect.poll(async () => (await ask.get(`/api/runs/${id}/burn.png`)).status, { timeout: 20_000 }).toBe(200)
    const { samples } = decodePng(new Uint8Array(await burned()))
    dark.push(samples.filter((v, k) => k % 3 === 0 && v > 100).length)
  }
  expect(dark[0]).toBeGreaterThan(1000)
  // The same job three times: each burned as much.
  for (const count of dark) expect(count).toBe(dark[0])
  // The board says when the job was last run.
  const { jobs } = (await ask.get('/api/jobs').expect(200)).body
  const { ranAt } = jobs.find(({ id }: { id: string }) => id === jobId)
  expect(ranAt).toBe((await ask.get(`/api/runs/${ids[2]}`).expect(200)).body.endedAt)
})
