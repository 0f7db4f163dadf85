import type { StockItem } from '@neotaxis/contract'
import { encodePng, type JobDocument } from '@neotaxis/core'
import { onRectangle, sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Run } from '../models/runs.ts'
import { openShop, type Shop } from '../testing/shop.ts'
import { typedCode } from './stock-item.ts'

let shop: Shop
let ask: TestAgent
let job: JobDocument
const mara = { 'X-Operator': 'Mara' }

beforeAll(async () => {
  shop = await openShop({ name: 'stock' })
  ask = shop.ask
  const picture = squarePicture(60, 10)
  const png = encodePng({ widthPx: 80, heightPx: 80, channels: 1, samples: picture.samples as Uint8Array, full: 255 })
  const { asset } = (
    await ask.post('/api/assets').set('Content-Type', 'application/octet-stream').send(Buffer.from(png)).expect(201)
  ).body
  const sample = sampleJob({ picture, widthMm: 40, xMm: 10, yMm: 10 })
  job = onRectangle(
    { ...sample, nodes: { ...sample.nodes, source: { ...sample.nodes.source, asset } as JobDocument['nodes'][string] } },
    { widthMm: 300, heightMm: 200 },
  )
})
afterAll(() => shop.end())

const keep = async (change: object = {}): Promise<StockItem> => {
  const { material, thicknessMm } = job.workpieces.piece
  const said = {
    name: 'birch sheet',
    kind: 'sheet',
    material,
    thicknessMm,
    outline: { kind: 'rect', widthMm: 300, heightMm: 200 },
    keepOuts: {},
    marks: {},
    count: 1,
    shelf: 'rack 2',
    note: '',
    photo: null,
    recipe: null,
    jig: null,
    cents: 1200,
    ...change,
  }
  return (await ask.post('/api/stock').send(said).expect(201)).body
}
const shelf = async (): Promise<StockItem[]> => (await ask.get('/api/stock').expect(200)).body.stock
const inStock = async (id: string): Promise<StockItem | undefined> => (await shelf()).find((item) => item.id === id)

/** The job on a piece of stock, kept. */
async function jobOn({ id, cents }: Pick<StockItem, 'id' | 'cents'>, change: (job: JobDocument) => JobDocument = (j) => j) {
  const on = change({ ...job, workpieces: { piece: { ...job.workpieces.piece, stock: { id, cents } } } })
  return (await ask.post('/api/jobs').send({ job: on }).expect(201)).body.id as string
}
/** Carried to a machine and run there. @returns the run's id */
async function carried(jobId: string, only?: readonly string[]): Promise<string> {
  const { body } = await ask
    .post('/api/runs/carried')
    .set(mara)
    .send({ jobId, revision: 0, ...(only && { only }) })
    .expect(201)
  await ask.patch(`/api/runs/${body.id}`).send({ seconds: 300 }).expect(200)
  return body.id
}
const usesOf = async (run: string) => (await ask.get(`/api/stock/uses?run=${run}`).expect(200)).body.uses

describe('the shelf', () => {
  it('keeps things with a code of their own, found by it however it is typed', async () => {
    const item = await keep({ outline: { kind: 'circle', diameterMm: 100 }, kind: 'blank', name: 'slate round' })
    expect(item.areaMm2).toBeCloseTo(Math.PI * 2500, -1)
    expect(item.code).toMatch(/^[2-9A-Z]{6}$/)
    const typed = `neotaxis:${item.code.slice(0, 3).toLowerCase()} ${item.code.slice(3).toLowerCase()}`
    expect((await ask.get(`/api/stock/code/${encodeURIComponent(typed)}`).expect(200)).body.id).toBe(item.id)
    expect((await ask.get('/api/stock/code/ZZZZZZ').expect(404)).body.message).toContain('Nothing on the shelf has this code')
    expect((await ask.get('/api/stock?search=slate').expect(200)).body.stock).toHaveLength(1)
    expect(typedCode(' a-2 b ')).toBe('A2B')
  })

  it('is changed word by word, and what is taken off it can be brought back', async () => {
    const item = await keep({ grainDeg: 0 })
    await ask.patch(`/api/stock/${item.id}`).send({ shelf: 'under the stairs' }).expect(200)
    const outline = { kind: 'rect', widthMm: 100, heightMm: 50 }
    const { body } = await ask.patch(`/api/stock/${item.id}`).send({ outline, count: 3 }).expect(200)
    expect(body).toMatchObject({ shelf: 'under the stairs', count: 3, areaMm2: 5000, grainDeg: 0 })
    expect((await ask.patch(`/api/stock/${item.id}`).send({ grainDeg: null }).expect(200)).body.grainDeg).toBeUndefined()
    await ask.delete(`/api/stock/${item.id}`).expect(204)
    expect(await inStock(item.id)).toBeUndefined()
    await ask.post(`/api/stock/${item.id}/restore`).expect(204)
    expect(await inStock(item.id)).toMatchObject({ count: 3 })
    await ask.delete('/api/stock/nothing').expect(404)
  })

  it.each([
    ['count', { count: -1 }],
    ['outline', { outline: { kind: 'rect', widthMm: -5, heightMm: 5 } }],
    ['thicknessMm', { thicknessMm: 'thin' }],
  ])('refuses what makes no sense: %s', async (_, change) => {
    const before = (await shelf()).length
    const item = await keep()
    await ask.patch(`/api/stock/${item.id}`).send(change).expect(400)
    expect(await inStock(item.id)).toMatchObject({ count: 1, areaMm2: 60_000 })
    expect(await shelf()).toHaveLength(before + 1)
  })
})

describe('a run', () => {
  it('takes its part off the last sheet, which keeps its code and place as an offcut; taken back it is whole again', async () => {
    const sheet = await keep()
    const run = await carried(await jobOn(sheet))
    const left = await inStock(sheet.id)
    expect(left).toMatchObject({ kind: 'offcut', count: 1, code: sheet.code, shelf: 'rack 2', name: 'rest of birch sheet' })
    const [use] = await usesOf(run)
    expect(use).toMatchObject({ stockId: sheet.id, name: 'Sample', note: '' })
    expect(use.areaMm2 + left!.areaMm2).toBeCloseTo(60_000, 0)
    // The part with 3 mm around it, and its kerf.
    expect(use.areaMm2).toBeGreaterThan(36 * 36)
    expect(use.areaMm2).toBeLessThan(37 * 37)
    expect(left!.cents + use.cents).toBe(1200)
    await ask.post(`/api/stock/uses/${use.id}/back`).expect(204)
    expect(await inStock(sheet.id)).toMatchObject({ kind: 'sheet', areaMm2: 60_000, name: 'birch sheet', cents: 1200 })
    await ask.post(`/api/stock/uses/${use.id}/back`).expect(404)
  })

  it('takes one of several, lays its rest beside them, and is written down once however often it is told', async () => {
    const sheet = await keep({ count: 5, name: 'poplar' })
    const run = await carried(await jobOn(sheet))
    await ask.patch(`/api/runs/${run}`).send({ seconds: 310 }).expect(200)
    await ask.post('/api/stock/uses').send({ run }).expect(201)
    expect(await inStock(sheet.id)).toMatchObject({ count: 4, kind: 'sheet' })
    const rests = (await shelf()).filter(({ name }) => name === 'rest of poplar')
    expect(rests).toHaveLength(1)
    expect(await usesOf(run)).toHaveLength(1)
  })

  it('on what another one left is taken back first', async () => {
    const sheet = await keep()
    const first = await carried(await jobOn(sheet))
    const left = (await inStock(sheet.id))!
    const beside = (base: JobDocument): JobDocument => ({
      ...base,
      workpieces: { piece: { ...base.workpieces.piece, outline: left.outline } },
      placements: { source: { ...base.placements.source, xMm: 150 } },
    })
    const second = await carried(await jobOn(left, beside))
    expect((await inStock(sheet.id))!.areaMm2).toBeLessThan(left.areaMm2 - 1000)
    const [use] = await usesOf(first)
    const { body } = await ask.post(`/api/stock/uses/${use.id}/back`).expect(409)
    expect(body.message).toBe('“Sample” was made from what it left: take that back first.')
    await ask.post(`/api/stock/uses/${(await usesOf(second))[0].id}/back`).expect(204)
    await ask.post(`/api/stock/uses/${use.id}/back`).expect(204)
    expect((await inStock(sheet.id))!.areaMm2).toBe(60_000)
  })

  it('of a part that leaves the cuts for later takes nothing yet; all of what made it good counts as one', async () => {
    const sheet = await keep()
    const jobId = await jobOn(sheet)
    const engraved = await carried(jobId, ['engrave'])
    expect(await usesOf(engraved)).toHaveLength(0)
    expect((await inStock(sheet.id))!.areaMm2).toBe(60_000)
    // Cut on the same piece after it: the same piece.
    const cut = await carried(jobId, ['cut'])
    await Run.update({ parentId: engraved }, { where: { id: cut } })
    await ask.patch(`/api/runs/${cut}`).send({ seconds: 20 }).expect(200)
    expect(await usesOf(engraved)).toHaveLength(1)
  })

  it('on a sheet that is gone, or is another by now, says so and takes nothing off', async () => {
    const sheet = await keep()
    const jobId = await jobOn(sheet)
    await ask
      .patch(`/api/stock/${sheet.id}`)
      .send({ outline: { kind: 'rect', widthMm: 250, heightMm: 200 } })
      .expect(200)
    const [use] = await usesOf(await carried(jobId))
    expect(use.note).toContain('another outline on the shelf')
    expect((await inStock(sheet.id))!.areaMm2).toBe(50_000)
    await ask.delete(`/api/stock/${sheet.id}`).expect(204)
    const [late] = await usesOf(await carried(jobId))
    expect(late.note).toContain('not on the shelf any more')
  })

  it('of nothing from stock is told to take nothing', async () => {
    const { id } = (await ask.post('/api/jobs').send({ job }).expect(201)).body
    const run = await carried(id)
    expect((await ask.post('/api/stock/uses').send({ run }).expect(409)).body.message).toContain('took nothing from stock')
  })

  it('is never taken twice, however many tell it at the same time', async () => {
    const sheet = await keep({ count: 9, name: 'oak' })
    const run = await carried(await jobOn(sheet))
    await Promise.all(Array.from({ length: 6 }, () => ask.post('/api/stock/uses').send({ run })))
    expect(await inStock(sheet.id)).toMatchObject({ count: 8 })
    expect((await shelf()).filter(({ name }) => name === 'rest of oak')).toHaveLength(1)
  })
})

describe('what is counted', () => {
  it('is added up by month and material, without what was taken back', async () => {
    const { months } = (await ask.get('/api/stock/months').expect(200)).body
    expect(months).toHaveLength(1)
    const { uses } = (await ask.get('/api/stock/uses').expect(200)).body
    expect(months[0].runs).toBe(uses.length)
    expect(months[0].areaMm2).toBeCloseTo(
      uses.reduce((sum: number, { areaMm2 }: { areaMm2: number }) => sum + areaMm2, 0),
      3,
    )
  })

  it('is what the shop says an hour costs', async () => {
    const { rates } = (await ask.get('/api/rates').expect(200)).body
    expect(rates.machineHourCents).toBeGreaterThan(0)
    const mine = { currency: 'kr', machineHourCents: 45_000, handHourCents: 60_000, runMinutes: 4 }
    await ask.put('/api/rates').send({ rates: mine }).expect(200)
    expect((await ask.get('/api/rates').expect(200)).body.rates).toEqual(mine)
    await ask
      .put('/api/rates')
      .send({ rates: { ...mine, runMinutes: -1 } })
      .expect(400)
  })
})
