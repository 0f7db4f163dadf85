import {
  type Edit,
  editFrom,
  encodePng,
  FIRST_RULES,
  JOB_VERSION,
  type JobDocument,
  packJob,
  withOperation,
} from '@neotaxis/core'
import { tideClockFace, tideClockJob } from '@neotaxis/demo'
import pino from 'pino'
import type { Sequelize } from 'sequelize'
import request from 'supertest'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { createApp } from './app.ts'
import { fillCatalogue } from './catalogue.ts'
import { databaseSettings, openDatabase } from './database.ts'
import { fillFonts } from './fonts.ts'
import { Desks } from './machines/desks.ts'

const settings = { ...databaseSettings(process.env), name: `api_${process.pid}` }
let sequelize: Sequelize
let app: ReturnType<typeof createApp>
let face: Uint8Array
let asset: string
let job: JobDocument

beforeAll(async () => {
  sequelize = await openDatabase(settings)
  await fillCatalogue()
  await fillFonts()
  const log = pino({ level: 'silent' })
  const desks = new Desks(new Map(), log)
  await desks.open()
  app = createApp({ sequelize, log, desks })
  face = encodePng(tideClockFace(400))
  asset = (
    await request(app).post('/api/assets').set('Content-Type', 'application/octet-stream').send(Buffer.from(face)).expect(201)
  ).body.asset
  job = tideClockJob({ name: 'tide-clock-face.png', asset, widthPx: 400, heightPx: 400, hasAlpha: false })
})
afterAll(async () => {
  await sequelize.query(`DROP DATABASE \`${settings.name}\``)
  await sequelize.close()
})

const jobOf = (): JobDocument => job
const make = async (): Promise<string> => (await request(app).post('/api/jobs').send({ job: jobOf() }).expect(201)).body.id
const powerEdit = (job: JobDocument, operation: string, power: number, id: string): Edit =>
  editFrom(job, withOperation(job, operation, { power }), `power ${power}`, id)

describe('assets', () => {
  it('keeps a picture under its SHA-256 and gives it back byte for byte', async () => {
    const { body } = await request(app).get(`/api/assets/${asset}`).expect(200).expect('Content-Type', 'image/png')
    expect(Buffer.compare(body as Buffer, Buffer.from(face))).toBe(0)
  })

  it('keeps large pictures whole, in chunks', async () => {
    const samples = Uint8Array.from(
      { length: 2200 * 2200 },
      (_, i) => (Math.imul(Math.imul(i ^ (i >>> 7), 2654435761) ^ (i << 5), 2246822519) >>> 15) & 255,
    )
    const png = Buffer.from(encodePng({ widthPx: 2200, heightPx: 2200, channels: 1, samples, full: 255 }))
    expect(png.length).toBeGreaterThan(3_000_000)
    const { body } = await request(app).post('/api/assets').set('Content-Type', 'application/octet-stream').send(png).expect(201)
    const back = await request(app).get(`/api/assets/${body.asset}`).expect(200)
    expect(Buffer.compare(back.body as Buffer, png)).toBe(0)
  })

  it('refuses what is no picture, and keeps nothing of it', async () => {
    const count = async (): Promise<unknown> => (await sequelize.query('SELECT COUNT(*) AS n FROM assets'))[0]
    const before = await count()
    const giant = Buffer.from(face)
    giant.writeUInt32BE(60_000, 16)
    giant.writeUInt32BE(60_000, 20)
    for (const bytes of [Buffer.from('no picture'), Buffer.from(face.subarray(0, face.length / 2)), giant]) {
      const { body } = await request(app)
        .post('/api/assets')
        .set('Content-Type', 'application/octet-stream')
        .send(bytes)
        .expect(422)
      expect(body.message).toMatch(/^[A-Z].*\.$/)
    }
    await request(app).post('/api/assets').set('Content-Type', 'application/octet-stream').send(Buffer.alloc(0)).expect(422)
    expect(await count()).toEqual(before)
  })
})

describe('jobs', () => {
  it('gives back what was made, with a card that is planned and painted', async () => {
    const id = await make()
    const { body } = await request(app).get(`/api/jobs/${id}`).expect(200)
    expect(body.document).toEqual(jobOf())
    const card = (await request(app).get(`/api/jobs/${id}/card`).expect(200)).body
    expect(card.seconds).toBeGreaterThan(60)
    expect(card).toMatchObject({ stop: 0, ask: 0 })
    const picture = await request(app).get(`/api/jobs/${id}/card.png`).expect(200)
    expect((picture.body as Buffer).subarray(1, 4).toString()).toBe('PNG')
  })

  it('finds jobs by a part of their name, and takes wildcards as letters', async () => {
    await make()
    expect((await request(app).get('/api/jobs?search=clock').expect(200)).body.jobs.length).toBeGreaterThan(0)
    expect((await request(app).get('/api/jobs?search=%25').expect(200)).body.jobs).toEqual([])
  })

  it('refuses documents that do not hold together, from a newer version, or with a missing picture', async () => {
    const post = async (job: unknown): Promise<string> =>
      (await request(app).post('/api/jobs').send({ job }).expect(422)).body.message
    const job = jobOf()
    expect(await post({ ...job, version: 99 })).toMatch(/newer Neotaxis/)
    expect(await post({ ...job, runOrder: ['engrave', 'gone'] })).toMatch(/missing/)
    expect(await post({ ...job, operations: { ...job.operations, cut: { ...job.operations.cut, power: 3 } } })).toMatch(/power/)
    const source = { ...job.nodes.source, asset: 'f'.repeat(64) }
    expect(await post({ ...job, nodes: { ...job.nodes, source } })).toMatch(/Bring it in first/)
  })

  it('opens a job file again, and refuses damaged ones', async () => {
    const id = await make()
    const file = (
      await request(app)
        .get(`/api/jobs/${id}/file`)
        .buffer(true)
        .parse(binary as never)
        .expect(200)
    ).body as Buffer
    const again = (await request(app).post('/api/jobs/file').set('Content-Type', 'application/zip').send(file).expect(201)).body
    expect((await request(app).get(`/api/jobs/${again.id}`)).body.document).toEqual(jobOf())
    expect(
      (await request(app).post('/api/jobs/file').set('Content-Type', 'application/zip').send(file.subarray(0, 300)).expect(422))
        .body.message,
    ).toMatch(/damaged|not a Neotaxis/)
    const newer = Buffer.from(packJob({ ...jobOf(), version: JOB_VERSION + 1 }, () => face))
    expect(
      (await request(app).post('/api/jobs/file').set('Content-Type', 'application/zip').send(newer).expect(422)).body.message,
    ).toMatch(/newer/)
  })

  it('puts a job away and brings it back; copies it', async () => {
    const id = await make()
    await request(app).delete(`/api/jobs/${id}`).expect(204)
    await request(app).get(`/api/jobs/${id}`).expect(404)
    await request(app).post(`/api/jobs/${id}/restore`).expect(204)
    const copy = (await request(app).post(`/api/jobs/${id}/copy`).expect(201)).body
    expect(copy.name).toBe('Tide-clock face (copy)')
  })
})

const binary = (response: NodeJS.ReadableStream, done: (error: Error | null, body: Buffer) => void): void => {
  const parts: Buffer[] = []
  response.on('data', (part: Buffer) => parts.push(part))
  response.on('end', () => done(null, Buffer.concat(parts)))
}

describe('edits', () => {
  it('counts revisions, and takes an edit that is sent twice once', async () => {
    const id = await make()
    const edits = [powerEdit(jobOf(), 'cut', 0.5, 'a1')]
    const save = () => request(app).post(`/api/jobs/${id}/edits`).send({ base: 0, edits }).expect(200)
    expect((await save()).body).toMatchObject({ status: 'saved', revision: 1 })
    expect((await save()).body).toMatchObject({ status: 'saved', revision: 1, missed: [] })
    const { body } = await request(app).get(`/api/jobs/${id}`)
    expect(body.document.operations.cut.power).toBe(0.5)
    expect(body.edits).toHaveLength(1)
  })

  it('puts edits of another page on top where they touch other things', async () => {
    const id = await make()
    await request(app)
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 0, edits: [powerEdit(jobOf(), 'cut', 0.5, 'one')] })
      .expect(200)
    const { body } = await request(app)
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 0, edits: [powerEdit(jobOf(), 'engrave', 0.4, 'two')] })
      .expect(200)
    expect(body).toMatchObject({ status: 'rebased', revision: 2 })
    expect(body.missed.map((edit: Edit) => edit.id)).toEqual(['one'])
    const { operations } = (await request(app).get(`/api/jobs/${id}`)).body.document
    expect([operations.cut.power, operations.engrave.power]).toEqual([0.5, 0.4])
  })

  it('keeps a branch where both touch the same, and loses neither', async () => {
    const id = await make()
    await request(app)
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 0, edits: [powerEdit(jobOf(), 'cut', 0.5, 'mine')] })
      .expect(200)
    const { body } = await request(app)
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 0, edits: [powerEdit(jobOf(), 'cut', 0.6, 'yours')] })
      .expect(200)
    expect(body.status).toBe('branched')
    const kept = (await request(app).get(`/api/jobs/${id}`)).body
    const branch = (await request(app).get(`/api/jobs/${body.branch}`)).body
    expect(kept.document.operations.cut.power).toBe(0.5)
    expect(branch.document.operations.cut.power).toBe(0.6)
    expect(branch.branchOf).toBe(id)
    expect(branch.edits.map((edit: Edit) => edit.id)).toEqual(['yours'])
  })

  it('refuses an edit that would break the job', async () => {
    const id = await make()
    const edit: Edit = { id: 'bad', name: 'bad', kind: 'edit', patches: [{ path: ['runOrder'], value: ['gone'] }], inverse: [] }
    await request(app)
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 0, edits: [edit] })
      .expect(422)
    const polluting = { ...edit, patches: [{ path: ['__proto__', 'x'], value: 1 }] }
    await request(app)
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 0, edits: [polluting] })
      .expect(422)
    await request(app)
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 7, edits: [edit] })
      .expect(409)
    await request(app).post(`/api/jobs/${id}/edits`).send({ base: 0, edits: [] }).expect(400)
    expect((await request(app).get(`/api/jobs/${id}`)).body.revision).toBe(0)
  })

  it('lets many pages save at once, each edit once', async () => {
    const id = await make()
    const answers = await Promise.all(
      Array.from({ length: 12 }, (_, i) => {
        const edit: Edit = {
          id: `p${i}`,
          name: 'meant',
          kind: 'edit',
          patches: [{ path: ['meant', `x${i}`], value: 'y' }],
          inverse: [{ path: ['meant', `x${i}`] }],
        }
        return request(app)
          .post(`/api/jobs/${id}/edits`)
          .send({ base: 0, edits: [edit] })
      }),
    )
    expect(answers.map(({ status }) => status)).toEqual(answers.map(() => 200))
    const { body } = await request(app).get(`/api/jobs/${id}`)
    expect(body.revision).toBe(12)
    expect(Object.keys(body.document.meant)).toHaveLength(12)
  })
})

describe('drawings and import rules', () => {
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="30mm" viewBox="0 0 40 30"><script>alert(1)</script><rect width="9" height="9"/></svg>'

  it('are kept as they came, and given out as text that no page runs', async () => {
    const { body } = await request(app)
      .post('/api/assets')
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from(svg))
      .expect(201)
    expect(body.drawing).toMatchObject({ widthMm: 9, heightMm: 9, shapes: 1 })
    const back = await request(app)
      .get(`/api/assets/${body.asset}`)
      .expect(200)
      .expect('Content-Type', /text\/plain/)
    expect(back.headers['x-content-type-options']).toBe('nosniff')
    expect(back.text).toBe(svg)
  })

  it('are those every shop begins with until it keeps its own, which go into its catalogue', async () => {
    expect((await request(app).get('/api/import-rules').expect(200)).body.rules).toEqual(FIRST_RULES)
    const own = [{ id: 'red', name: 'Red is scored', does: 'score', stroke: '#ff0000' }]
    for (const rules of [undefined, [{ id: 'x', name: 'x', does: 'burn' }], [{ ...own[0], stroke: 'red' }], [own[0], own[0]]])
      await request(app).put('/api/import-rules').send({ rules }).expect(400)
    expect((await request(app).get('/api/import-rules')).body.rules).toEqual(FIRST_RULES)
    await request(app).put('/api/import-rules').send({ rules: own }).expect(200)
    expect((await request(app).get('/api/import-rules')).body.rules).toEqual(own)
    expect((await request(app).get('/api/catalogue')).body.importRules).toEqual(own)
  })
})

describe('health and unknown addresses', () => {
  it('answers', async () => {
    expect((await request(app).get('/api/health').expect(200)).body).toEqual({ status: 'ok', database: 'ok' })
    expect((await request(app).get('/api/nothing').expect(404)).body.message).toMatch(/nothing at this address/)
    expect((await request(app).get('/api/assets/../../etc/passwd').expect(404)).body.code).toBe('no-route')
    await request(app).get('/api/jobs/a%20b').expect(400)
  })
})

describe('fonts', () => {
  it('ship, and the shop’s own come in as assets; broken ones are refused', async () => {
    const { body } = await request(app).get('/api/fonts').expect(200)
    expect(body.fonts.length).toBeGreaterThanOrEqual(6)
    const { asset: shipped } = body.fonts[0]
    const font = (await request(app).get(`/api/assets/${shipped}`).expect(200)).body as Buffer
    const send = (bytes: Buffer) => request(app).post('/api/assets').set('Content-Type', 'application/octet-stream').send(bytes)
    await send(font.subarray(0, 4000)).expect(422)
    expect((await send(font).expect(201)).body.font.name).toBeTruthy()
    // One that ships does not become one's own.
    const again = (await request(app).get('/api/fonts')).body.fonts
    expect(again).toEqual(body.fonts)
  })
})

describe('the library', () => {
  const licence = { name: 'own work', sell: true, change: true, credit: '' }
  const keep = (words: object) =>
    request(app)
      .post('/api/library')
      .send({ asset, name: 'Tide clock', tags: ['clock'], origin: 'drawn', licence, ...words })

  it('keeps artwork with a small picture, finds it by its words, and knows the jobs that use it', async () => {
    const { body } = await keep({}).expect(201)
    expect(body).toMatchObject({ name: 'Tide clock', tags: ['clock'], facts: { widthPx: 400 } })
    const picture = await request(app).get(`/api/library/${body.id}/picture`).expect(200).expect('Content-Type', 'image/png')
    expect((picture.body as Buffer).readUInt32BE(16)).toBe(320)
    const find = async (search: string) => (await request(app).get(`/api/library?search=${search}`)).body.artwork.length
    expect([await find('clock'), await find('tide'), await find('100%25')]).toEqual([1, 1, 0])
    const id = await make()
    const { body: used } = await request(app).get(`/api/library/${body.id}/jobs`).expect(200)
    expect(used.jobs.map((job: { id: string }) => job.id)).toContain(id)
    // Kept twice under one name it is one.
    expect((await keep({}).expect(201)).body.id).toBe(body.id)
  })

  it('takes other words, puts away and brings back, and refuses what it cannot keep', async () => {
    const { body } = await keep({ name: 'Clock face' }).expect(201)
    const lent = { ...licence, sell: false }
    await request(app)
      .patch(`/api/library/${body.id}`)
      .send({ tags: ['a', 'b'], licence: lent })
      .expect(200)
    const all = async () => (await request(app).get('/api/library?search=face')).body.artwork
    expect(await all()).toMatchObject([{ tags: ['a', 'b'], licence: lent, origin: 'drawn' }])
    await request(app)
      .patch(`/api/library/${body.id}`)
      .send({ tags: [''] })
      .expect(400)
    await request(app).delete(`/api/library/${body.id}`).expect(204)
    expect(await all()).toEqual([])
    await request(app).post(`/api/library/${body.id}/restore`).expect(204)
    expect(await all()).toHaveLength(1)
    await keep({ name: 'none', asset: 'f'.repeat(64) }).expect(404)
    const [{ asset: font }] = (await request(app).get('/api/fonts')).body.fonts
    await keep({ name: 'a font', asset: font }).expect(422)
  })
})
