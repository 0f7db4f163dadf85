// Jobs and runs that an older version left in the database: they come up on every read, and go on.
import { readFileSync } from 'node:fs'
import {
  burnOrder,
  JOB_VERSION,
  type JobDocument,
  type KeptEdit,
  MATERIALS,
  type Material,
  type Recipe,
  standingOf,
} from '@neotaxis/core'
import { strFromU8, unzipSync } from 'fflate'
import { QueryTypes } from 'sequelize'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { broughtUp } from './jobs/earlier-edits.ts'
import { up } from './migrations/0007-jobs-of-version-5.ts'
import { Job, MaterialRow, RecipeRow, Revision } from './models/index.ts'
import { Run } from './models/runs.ts'
import { openShop, type Shop } from './testing/shop.ts'

const BRIEF = JSON.stringify({ workpiece: { widthMm: 60, heightMm: 40, thicknessMm: 3 }, material: 'Birch', machine: 'Bench' })

const written = (name: string): string =>
  strFromU8(unzipSync(readFileSync(new URL(`../../core/src/job/upgrade/written/${name}`, import.meta.url)))['job.json'])

let shop: Shop
beforeAll(async () => {
  shop = await openShop({ name: 'upgrade' })
}, 120_000)
afterAll(() => shop.end())

/** Puts a job into the database as version 4 left it, with one edit behind it. */
async function leftBy4(id: string, document: string): Promise<void> {
  await Job.create({ id, name: 'Old', revision: 1, branchOf: null, document, brief: BRIEF })
  const patches = JSON.stringify([{ path: ['onBed', 'xMm'], value: 12 }])
  await Revision.create({
    jobId: id,
    revision: 1,
    editId: `e${id}`,
    name: 'on the bed',
    kind: 'edit',
    ofEdit: null,
    patches,
    inverse: patches,
  })
}

/** The migration over what is there, as it runs when a server of this version starts on an older database. */
async function migrated(): Promise<void> {
  const tables = Job.sequelize!.getQueryInterface()
  for (const column of ['historyFrom', 'earlier', 'trouble']) await tables.removeColumn('jobs', column)
  await up(tables)
}

interface Opened {
  readonly revision: number
  readonly document: JobDocument
  readonly edits: readonly KeptEdit[]
}

describe('a database of version 4', () => {
  it('comes up: each job by itself, its history anew; one that cannot stays as it was and says why', async () => {
    const old = written('v4-by-rules.neotaxis')
    const broken = JSON.stringify({ ...JSON.parse(old), operations: { cut: { kind: 'polish' } } })
    // Columns of this version are not there yet while rows are written: they are taken away first.
    await leftBy4('old', old)
    await leftBy4('broken', broken)
    await leftBy4('torn', '{"format":')
    await migrated()

    const { body: list } = await shop.ask.get('/api/jobs').expect(200)
    const named = new Map((list.jobs as { id: string; trouble: string | null }[]).map((job) => [job.id, job.trouble]))
    expect(named.get('old')).toBeNull()
    expect(named.get('broken')).toMatch(/does not hold together.*process/)
    expect(named.get('torn')).toBe('Its document cannot be read.')

    const opened = (await shop.ask.get('/api/jobs/old').expect(200)).body as Opened
    expect(opened.document.version).toBe(JOB_VERSION)
    expect(opened).toMatchObject({ revision: 2, edits: [] })
    expect(burnOrder(opened.document)).toEqual(JSON.parse(old).runOrder)
    // What was there is kept to look at.
    const [kept] = await Job.sequelize!.query<{ earlier: string }>('SELECT earlier FROM jobs WHERE id = "old"', {
      type: QueryTypes.SELECT,
    })
    expect(kept.earlier).toBe(old)
    expect(await Revision.count({ where: { jobId: 'old' } })).toBe(1)

    // One that cannot come up is neither opened nor lost: its file has it byte for byte.
    expect((await shop.ask.get('/api/jobs/broken').expect(422)).body.message).toContain('It stays as it was')
    const file = await shop.ask
      .get('/api/jobs/broken/file')
      .buffer(true)
      .parse((response, done) => {
        const parts: Buffer[] = []
        response.on('data', (part: Buffer) => parts.push(part))
        response.on('end', () => done(null, Buffer.concat(parts)))
      })
    expect(strFromU8(unzipSync(new Uint8Array(file.body))['job.json'])).toBe(broken)
  })

  it('is edited, undone, and takes what a page of version 4 still sends', async () => {
    const send = (base: number, edits: readonly object[]) => shop.ask.post('/api/jobs/old/edits').send({ base, edits })
    const power = { id: 'p1', name: 'power', kind: 'edit', patches: [{ path: ['operations', 'cut', 'power'], value: 0.4 }] }
    expect((await send(2, [power]).expect(200)).body).toMatchObject({ status: 'saved', revision: 3 })
    const undo = { id: 'u1', name: 'power', kind: 'undo', of: 'p1', patches: [] }
    expect((await send(3, [undo]).expect(200)).body).toMatchObject({ status: 'saved', revision: 4 })
    const late = { id: 'l1', name: 'lies elsewhere', kind: 'edit', patches: [{ path: ['onBed', 'yMm'], value: 41 }] }
    expect((await send(1, [late]).expect(200)).body).toMatchObject({ status: 'saved', revision: 5 })
    const back = { id: 'b1', name: 'on the bed', kind: 'undo', of: 'eold', patches: [] }
    expect((await send(1, [back]).expect(200)).body).toMatchObject({ status: 'refused' })
    expect((await send(5, [{ ...back, id: 'b2' }]).expect(200)).body).toMatchObject({ status: 'refused' })
    const { document, edits } = (await shop.ask.get('/api/jobs/old').expect(200)).body as Opened
    expect(document.workpieces.piece.pose.yMm).toBe(41)
    expect(edits.map(({ id }) => id)).toEqual(['p1', 'u1', 'l1'])
    // A copy begins with what it is now.
    expect((await shop.ask.post('/api/jobs/old/copy').expect(201)).body.trouble).toBeNull()
  })

  it('has runs whose documents come up where the journal shows them', async () => {
    const document = written('v4-stencil.neotaxis')
    const job = JSON.parse(document)
    await Run.create({
      id: 'oldrun',
      jobId: 'old',
      jobRevision: 1,
      parentId: null,
      machineId: job.machine.id,
      name: 'Old',
      operator: 'Mara',
      phase: 'done',
      reason: '',
      document,
      brief: JSON.stringify({ workpiece: job.workpiece, material: job.material.name, machine: job.machine.name }),
      scope: '{}',
      answers: '[]',
      place: null,
      lines: 10,
      estimateSeconds: 5,
      seconds: 5,
      operations: '[]',
      bounds: null,
      looks: '{}',
      closing: '[]',
      rating: null,
      note: '',
      photo: null,
      startedAt: new Date(),
      endedAt: new Date(),
    })
    const { body } = await shop.ask.get('/api/runs/oldrun').expect(200)
    expect(body.document.version).toBe(JOB_VERSION)
    expect(body.workpiece).toMatchObject({ widthMm: 200, heightMm: 150 })
  })
})

it('materials and recipes of an older catalogue come up where they are read, and what is said of an old run becomes evidence', async () => {
  const id = 'birch-ply-3-cut'
  const [{ layers, ...material }, { evidence: _, ...recipe }] = [MATERIALS[0], MATERIALS[0].recipes[1]]
  const [{ markDose, curves }] = layers
  await MaterialRow.update(
    { document: JSON.stringify({ ...material, markDose, curves, recipes: [] }) },
    { where: { id: material.id } },
  )
  await RecipeRow.update({ document: JSON.stringify({ ...recipe, proof: { kind: 'proven', times: 3 } }) }, { where: { id } })
  const read = async (): Promise<{ material: Material; recipe: Recipe }> => {
    const { materials } = (await shop.ask.get('/api/materials').expect(200)).body as { materials: Material[] }
    const found = materials.find((one) => one.id === material.id)!
    return { material: found, recipe: found.recipes.find((one) => one.id === id)! }
  }
  const before = await read()
  expect(before.material.layers).toEqual([{ name: material.name, thicknessMm: 3, markDose, curves }])
  expect(standingOf(before.recipe)).toMatchObject({ kind: 'proven', times: 3 })
  expect((await shop.ask.get('/api/catalogue').expect(200)).body.materials[0]).toHaveProperty('layers')

  const job = JSON.parse((await Run.findByPk('oldrun'))!.document)
  const [cut] = Object.keys(job.operations).filter((key) => job.operations[key].kind === 'cut')
  job.operations[cut] = {
    ...job.operations[cut],
    recipe: id,
    power: recipe.power,
    speedMmS: recipe.speedMmS,
    passes: 1,
    air: true,
  }
  job.machine.id = recipe.machine
  await Run.update({ document: JSON.stringify(job) }, { where: { id: 'oldrun' } })
  await shop.ask
    .patch('/api/runs/oldrun')
    .send({ looks: { [cut]: { answer: 'yes' } } })
    .expect(200)
  expect(standingOf((await read()).recipe)).toMatchObject({ kind: 'proven', times: 4 })

  // What cannot be read as a job proves nothing, and what was said of it is kept.
  await Run.update({ document: '{"format":' }, { where: { id: 'oldrun' } })
  const said = await shop.ask.patch('/api/runs/oldrun').send({ looks: { [cut]: { answer: 'no' } } })
  expect([said.status, said.body.looks[cut].answer]).toEqual([200, 'no'])
  expect(standingOf((await read()).recipe)).toMatchObject({ kind: 'proven', times: 4 })
})

it('edits that do not fit the older document are told apart, never half made', () => {
  const earlier = written('v4-stencil.neotaxis')
  const edit = (path: string[], value: unknown) => ({ id: 'x', name: 'x', kind: 'edit', patches: [{ path, value }] }) as const
  expect(broughtUp(earlier, [edit(['gone', 'deeper'], 1)])).toBeUndefined()
  const [made] = broughtUp(earlier, [edit(['runOrder'], [])])!
  expect(made.patches.map(({ path }) => path[0])).toContain('order')
  expect(broughtUp(earlier, [{ ...edit([], 1), kind: 'undo', of: 'y' }])).toBeUndefined()
})
