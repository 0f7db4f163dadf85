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
import type { Sequelize } from 'sequelize'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { fillFonts } from './fonts.ts'
import { openShop, type Shop } from './testing/shop.ts'

let shop: Shop
let ask: TestAgent
let sequelize: Sequelize
let face: Uint8Array
let asset: string
let job: JobDocument

beforeAll(async () => {
  shop = await openShop({ name: 'api' })
  ;({ sequelize, ask } = shop)
  await fillFonts()
  face = encodePng(tideClockFace(400))
  asset = (await ask.post('/api/assets').set('Content-Type', 'application/octet-stream').send(Buffer.from(face)).expect(201)).body
    .asset
  job = tideClockJob({ name: 'tide-clock-face.png', asset, widthPx: 400, heightPx: 400, hasAlpha: false })
})
afterAll(async () => {
  await shop.end()
})

const jobOf = (): JobDocument => job
const make = async (): Promise<string> => (await ask.post('/api/jobs').send({ job: jobOf() }).expect(201)).body.id
const powerEdit = (job: JobDocument, operation: string, power: number, id: string): Edit =>
  editFrom(job, withOperation(job, operation, { power }), `power ${power}`, id)

describe('assets', () => {
  it('are drawings as they came, and in plain terms for whoever reads them', async () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="20mm" height="10mm" viewBox="0 0 20 10"><style>.a{fill:#123456}</style><g id="a"><rect class="a" width="5" height="5"/></g><use href="#a" x="9"/></svg>'
    const { body } = await ask
      .post('/api/assets')
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from(svg))
      .expect(201)
    expect(body.drawing).toMatchObject({ widthMm: 14, heightMm: 5, shapes: 2 })
    const kept = await ask.get(`/api/assets/${body.asset}`).expect(200)
    expect(kept.text).toBe(svg)
    const plain = await ask.get(`/api/assets/${body.asset}/plain`).expect(200).expect('Cache-Control', 'no-cache')
    expect(plain.text.match(/fill="#123456"/g)).toHaveLength(2)
    expect(plain.text).not.toMatch(/<style|<use/)
    // A picture is the same either way.
    const [as, read] = await Promise.all(
      [`/api/assets/${asset}`, `/api/assets/${asset}/plain`].map((path) => ask.get(path).expect(200)),
    )
    expect(read.body).toEqual(as.body)
    await ask.get(`/api/assets/${'0'.repeat(64)}/plain`).expect(404)
  })

  it('keeps a picture under its SHA-256 and gives it back byte for byte', async () => {
    const { body } = await ask.get(`/api/assets/${asset}`).expect(200).expect('Content-Type', 'image/png')
    expect(Buffer.compare(body as Buffer, Buffer.from(face))).toBe(0)
  })

  it('keeps large pictures whole, in chunks', async () => {
    const samples = Uint8Array.from(
      { length: 2200 * 2200 },
      (_, i) => (Math.imul(Math.imul(i ^ (i >>> 7), 2654435761) ^ (i << 5), 2246822519) >>> 15) & 255,
    )
    const png = Buffer.from(encodePng({ widthPx: 2200, heightPx: 2200, channels: 1, samples, full: 255 }))
    expect(png.length).toBeGreaterThan(3_000_000)
    const { body } = await ask.post('/api/assets').set('Content-Type', 'application/octet-stream').send(png).expect(201)
    const back = await ask.get(`/api/assets/${body.asset}`).expect(200)
    expect(Buffer.compare(back.body as Buffer, png)).toBe(0)
  })

  it('refuses what is no picture, and keeps nothing of it', async () => {
    const count = async (): Promise<unknown> => (await sequelize.query('SELECT COUNT(*) AS n FROM assets'))[0]
    const before = await count()
    const giant = Buffer.from(face)
    giant.writeUInt32BE(60_000, 16)
    giant.writeUInt32BE(60_000, 20)
    for (const bytes of [Buffer.from('no picture'), Buffer.from(face.subarray(0, face.length / 2)), giant]) {
      const { body } = await ask.post('/api/assets').set('Content-Type', 'application/octet-stream').send(bytes).expect(422)
      expect(body.message).toMatch(/^[A-Z].*\.$/)
    }
    await ask.post('/api/assets').set('Content-Type', 'application/octet-stream').send(Buffer.alloc(0)).expect(400)
    expect(await count()).toEqual(before)
  })
})

describe('jobs', () => {
  it('gives back what was made, with a card that is planned and painted', async () => {
    const id = await make()
    const { body } = await ask.get(`/api/jobs/${id}`).expect(200)
    expect(body.document).toEqual(jobOf())
    const card = (await ask.get(`/api/jobs/${id}/card`).expect(200)).body
    expect(card.seconds).toBeGreaterThan(60)
    expect(card).toMatchObject({ stop: 0, ask: 0 })
    // From then on the board's list brings it along; what was changed since is asked for anew.
    const inList = async () => (await ask.get('/api/jobs')).body.jobs.find((each: { id: string }) => each.id === id)
    expect((await inList()).card).toEqual(card)
    const picture = await ask.get(`/api/jobs/${id}/card.png`).expect(200)
    expect((picture.body as Buffer).subarray(1, 4).toString()).toBe('PNG')
  })

  it('finds jobs by a part of their name, and takes wildcards as letters', async () => {
    await make()
    expect((await ask.get('/api/jobs?search=clock').expect(200)).body.jobs.length).toBeGreaterThan(0)
    expect((await ask.get('/api/jobs?search=%25').expect(200)).body.jobs).toEqual([])
  })

  it('refuses documents that do not hold together, from a newer version, or with a missing picture', async () => {
    const post = async (job: unknown): Promise<string> => (await ask.post('/api/jobs').send({ job }).expect(422)).body.message
    const job = jobOf()
    expect(await post({ ...job, version: 99 })).toMatch(/newer Neotaxis/)
    expect(await post({ ...job, order: ['engrave', 'gone'] })).toMatch(/missing/)
    expect(await post({ ...job, operations: { ...job.operations, cut: { ...job.operations.cut, power: 3 } } })).toMatch(/power/)
    const source = { ...job.nodes.source, asset: 'f'.repeat(64) }
    expect(await post({ ...job, nodes: { ...job.nodes, source } })).toMatch(/Bring it in first/)
  })

  it('opens a job file again, and refuses damaged ones', async () => {
    const id = await make()
    const file = (
      await ask
        .get(`/api/jobs/${id}/file`)
        .buffer(true)
        .parse(binary as never)
        .expect(200)
    ).body as Buffer
    const again = (await ask.post('/api/jobs/file').set('Content-Type', 'application/zip').send(file).expect(201)).body
    expect((await ask.get(`/api/jobs/${again.id}`)).body.document).toEqual(jobOf())
    expect(
      (await ask.post('/api/jobs/file').set('Content-Type', 'application/zip').send(file.subarray(0, 300)).expect(422)).body
        .message,
    ).toMatch(/damaged|not a Neotaxis/)
    const newer = Buffer.from(packJob({ ...jobOf(), version: JOB_VERSION + 1 }, () => face))
    expect(
      (await ask.post('/api/jobs/file').set('Content-Type', 'application/zip').send(newer).expect(422)).body.message,
    ).toMatch(/newer/)
  })

  it('puts a job away and brings it back; copies it', async () => {
    const id = await make()
    await ask.delete(`/api/jobs/${id}`).expect(204)
    await ask.get(`/api/jobs/${id}`).expect(404)
    await ask.post(`/api/jobs/${id}/restore`).expect(204)
    const copy = (await ask.post(`/api/jobs/${id}/copy`).expect(201)).body
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
    const save = () => ask.post(`/api/jobs/${id}/edits`).send({ base: 0, edits }).expect(200)
    expect((await save()).body).toMatchObject({ status: 'saved', revision: 1 })
    expect((await save()).body).toMatchObject({ status: 'saved', revision: 1, edits: [{ id: 'a1' }] })
    const { body } = await ask.get(`/api/jobs/${id}`)
    expect(body.document.operations.cut.power).toBe(0.5)
    expect(body.edits).toHaveLength(1)
  })

  it('puts edits of another page on top where they touch other things', async () => {
    const id = await make()
    await ask
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 0, edits: [powerEdit(jobOf(), 'cut', 0.5, 'one')] })
      .expect(200)
    const { body } = await ask
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 0, edits: [powerEdit(jobOf(), 'engrave', 0.4, 'two')] })
      .expect(200)
    expect(body).toMatchObject({ status: 'saved', base: 0, revision: 2 })
    expect(body.edits.map((edit: Edit) => edit.id)).toEqual(['one', 'two'])
    const { operations } = (await ask.get(`/api/jobs/${id}`)).body.document
    expect([operations.cut.power, operations.engrave.power]).toEqual([0.5, 0.4])
  })

  it('keeps a branch where both touch the same, and loses neither', async () => {
    const id = await make()
    await ask
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 0, edits: [powerEdit(jobOf(), 'cut', 0.5, 'mine')] })
      .expect(200)
    const { body } = await ask
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 0, edits: [powerEdit(jobOf(), 'cut', 0.6, 'yours')] })
      .expect(200)
    expect(body.status).toBe('branched')
    const kept = (await ask.get(`/api/jobs/${id}`)).body
    const branch = (await ask.get(`/api/jobs/${body.branch}`)).body
    expect(kept.document.operations.cut.power).toBe(0.5)
    expect(branch.document.operations.cut.power).toBe(0.6)
    expect(branch.branchOf).toBe(id)
    expect(branch.edits.map((edit: Edit) => edit.id)).toEqual(['yours'])
  })

  it('refuses an edit that would break the job, names it, and keeps nothing of what came with it', async () => {
    const id = await make()
    const send = (base: number, ...edits: Edit[]) => ask.post(`/api/jobs/${id}/edits`).send({ base, edits })
    const bad: Edit = { id: 'bad', name: 'bad', kind: 'edit', patches: [{ path: ['order'], value: ['gone'] }] }
    const polluting: Edit = { ...bad, patches: [{ path: ['__proto__', 'x'], value: 1 }] }
    for (const edit of [bad, polluting]) {
      const { body } = await send(0, powerEdit(jobOf(), 'cut', 0.5, 'good'), edit).expect(200)
      expect(body).toMatchObject({ status: 'refused', edit: 'bad', message: expect.stringMatching(/^[A-Z“].*\.$/) })
    }
    await send(7, bad).expect(409)
    await send(0).expect(400)
    await send(0, { ...bad, of: 'x' }).expect(400)
    expect((await ask.get(`/api/jobs/${id}`)).body.revision).toBe(0)
  })

  it('work out the way back themselves: what a page says of it is not asked for', async () => {
    const id = await make()
    const edit = powerEdit(jobOf(), 'cut', 0.5, 'one')
    await ask
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 0, edits: [{ ...edit, inverse: [] }] })
      .expect(400)
    await ask
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 0, edits: [edit] })
      .expect(200)
    // Its patches are made up: the server knows what “one” did.
    const undo = { id: 'u', name: 'power', kind: 'undo', of: 'one', patches: [{ path: ['name'], value: 'Stolen' }] }
    await ask
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 1, edits: [undo] })
      .expect(200)
    expect((await ask.get(`/api/jobs/${id}`)).body.document).toEqual(jobOf())
  })

  it('make one branch of a save whose answer was lost, with what was made since on top', async () => {
    const id = await make()
    const send = (base: number, ...edits: Edit[]) => ask.post(`/api/jobs/${id}/edits`).send({ base, edits }).expect(200)
    await send(0, powerEdit(jobOf(), 'cut', 0.5, 'theirs'))
    const mine = powerEdit(jobOf(), 'cut', 0.6, 'mine')
    const first = (await send(0, mine)).body
    const later = powerEdit(withOperation(jobOf(), 'cut', { power: 0.6 }), 'engrave', 0.3, 'later')
    const again = (await send(0, mine, later)).body
    expect([first.status, again.status, again.branch]).toEqual(['branched', 'branched', first.branch])
    const { body } = await ask.get(`/api/jobs/${first.branch}`)
    expect(body.edits.map((edit: Edit) => edit.id)).toEqual(['mine', 'later'])
    expect(body.revision).toBe(again.revision)
    const branches = (await ask.get('/api/jobs')).body.jobs.filter((one: { branchOf: string }) => one.branchOf === id)
    expect(branches).toHaveLength(1)
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
        }
        return ask.post(`/api/jobs/${id}/edits`).send({ base: 0, edits: [edit] })
      }),
    )
    expect(answers.map(({ status }) => status)).toEqual(answers.map(() => 200))
    const { body } = await ask.get(`/api/jobs/${id}`)
    expect(body.revision).toBe(12)
    expect(Object.keys(body.document.meant)).toHaveLength(12)
  })
})

describe('drawings and import rules', () => {
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="30mm" viewBox="0 0 40 30"><script>alert(1)</script><rect width="9" height="9"/></svg>'

  it('are kept as they came, and given out as text that no page runs', async () => {
    const { body } = await ask
      .post('/api/assets')
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from(svg))
      .expect(201)
    expect(body.drawing).toMatchObject({ widthMm: 9, heightMm: 9, shapes: 1 })
    const back = await ask
      .get(`/api/assets/${body.asset}`)
      .expect(200)
      .expect('Content-Type', /text\/plain/)
    expect(back.headers['x-content-type-options']).toBe('nosniff')
    expect(back.text).toBe(svg)
  })

  it('are those every shop begins with until it keeps its own, which go into its catalogue', async () => {
    expect((await ask.get('/api/import-rules').expect(200)).body.rules).toEqual(FIRST_RULES)
    const own = [{ id: 'red', name: 'Red is scored', does: 'score', stroke: '#ff0000' }]
    for (const rules of [undefined, [{ id: 'x', name: 'x', does: 'burn' }], [{ ...own[0], stroke: 'red' }], [own[0], own[0]]])
      await ask.put('/api/import-rules').send({ rules }).expect(400)
    expect((await ask.get('/api/import-rules')).body.rules).toEqual(FIRST_RULES)
    await ask.put('/api/import-rules').send({ rules: own }).expect(200)
    expect((await ask.get('/api/import-rules')).body.rules).toEqual(own)
    expect((await ask.get('/api/catalogue')).body.importRules).toEqual(own)
  })
})

describe('health and unknown addresses', () => {
  it('answers', async () => {
    expect((await ask.get('/api/health').expect(200)).body).toEqual({ status: 'ok', database: 'ok' })
    expect((await ask.get('/api/nothing').expect(404)).body.message).toMatch(/nothing at this address/)
    expect((await ask.get('/api/assets/../../etc/passwd').expect(404)).body.code).toBe('no-route')
    await ask.get('/api/jobs/a%20b').expect(400)
  })
})

describe('fonts', () => {
  it('ship, and the shop’s own come in as assets; broken ones are refused', async () => {
    const { body } = await ask.get('/api/fonts').expect(200)
    expect(body.fonts.length).toBeGreaterThanOrEqual(6)
    const { asset: shipped } = body.fonts[0]
    const font = (await ask.get(`/api/assets/${shipped}`).expect(200)).body as Buffer
    const send = (bytes: Buffer) => ask.post('/api/assets').set('Content-Type', 'application/octet-stream').send(bytes)
    await send(font.subarray(0, 4000)).expect(422)
    expect((await send(font).expect(201)).body.font.name).toBeTruthy()
    // One that ships does not become one's own.
    const again = (await ask.get('/api/fonts')).body.fonts
    expect(again).toEqual(body.fonts)
  })
})

describe('the library', () => {
  const licence = { name: 'own work', sell: true, change: true, credit: '' }
  const keep = (words: object) =>
    ask.post('/api/library').send({ asset, name: 'Tide clock', tags: ['clock'], origin: 'drawn', licence, ...words })

  it('keeps artwork with a small picture, finds it by its words, and knows the jobs that use it', async () => {
    const { body } = await keep({}).expect(201)
    expect(body).toMatchObject({ name: 'Tide clock', tags: ['clock'], facts: { widthPx: 400 } })
    const picture = await ask.get(`/api/library/${body.id}/picture`).expect(200).expect('Content-Type', 'image/png')
    expect((picture.body as Buffer).readUInt32BE(16)).toBe(320)
    const find = async (search: string) => (await ask.get(`/api/library?search=${search}`)).body.artwork.length
    expect([await find('clock'), await find('tide'), await find('100%25')]).toEqual([1, 1, 0])
    const id = await make()
    const { body: used } = await ask.get(`/api/library/${body.id}/jobs`).expect(200)
    expect(used.jobs.map((job: { id: string }) => job.id)).toContain(id)
    // Kept twice under one name it is one.
    expect((await keep({}).expect(201)).body.id).toBe(body.id)
  })

  it('takes other words, puts away and brings back, and refuses what it cannot keep', async () => {
    const { body } = await keep({ name: 'Clock face' }).expect(201)
    const lent = { ...licence, sell: false }
    await ask
      .patch(`/api/library/${body.id}`)
      .send({ tags: ['a', 'b'], licence: lent })
      .expect(200)
    const all = async () => (await ask.get('/api/library?search=face')).body.artwork
    expect(await all()).toMatchObject([{ tags: ['a', 'b'], licence: lent, origin: 'drawn' }])
    await ask
      .patch(`/api/library/${body.id}`)
      .send({ tags: [''] })
      .expect(400)
    await ask.delete(`/api/library/${body.id}`).expect(204)
    expect(await all()).toEqual([])
    await ask.post(`/api/library/${body.id}/restore`).expect(204)
    expect(await all()).toHaveLength(1)
    await keep({ name: 'none', asset: 'f'.repeat(64) }).expect(404)
    const [{ asset: font }] = (await ask.get('/api/fonts')).body.fonts
    await keep({ name: 'a font', asset: font }).expect(422)
  })
})
