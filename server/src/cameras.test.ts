// The camera over a bed: its photos, what is kept of it, and everything that may answer in its place.
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import type { Calibration } from '@neotaxis/core'
import {
  Bed,
  BedCamera,
  besideHead,
  hungOver,
  Machine,
  serveCamera,
  serveCameraPanel,
  serveMachine,
  servePanel,
  TRUTHS,
} from '@neotaxis/stand-ins'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { atPanel } from './machines/panel-client.ts'
import { openShop, type Shop } from './testing/shop.ts'

const CALIBRATION: Calibration = {
  camera: {
    widthPx: 648,
    heightPx: 486,
    focalPx: 600,
    axisPx: [324, 243],
    lens: { kind: 'brown', k1: -0.2, k2: 0.05, p1: 0, p2: 0 },
    turn: [0.01, 0, 0],
    shift: [-300, -200, 612],
  },
  rmsMm: 0.04,
  p95Mm: 0.08,
  worst: { mm: 0.2, x: 10, y: 20 },
  spots: 240,
  heights: [0.3, 15],
  errors: [{ mm: 0.05, x: 300, y: 200 }],
}
const portOf = (server: { address(): unknown }): number => (server.address() as AddressInfo).port

let shop: Shop
let camera: BedCamera
let photos: Server
let machinePanel: number
const ends: { close(): unknown }[] = []

beforeAll(async () => {
  const truth = TRUTHS['bench-60']
  const machine = new Machine(truth, new Bed(truth.bed.x, truth.bed.y, 0.1, truth.spot))
  const front = [await serveMachine(machine, { port: 0, pace: { times: 20 } }), await servePanel(machine, 0)]
  ends.push(...front)
  machinePanel = portOf(front[1])
  const simulated = new Map([['bench-60', { address: `tcp://127.0.0.1:${portOf(front[0])}`, panel: portOf(front[1]) }]])
  camera = new BedCamera(hungOver({ x: 600, y: 400 }, 'moderate', 4), 4)
  photos = await serveCamera(camera, 0)
  const panel = await serveCameraPanel(camera, 0)
  ends.push(photos, panel)
  const reach = { address: `http://127.0.0.1:${portOf(photos)}/photo.jpg`, panel: portOf(panel) }
  const near = new BedCamera(besideHead(truth.bed, 4), 4, { panel: machinePanel, deepMm: truth.bed.y, fromFront: true }, true)
  const nearPhotos = await serveCamera(near, 0)
  const nearPanel = await serveCameraPanel(near, 0)
  ends.push(nearPhotos, nearPanel)
  const nearReach = { address: `http://127.0.0.1:${portOf(nearPhotos)}/photo.jpg`, panel: portOf(nearPanel) }
  shop = await openShop({
    name: 'cameras',
    simulated,
    cameras: new Map([
      ['bench-60', reach],
      ['bench-60@head', nearReach],
    ]),
  })
})
afterAll(async () => {
  await shop.end()
  for (const each of ends) each.close()
})

const at = (path = ''): string => `/api/machines/bench-60/camera${path}`
const photo = () => shop.ask.post(at('/photo')).send({ widthPx: 648 }).buffer(true)

describe('the camera of a machine', () => {
  it('is there where one ships, and is none over other machines', async () => {
    const { body } = await shop.ask.get(at()).expect(200)
    expect(body.camera).toMatchObject({ simulated: true, calibration: null, empty: null })
    expect((await shop.ask.get('/api/machines/scan-20/camera').expect(200)).body.camera).toBeNull()
    const none = await shop.ask.post('/api/machines/scan-20/camera/photo').send({}).expect(404)
    expect(none.body.message).toContain('There is no camera over this machine')
    await shop.ask.get('/api/machines/nobody/camera').expect(404)
  })

  it('gives photos as they are taken, of what lies there', async () => {
    const bare = await photo().expect(200)
    expect(bare.headers['content-type']).toBe('image/jpeg')
    expect([...bare.body.subarray(0, 2)]).toEqual([0xff, 0xd8])
    await shop.ask.post(at('/under')).send({ lay: 'coasters' }).expect(204)
    expect((await photo().expect(200)).body.length).toBeGreaterThan(1000)
    await shop.ask.post(at('/under')).send({ lay: 'a cat' }).expect(400)
  })

  it('sees what is laid there now, and nothing that an earlier run left over it', async () => {
    const panel = (body: object) => shop.ask.post('/api/machines/bench-60/panel').send(body).expect(200)
    const laid = { material: 'birch-ply', thickness: 18, x0: 40, y0: 40, x1: 500, y1: 300 }
    await atPanel(machinePanel, { do: 'lay', laid })
    expect((await panel({ do: 'state' })).body.laid).toMatchObject({ thickness: 18 })
    await shop.ask.post(at('/under')).send({ lay: 'board' }).expect(204)
    expect((await panel({ do: 'state' })).body.laid).toBeNull()
  })

  it('goes where it is sent with the head, under whoever works there, and says where that stood', async () => {
    const head = '/api/machines/bench-60%40head/camera'
    expect((await shop.ask.get(head).expect(200)).body.camera).toMatchObject({ simulated: true, calibration: null })
    await shop.ask.get('/api/machines/bench-60%40elsewhere/camera').expect(400)
    const asked = (body: object) => shop.ask.post(`${head}/photo`).set('X-Operator', 'Mara').send(body).buffer(true)
    await vi.waitFor(async () => {
      const { machines } = (await shop.ask.get('/api/live').expect(200)).body
      expect(machines.find(({ machine: id }: { machine: string }) => id === 'bench-60').state).toBe('idle')
    })
    await shop.ask.post('/api/machines/bench-60/home').set('X-Operator', 'Mara').send({}).expect(204)
    const taken = await asked({ widthPx: 648, at: { x: 120, y: 90, z: 2, speedMmS: 400 } }).expect(200)
    expect(taken.headers['content-type']).toBe('image/jpeg')
    expect(taken.headers['x-head']).toBe('120 90 2')
    // Nobody's orders move nothing; where the bed ends is no place; the camera over the bed goes nowhere.
    await shop.ask
      .post(`${head}/photo`)
      .send({ at: { x: 10, y: 10, speedMmS: 400 } })
      .expect(400)
    expect((await asked({ at: { x: 5000, y: 10, speedMmS: 400 } }).expect(409)).body.message).toContain('did not get there')
    const over = shop.ask
      .post(at('/photo'))
      .set('X-Operator', 'Mara')
      .send({ at: { x: 10, y: 10, speedMmS: 400 } })
    expect((await over.expect(400)).body.message).toContain('goes nowhere')
    // Stopped on its way, there is no photo of anywhere else.
    const way = asked({ widthPx: 648, at: { x: 590, y: 390, speedMmS: 20 } }).then((answer) => answer)
    await vi.waitFor(async () => {
      const { machines } = (await shop.ask.get('/api/live').expect(200)).body
      expect(machines.find(({ machine: id }: { machine: string }) => id === 'bench-60').report.x).toBeGreaterThan(125)
    })
    await shop.ask.post('/api/machines/bench-60/stop').send({}).expect(204)
    expect((await way).status).toBe(409)
  })

  it('keeps its calibration, and the empty bed that was seen with it', async () => {
    await shop.ask.post(at('/empty')).send({}).expect(409)
    await shop.ask
      .put(at())
      .send({ calibration: { ...CALIBRATION, rmsMm: -1 } })
      .expect(400)
    await shop.ask.put(at()).send({}).expect(400)
    const saved = await shop.ask.put(at()).send({ calibration: CALIBRATION }).expect(200)
    expect(saved.body.camera.calibration).toEqual(CALIBRATION)
    await shop.ask.post(at('/under')).send({ lay: 'nothing' }).expect(204)
    const { body } = await shop.ask.post(at('/empty')).send({}).expect(200)
    expect(body.camera.empty).toMatch(/^[0-9a-f]{64}$/)
    await shop.ask.get(`/api/assets/${body.camera.empty}`).expect(200)
    // Calibrated again, the empty bed is seen otherwise.
    const again = await shop.ask.put(at()).send({ calibration: CALIBRATION }).expect(200)
    expect(again.body.camera.empty).toBeNull()
  })

  it('says what is wrong when something else answers, or nothing', async () => {
    for (const [fault, words] of [
      ['page', 'something that is no photo'],
      ['away', 'does not answer'],
    ] as const) {
      await shop.ask.post(at('/under')).send({ lay: 'nothing', fault }).expect(204)
      expect((await photo().expect(502)).body.message ?? '').toContain(words)
    }
    await shop.ask.post(at('/under')).send({ lay: 'nothing', fault: null }).expect(204)
    await photo().expect(200)
  })

  it('is another one at another address: nothing of the first is believed of it', async () => {
    let answers: (send: (bytes: Uint8Array) => void, end: () => void) => void = (_, end) => end()
    const other = createServer((_request, response) => {
      answers(
        (bytes) => void response.write(bytes),
        () => response.end(),
      )
    })
    await new Promise<void>((resolve) => other.listen(0, '127.0.0.1', resolve))
    ends.push(other)
    await shop.ask.put(at()).send({ address: 'ftp://somewhere/photo' }).expect(400)
    const address = `http://127.0.0.1:${portOf(other)}/still`
    const { body } = await shop.ask.put(at()).send({ address }).expect(200)
    expect(body.camera).toMatchObject({ address, simulated: false, calibration: null, calibratedAt: null })
    expect((await photo().expect(502)).body.message).toContain('no photo')
    answers = (send) => {
      send(Uint8Array.of(0xff, 0xd8, 1, 2))
      setTimeout(() => other.closeAllConnections(), 50)
    }
    expect((await photo().expect(502)).body.message).toContain('broke off')
    answers = (send, end) => {
      const much = new Uint8Array(1 << 22).fill(0xff)
      for (let i = 0; i < 11; i++) send(much)
      end()
    }
    expect((await photo().expect(502)).body.message).toContain('more than a photo')
    // And back to the one that ships.
    const back = await shop.ask.put(at()).send({ address: '' }).expect(200)
    expect(back.body.camera.simulated).toBe(true)
  })
})
